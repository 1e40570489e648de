/** Reads a filled gap sheet back, wherever its rows and columns were moved: by marks, not by places. */
import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import { columnLetter, type Place } from "../diagnostics/place.js";
import { cleanText } from "../values/text.js";
import type { WaitingField, Target } from "./question.js";
import {
  FOR_ALL,
  NOT_ASKED,
  readFacts,
  readMark,
  readRow,
  SAME_AS,
  type ColumnMark,
  type SheetFacts,
} from "./sheet-marks.js";

/** A cell as a spreadsheet gives it back. */
export interface SheetCell {
  readonly text: string;
  /** Whether the spreadsheet made a date of it. */
  readonly isDate: boolean;
}

/** A row of a sheet that came back. */
export interface SheetRow {
  /** As the spreadsheet counts, from 1. */
  readonly row: number;
  readonly cells: readonly SheetCell[];
}

/** One answer of a person. */
export interface SheetAnswer {
  readonly sku: string;
  readonly row: number;
  /** The column's title, where the value is said to come from. */
  readonly title: string;
  readonly place: Place;
  readonly target: Target;
  readonly askers: readonly WaitingField[];
  readonly text: string;
  readonly isDate: boolean;
  /** Typed into the cell, our proposal accepted, or said for all. */
  readonly by: "cell" | "proposal" | "all";
}

/** A filled gap sheet: its answers, and what is wrong with rows and columns. */
export interface ReadGapSheet {
  readonly facts: SheetFacts;
  readonly answers: readonly SheetAnswer[];
  readonly findings: readonly Diagnostic[];
}

interface SheetColumns {
  readonly marks: readonly ColumnMark[];
  readonly titles: readonly string[];
  readonly sku: number;
  readonly row: number;
  place(row: number, column: number): Place;
}

const HEAD_LIMIT = 200;
const blank: SheetCell = { text: "", isDate: false };

/** A column's name in a spreadsheet. */
/** Whether rows are those of a gap sheet; its first row may have been sorted among the others. */
const keyRowOf = (rows: readonly SheetRow[]): SheetRow | undefined =>
  rows.slice(0, HEAD_LIMIT).find(({ cells }) => cells.some(({ text }) => readFacts(text) !== undefined));

/** Whether rows are those of a gap sheet. */
export const isGapSheet = (rows: readonly SheetRow[]): boolean => keyRowOf(rows) !== undefined;

/** Reads a filled gap sheet, whatever was sorted, moved, deleted or added; undefined where it is none. */
export function readGapSheet(rows: readonly SheetRow[], file: string): ReadGapSheet | undefined {
  const keys = keyRowOf(rows);
  const facts = keys?.cells.map(({ text }) => readFacts(text)).find((found) => found !== undefined);
  if (keys === undefined || facts === undefined) return undefined;
  const marks = keys.cells.map(({ text }) => readMark(text.trim()));
  const sku = marks.findIndex(({ column }) => column === "sku");
  const titleRow = rows.find(({ cells }) => cells[sku]?.text === "SKU");
  const titles = marks.map((_, column) => titleRow?.cells[column]?.text ?? "");
  const columns: SheetColumns = {
    marks,
    titles,
    sku,
    row: marks.findIndex(({ column }) => column === "row"),
    place: (row, column) => ({
      file,
      row,
      column: `${columnLetter(column)}${titles[column] === "" ? "" : `: ${titles[column] ?? ""}`}`,
    }),
  };
  const findings: Diagnostic[] = [];
  const forAll = rows.find(({ cells }) => cells[sku]?.text.trim() === FOR_ALL);
  const seen = new Set<string>();
  const answers = rows.flatMap((row) => {
    if (row === keys || row === titleRow || row === forAll) return [];
    const product = productOf(row, columns, seen, findings);
    return product === undefined ? [] : answersIn(row, product, forAll, columns);
  });
  return { facts, answers, findings };
}

interface AskedProduct {
  readonly sku: string;
  /** Undefined for a row that somebody added: whatever is filled in is meant. */
  readonly questions: ReadonlySet<number> | undefined;
}

/** The product of a row; what cannot be trusted is told at its cell. */
function productOf(
  { row, cells }: SheetRow,
  { sku: skuColumn, row: rowColumn, marks, place }: SheetColumns,
  seen: Set<string>,
  findings: Diagnostic[],
): AskedProduct | undefined {
  const sku = cleanText(cells[skuColumn]?.text ?? "");
  const written = rowColumn < 0 ? undefined : readRow(cells[rowColumn]?.text ?? "");
  const isFilled = marks.some(
    ({ column }, index) =>
      (column === "ask" || column === "take") && (cells[index]?.text ?? "").trim() !== "",
  );
  if (sku === "") {
    if (written !== undefined && isFilled)
      findings.push(
        diagnostic("changed-sku", { was: written.sku, now: "" }, { place: place(row, skuColumn) }),
      );
    return undefined;
  }
  if (written !== undefined && written.sku !== sku) {
    findings.push(
      diagnostic("changed-sku", { was: written.sku, now: sku }, { place: place(row, skuColumn) }),
    );
    return undefined;
  }
  if (seen.has(sku)) {
    if (isFilled)
      findings.push(diagnostic("repeated-key", { key: "sku", value: sku }, { place: place(row, skuColumn) }));
    return undefined;
  }
  seen.add(sku);
  return { sku, questions: written?.questions };
}

function said(cell: SheetCell | undefined): SheetCell | undefined {
  const text = (cell?.text ?? "").trim();
  return cell === undefined || text === "" || text === NOT_ASKED || text.startsWith(SAME_AS)
    ? undefined
    : { ...cell, text };
}

const isYes = (cell: SheetCell | undefined): boolean =>
  /^(?:y|yes|x|true|1)$/i.test((cell?.text ?? "").trim());

function answersIn(
  row: SheetRow,
  { sku, questions }: AskedProduct,
  forAll: SheetRow | undefined,
  { marks, titles, place }: SheetColumns,
): readonly SheetAnswer[] {
  const at = (wanted: ColumnMark["column"], question: number): number =>
    marks.findIndex((mark) => mark.column === wanted && "question" in mark && mark.question === question);
  const numbers = new Set(
    marks.flatMap((mark) => ("question" in mark && mark.column !== "now" ? [mark.question] : [])),
  );
  return [...numbers].flatMap((question): readonly SheetAnswer[] => {
    const [ask, offer, take] = [at("ask", question), at("offer", question), at("take", question)];
    const mark = marks[ask >= 0 ? ask : take >= 0 ? take : offer];
    if (mark === undefined || !("target" in mark)) return [];
    const isOpen = questions?.has(question) ?? false;
    const column = ask >= 0 ? ask : take;
    const answer = (cell: SheetCell, by: SheetAnswer["by"]): readonly SheetAnswer[] => [
      {
        sku,
        row: row.row,
        by,
        text: cell.text,
        isDate: cell.isDate,
        title: titles[column] ?? "",
        place: place(row.row, column),
        target: mark.target,
        askers: mark.column === "ask" ? mark.askers : [],
      },
    ];
    const typed = ask < 0 ? undefined : said(row.cells[ask]);
    if (typed !== undefined) return answer(typed, "cell");
    const proposal = offer < 0 ? undefined : said(row.cells[offer]);
    const isTaken = isYes(row.cells[take] ?? blank) || (isOpen && isYes(forAll?.cells[take] ?? blank));
    if (proposal !== undefined && take >= 0 && isTaken) return answer(proposal, "proposal");
    const common = ask < 0 || !isOpen ? undefined : said(forAll?.cells[ask]);
    return common === undefined ? [] : answer(common, "all");
  });
}
