import type { Io } from "../io/io.js";

/** What a person typed at a question with numbered choices. */
export type ReadChoice<Choice> =
  | { readonly kind: "choice"; readonly choice: Choice }
  | { readonly kind: "words"; readonly words: string }
  | { readonly kind: "skip" | "end" }
  /** They were told something; the question stands. */
  | { readonly kind: "again" };

/** Reads an answer; help and numbers that stand for nothing are answered here, and never looked for as words. */
export function readChoice<Choice>(
  line: string | undefined,
  choices: readonly Choice[],
  help: readonly string[],
  io: Io,
): ReadChoice<Choice> {
  const answer = line?.trim() ?? "q";
  if (answer === "q") return { kind: "end" };
  if (answer === "-") return { kind: "skip" };
  if (/^(?:\?+|h|help)$/i.test(answer)) {
    io.err(`${help.map((one) => `  ${one}`).join("\n")}\n`);
    return { kind: "again" };
  }
  if (answer !== "" && !/^[+-]?\d+$/.test(answer)) return { kind: "words", words: answer };
  const choice = choices[answer === "" ? 0 : Number(answer) - 1];
  if (choice !== undefined) return { kind: "choice", choice };
  io.err(
    choices.length === 0
      ? "There is nothing to choose from yet: type words to look for.\n"
      : `There ${choices.length === 1 ? "is 1" : `are 1 to ${choices.length}`}; "${answer}" is none of them.\n`,
  );
  return { kind: "again" };
}
