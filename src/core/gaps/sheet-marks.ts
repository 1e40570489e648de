/** The marks by which a gap sheet is known again. */
import { askerText, readAsker, readTarget, targetKey, type WaitingField, type Target } from "./question.js";

/** How a gap sheet begins: what follows says for which shop and definitions it was made. */
export const GAP_MARK = "lexicant gap sheet 1";
/** The row whose answers count for every open cell below. */
export const FOR_ALL = "(same for all)";
/** What stands in a cell that is not asked, where a file has no colours. */
export const NOT_ASKED = "·";
/** Another row asks for the same term already. */
export const SAME_AS = "as for ";
/** Several values of one cell. */
export const SEVERAL = "|";

/** What a sheet says of itself. */
export interface SheetFacts {
  readonly shop: string;
  /** Versions of the definitions by channel. */
  readonly channels: Readonly<Record<string, string>>;
}

/** What a sheet says of itself, as a text. */
export const factsText = (facts: SheetFacts): string =>
  `${GAP_MARK} ${JSON.stringify({ shop: facts.shop, channels: facts.channels })}`;

/** Undefined where the text is none of ours, or was cut. */
export function readFacts(text: string): SheetFacts | undefined {
  if (!text.startsWith(`${GAP_MARK} `)) return undefined;
  try {
    const { shop, channels } = JSON.parse(text.slice(GAP_MARK.length)) as Partial<SheetFacts>;
    return typeof shop === "string" && typeof channels === "object" ? { shop, channels } : undefined;
  } catch {
    return undefined;
  }
}

/** What a column is for. */
export type ColumnMark =
  | { readonly column: "sku" | "row" | "help" }
  | { readonly column: "now" | "offer" | "take"; readonly question: number; readonly target: Target }
  | {
      readonly column: "ask";
      readonly question: number;
      readonly target: Target;
      readonly askers: readonly WaitingField[];
    };

/** What a column is for, as a text. */
export function markText(mark: Exclude<ColumnMark, { column: "sku" | "row" | "help" }>): string {
  return [
    mark.column,
    mark.question,
    targetKey(mark.target),
    ...(mark.column === "ask" ? mark.askers.map(askerText) : []),
  ].join(" ");
}

/** Reads the first row of a sheet, cell by cell: columns may have been moved or deleted. */
export function readMark(text: string): ColumnMark {
  if (text.startsWith(GAP_MARK)) return { column: "sku" };
  if (text === "row") return { column: "row" };
  const [column, number, ...rest] = text.split(" ");
  const target = readTarget(rest.join(" "));
  const question = Number(number);
  if (target === undefined || !Number.isInteger(question)) return { column: "help" };
  if (column === "now" || column === "offer" || column === "take") return { column, question, target };
  if (column !== "ask") return { column: "help" };
  const askers = rest.slice(target.kind === "attribute" ? 2 : 3).flatMap((word) => readAsker(word) ?? []);
  return { column, question, target, askers };
}

/** The hidden cell of a product's row: which questions are asked of which product, whatever is typed beside it. */
export const rowText = (sku: string, questions: readonly number[]): string =>
  `${questions.join(",")}${SEVERAL}${sku}`;

/** The SKU of a row's mark, and the questions that are asked of it. */
export function readRow(
  text: string,
): { readonly sku: string; readonly questions: ReadonlySet<number> } | undefined {
  const at = text.indexOf(SEVERAL);
  if (at < 0 || !/^[\d,]*$/.test(text.slice(0, at))) return undefined;
  return { sku: text.slice(at + 1), questions: new Set(text.slice(0, at).split(",").map(Number)) };
}
