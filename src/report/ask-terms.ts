/** Asks term by term what each means on a channel. */
import { unlessBroken, type Answered } from "./answered.js";
import { readChoice } from "./read-choice.js";
import { nearest } from "../core/values/nearest.js";
import { countText } from "../core/diagnostics/phrases.js";
import type { Io } from "../io/io.js";
import { styleFor } from "./style.js";
import type { TermDecision } from "../flow/lexicon/terms-decided.js";
import type { UnknownTerm } from "../flow/lexicon/unknown-terms.js";

const FOUND = 6;

interface TermChoice {
  readonly value: string;
  readonly about: string;
}

/** Values that a person's words may mean: one of them said in full, those with the words in them, those spelt alike. */
function search(words: string, { list }: UnknownTerm): readonly TermChoice[] {
  const exact = list.match(words);
  const all = list.values.map(({ value }) => value);
  const within = all.filter((value) => value.toLowerCase().includes(words.toLowerCase()));
  return [...new Set([...(exact === undefined ? [] : [exact]), ...within, ...nearest(words, all)])]
    .slice(0, FOUND)
    .map((value) => ({ value, about: "" }));
}

type TermAnswer = { readonly value: string } | "left-open" | "stop";

const TERM_HELP = [
  "Enter     the first of the values shown",
  "2         the second, and so on",
  "red       words look among all values of the channel's list",
  "-         leave the term open",
  "q         end here; what was answered is kept",
];

/** Asks for one term; "stop": no more questions. */
async function askTerm(unknown: UnknownTerm, io: Io): Promise<TermAnswer> {
  const style = styleFor(io);
  const { field, term, products, sku, proposals } = unknown;
  let choices: readonly TermChoice[] = proposals.map(({ value, confidence, reason }) => ({
    value,
    about: `${Math.round(confidence * 100)}%, ${reason}`,
  }));
  for (;;) {
    io.err(
      `\n${style.bold(`${field.label}: "${term}"`)} (${countText(products, "product")}, such as ${sku})\n`,
    );
    choices.forEach(({ value, about }, at) => io.err(`  ${at + 1}  ${value}  ${style.dim(about)}\n`));
    const first = choices.length === 0 ? "" : "Enter accepts the first; a number another; ";
    const line = await io.ask(`${first}words search the values; - skips; q ends; ? helps: `);
    const read = readChoice(line, choices, TERM_HELP, io);
    if (read.kind === "end") return "stop";
    if (read.kind === "skip") return "left-open";
    if (read.kind === "choice") return { value: read.choice.value };
    if (read.kind !== "words") continue;
    const found = search(read.words, unknown);
    if (found.length === 0) io.err(`No value is like "${read.words}".\n`);
    else choices = found;
  }
}

/** Asks for one term after the other; each answer is kept at once. */
export async function askTerms(
  terms: readonly UnknownTerm[],
  category: string,
  io: Io,
  keep: (decision: TermDecision) => Promise<void>,
): Promise<Answered<TermDecision>> {
  const decided: TermDecision[] = [];
  for (const unknown of terms) {
    const answer = await unlessBroken(() => askTerm(unknown, io));
    if (answer === undefined) return { decided, isBroken: true };
    if (answer === "stop") break;
    if (answer === "left-open") continue;
    const decision = { field: unknown.field.code, term: unknown.term, value: answer.value, category };
    await keep(decision);
    decided.push(decision);
  }
  return { decided, isBroken: false };
}
