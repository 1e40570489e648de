/** Rows that cannot be what they seem: of another width, a second header, the next table. */
import { columnName } from "../../core/catalogue/proposal/column-name.js";
import { diagnostic, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import type { TableRecord, TableStream } from "../../formats/table-stream.js";

type FaultyTable = Pick<TableStream, "header" | "file">;

const isBlank = (cell: string): boolean => cell.trim() === "";

/**
 * How many cells the rows of a table have: as many as the header, or more where an export ends each row with blank cells.
 * One row that alone is longer has a cell too many somewhere, and its others stand under wrong names.
 */
export function usualWidth({ header, sample }: Pick<TableStream, "header" | "sample">): number {
  const longer = sample.filter(
    ({ cells }) => cells.length > header.length && cells.slice(header.length).every(isBlank),
  );
  const [first] = longer;
  const width = first?.cells.length ?? header.length;
  const areAlike =
    longer.every(({ cells }) => cells.length === width) && longer.length >= sample.length * 0.9;
  return areAlike ? width : header.length;
}

/** A row of another width may have lost a mark between cells, or have one too many: nothing in it is trusted. */
export function raggedRow(
  { row, cells }: TableRecord,
  { header, file }: FaultyTable,
  width: number,
): Diagnostic | undefined {
  if (cells.length === width || cells.length === header.length) return undefined;
  return diagnostic(
    "ragged-row",
    { expected: header.length, actual: cells.length },
    { place: { file, row } },
  );
}

/** The names of a table's columns as its rows would repeat them: without the words of a row above. */
const ownNames = ({ header, headings }: Pick<TableStream, "header" | "headings">): readonly string[] =>
  headings === undefined ? header : header.map((name, at) => headings[at]?.[1] ?? name);

/**
 * The next table of a sheet that has several: its header stands behind a gap, or below a title behind one, and its rows are
 * none of the first's.
 */
export function nextTable(
  table: Pick<TableStream, "header" | "headings">,
): (record: TableRecord, above: number) => boolean {
  const names = new Set(ownNames(table).filter((name) => name !== ""));
  let isBehindGap = false;
  return ({ row, cells }, above) => {
    const filled = cells.filter((cell) => !isBlank(cell));
    isBehindGap = above > 0 && (row >= above + 2 || (isBehindGap && filled.length > 1));
    const isTitle = isBehindGap && filled.length === 1;
    const found =
      isBehindGap && filled.length > 1 && !repeatsNames(cells, ownNames(table)) && areNames(filled, names);
    // The gap above a title is that of the table below it.
    isBehindGap = isTitle;
    return found;
  };
}

/** Whether cells are names of columns: usual ones, or those of the table above. */
function areNames(filled: readonly string[], names: ReadonlySet<string>): boolean {
  const known = filled.filter(
    (cell) => names.has(cell.trim()) || (columnName(cell).certainty >= 0.9 && !/\d/.test(cell)),
  ).length;
  return known >= Math.max(2, filled.length * 0.5);
}

const repeatsNames = (cells: readonly string[], names: readonly string[]): boolean =>
  names.every((name, at) => name === (cells[at] ?? "").trim());

/** The header again, as lists over several pages repeat it. */
export function repeatsHeader(
  { cells }: TableRecord,
  table: Pick<TableStream, "header" | "headings">,
): boolean {
  const { header, headings } = table;
  const first = headings?.[0]?.[1] ?? header[0];
  if (first === undefined || first === "" || header.length < 2 || cells[0] !== first) return false;
  return repeatsNames(cells, ownNames(table));
}

/** That another table begins. */
export const anotherTable = (row: number, from: number, file: string): Diagnostic =>
  diagnostic("another-table", { from }, { place: { file, row } });

const LONGEST_SUM = 20;

const sum =
  /^(?:(?:grand |sub)?-?\s?total|sum|summe|gesamt(?:summe)?|zwischensumme|total général|sous-total|totaal|subtotaal|suma|razem|totale)\b[\s:.]*$/i;

/** A sum under the rows: its word stands where a product's key would, or alone in the first cells. */
export function totalRow(
  { row, cells }: TableRecord,
  { file }: FaultyTable,
  keys: readonly number[],
): Diagnostic | undefined {
  let text = "";
  for (const at of keys) text ||= cells[at] ?? "";
  const shown = text === "" ? (cells.find((cell) => !isBlank(cell)) ?? "") : text;
  if (shown.length > LONGEST_SUM) return undefined;
  return sum.test(shown.trim())
    ? diagnostic("total-row", { text: shown.trim() }, { place: { file, row } })
    : undefined;
}
