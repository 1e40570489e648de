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

/** The next table of a sheet that has several: its header stands behind a gap, and its rows are none of the first's. */
export function beginsAnother(
  { row, cells }: TableRecord,
  above: number,
  { header }: Pick<TableStream, "header">,
): boolean {
  const filled = cells.filter((cell) => !isBlank(cell));
  if (row < above + 2 || filled.length < 2) return false;
  const known = filled.filter((cell) => columnName(cell).certainty >= 0.9 && !/\d/.test(cell)).length;
  const isRepeated = header.every((name, at) => name === (cells[at] ?? "").trim());
  return !isRepeated && known >= Math.max(2, filled.length * 0.6);
}

/** The header again, as lists over several pages repeat it. */
export function repeatsHeader({ cells }: TableRecord, { header }: Pick<TableStream, "header">): boolean {
  const [first] = header;
  if (first === undefined || first === "" || header.length < 2 || cells[0] !== first) return false;
  return header.every((name, at) => name === (cells[at] ?? "").trim());
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
