/** Shows a proposal until a person agrees to it. */
import { corrected, type ProposalCorrection } from "../core/catalogue/proposal/corrections.js";
import type { SourceProposal } from "../core/catalogue/proposal/source-proposal.js";
import { columnSynonyms, isAttributeName, vocabulary } from "../core/catalogue/vocabulary.js";
import { nearest } from "../core/values/nearest.js";
import { fold } from "../core/values/text.js";
import { unitOf } from "../core/values/units.js";
import type { OpenProposal } from "../flow/import/import-files.js";
import type { Io } from "../io/io.js";
import { proposalLines } from "./import-report.js";
import { styleFor } from "./style.js";

const FOUND = 8;

/** Attributes of ours that words may mean: by their names, and by what else columns are called. */
function attributesLike(words: string): readonly string[] {
  const wanted = fold(words);
  const within = [...columnSynonyms].flatMap(([synonym, attribute]) =>
    synonym.includes(wanted) || attribute.replaceAll("_", " ").includes(wanted) ? [attribute] : [],
  );
  return [...new Set([...within, ...nearest(words, vocabulary)])].slice(0, FOUND);
}

const usage = (
  [
    ["Enter or y", "keep it so and read the file", "n", "leave it"],
    ["3 price", "line 3 is the price", "3 -", "leave line 3 out"],
    ["3 unit kg", "bare numbers of line 3 are kg", "3 lang de", "line 3 is in German"],
    ["3 key", "products are found by line 3", "? words", "attributes like these words"],
  ] as const
).map(
  ([typed, does, other, otherDoes]) => `${typed.padEnd(12)}${does.padEnd(34)}${other.padEnd(12)}${otherDoes}`,
);

/** A line as a person writes it: `3 price`, `3 -`, `3 unit kg`; or what is wrong with it. */
export function correctionIn(text: string): ProposalCorrection | string {
  const [, number = "", rest = ""] = /^(\d{1,4})\s*(.*)$/.exec(text.trim()) ?? [];
  const line = Number(number);
  if (number === "") return 'write a line\'s number and what it is, such as "3 price"';
  if (rest === "-") return { correct: "skip", line };
  if (rest === "key") return { correct: "key", line };
  const [word = "", value = ""] = rest.split(/\s+/);
  if (word === "unit") {
    const unit = unitOf(value);
    return unit === undefined
      ? `"${value}" is no unit that is known`
      : { correct: "unit", line, unit: unit.code };
  }
  if (word === "lang")
    return /^[a-z]{2}(-[A-Za-z0-9]{2,8})?$/.test(value)
      ? { correct: "language", line, language: value }
      : `"${value}" is no language's short name, such as de`;
  if (isAttributeName(rest)) return { correct: "attribute", line, attribute: rest };
  const [close] = attributesLike(rest);
  return `"${rest}" is no attribute's name${close === undefined ? "" : `; nearest: ${attributesLike(rest).join(", ")}`}`;
}

/** Shows a proposal until a person agrees to it, each time with what they corrected. */
export async function askProposal(open: OpenProposal, io: Io): Promise<SourceProposal | undefined> {
  let { proposal, source } = open;
  const style = styleFor(io);
  const show = (): void => io.out(`${proposalLines(proposal, source, open, io).join("\n")}\n`);
  show();
  io.err(`${usage.map((line) => style.dim(line)).join("\n")}\n`);
  for (;;) {
    const line = await io.ask(`Keep this as sources/${source.name}.yaml? `);
    const answer = line?.trim() ?? "n";
    if (answer === "" || /^y(?:es)?$/i.test(answer)) return proposal;
    if (/^(?:n|no|q)$/i.test(answer)) return undefined;
    if (answer.startsWith("?")) {
      const words = answer.slice(1).trim();
      const found = words === "" ? [] : attributesLike(words);
      io.err(`${found.length > 0 ? found.join(", ") : usage.join("\n")}\n`);
      continue;
    }
    const correction = correctionIn(answer);
    const next = typeof correction === "string" ? undefined : corrected(proposal, correction);
    if (next === undefined) {
      io.err(
        `${typeof correction === "string" ? correction : "there is no such line, or it can have none"}\n`,
      );
      continue;
    }
    proposal = next;
    source = await open.remade(proposal);
    show();
  }
}
