import { nearest } from "../core/values/nearest.js";
import { countText } from "../core/diagnostics/phrases.js";
import type { Io } from "../io/io.js";
import { styleFor } from "./style.js";
import type { TermDecision } from "../flow/lexicon/terms-decided.js";
import type { UnknownTerm } from "../flow/lexicon/unknown-terms.js";

const FOUND = 6;

interface Choice {
  readonly value: string;
  readonly about: string;
}

/** Values that a person's words may mean: one of them said in full, those with the words in them, those spelt alike. */
const search = (words: string, { list }: UnknownTerm): readonly Choice[] => {
  const exact = list.match(words);
  const all = list.values.map(({ value }) => value);
  const within = all.filter((value) => value.toLowerCase().includes(words.toLowerCase()));
  return [...new Set([...(exact === undefined ? [] : [exact]), ...within, ...nearest(words, all)])]
    .slice(0, FOUND)
    .map((value) => ({ value, about: "" }));
};

type TermAnswer = { readonly value: string } | "left-open" | "stop";

/** Asks for one term; "stop": no more questions. */
const askTerm = async (unknown: UnknownTerm, io: Io): Promise<TermAnswer> => {
  const style = styleFor(io);
  const { field, term, products, sku, proposals } = unknown;
  let choices: readonly Choice[] = proposals.map(({ value, confidence, reason }) => ({
    value,
    about: `${Math.round(confidence * 100)}%, ${reason}`,
  }));
  for (;;) {
    io.err(
      `\n${style.bold(`${field.label}: "${term}"`)} (${countText(products, "product")}, such as ${sku})\n`,
    );
    choices.forEach(({ value, about }, at) => io.err(`  ${at + 1}  ${value}  ${style.dim(about)}\n`));
    const first = choices.length === 0 ? "" : "Enter accepts the first; a number another; ";
    const line = await io.ask(`${first}words search the values; - skips; q ends: `);
    const answer = line?.trim() ?? "q";
    if (answer === "q") return "stop";
    if (answer === "-") return "left-open";
    const chosen = choices[answer === "" ? 0 : Number(answer) - 1];
    if ((answer === "" || /^\d+$/.test(answer)) && chosen !== undefined) return { value: chosen.value };
    choices = search(answer, unknown);
    if (choices.length === 0) io.err(`No value is like "${answer}".\n`);
  }
};

/** Asks for one term after the other; each answer is kept at once. */
export const askTerms = async (
  terms: readonly UnknownTerm[],
  category: string,
  io: Io,
  keep: (decision: TermDecision) => Promise<void>,
): Promise<readonly TermDecision[]> => {
  const decided: TermDecision[] = [];
  for (const unknown of terms) {
    const answer = await askTerm(unknown, io);
    if (answer === "stop") break;
    if (answer === "left-open") continue;
    const decision = { field: unknown.field.code, term: unknown.term, value: answer.value, category };
    await keep(decision);
    decided.push(decision);
  }
  return decided;
};
