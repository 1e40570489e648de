/** Finds the header of a table: the first row that looks like names, or the one that was stated. */
import { addAll, greatest } from "../core/many.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { COLUMN_LIMIT, refuseLongNames, type TableRecord } from "./table-stream.js";

const LOOKED_AT = 30;
const SAMPLE = 1000;

const filled = (cells: readonly string[]): number => cells.filter((cell) => cell.trim() !== "").length;

const looksLikeValue = (cell: string): boolean => /^[-+£€$]?\d[\d.,:/ -]*%?$/.test(cell.trim());

/**
 * The header among the first rows: the first that is about as wide as the widest, and holds words rather than numbers.
 * Titles above a table fill one cell or two.
 */
function headerAt(rows: readonly TableRecord[]): number {
  const looked = rows.slice(0, LOOKED_AT);
  const widths = looked.map(({ cells }) => filled(cells));
  const wide = Math.max(1, Math.ceil(greatest(widths, 1) * 0.6));
  const fits = looked.findIndex(({ cells }, index) => {
    const values = cells.filter((cell) => cell.trim() !== "");
    return (widths[index] ?? 0) >= wide && values.filter(looksLikeValue).length <= values.length / 4;
  });
  return fits < 0 ? 0 : fits;
}

const isWord = (cell: string): boolean =>
  /\p{L}/u.test(cell) && !looksLikeValue(cell) && !cell.trim().endsWith(":");

/** The words of a row of headings above the header, each over the columns up to the next; undefined where it is none. */
function groupsAbove(above: TableRecord | undefined, header: TableRecord): readonly string[] | undefined {
  if (above === undefined || above.row !== header.row - 1) return undefined;
  const places = above.cells.flatMap((cell, at) => (cell.trim() === "" ? [] : [at]));
  const areWords = places.every((at) => isWord(above.cells[at] ?? ""));
  const reachesFar = (places.at(-1) ?? 0) >= header.cells.length / 2;
  const leavesGaps = places.length < filled(header.cells);
  const named = header.cells.filter((cell) => cell.trim() !== "");
  // Names that come twice are told apart by what stands above them, wherever that begins.
  const isNeeded = new Set(named).size < named.length;
  if (places.length < 2 || !areWords || !leavesGaps) return undefined;
  if (!isNeeded && (places[0] !== 0 || !reachesFar)) return undefined;
  let group = "";
  return header.cells.map((_, at) => (group = above.cells[at]?.trim() || group));
}

/** A header, and the rows below it. */
export interface HeadedRows {
  readonly header: readonly string[];
  /** Where two rows hold the names: the words above each, and its own. */
  readonly headings?: readonly (readonly [above: string, own: string])[];
  readonly headerRow: number;
  readonly sample: readonly TableRecord[];
  readonly batches: AsyncGenerator<readonly TableRecord[]>;
}

/** Takes rows as they come, finds the header (or takes the stated row) and streams what is below it. */
export async function headedRows(
  rows: AsyncGenerator<readonly TableRecord[]>,
  file: string,
  statedRow: number | undefined,
): Promise<HeadedRows> {
  const first: TableRecord[] = [];
  while (first.length < Math.max(SAMPLE, statedRow ?? 0)) {
    const step = await rows.next();
    if (step.done === true) break;
    addAll(first, step.value);
  }
  const at = statedRow === undefined ? headerAt(first) : first.findIndex(({ row }) => row === statedRow);
  const found = first[at];
  if (found === undefined)
    throw new Refusal([
      first.length === 0
        ? diagnostic("empty-file", { path: file })
        : diagnostic("no-header", { row: statedRow ?? 1 }, { place: { file } }),
    ]);
  const sample = first.slice(at + 1);
  async function* batches(): AsyncGenerator<readonly TableRecord[]> {
    if (sample.length > 0) yield sample;
    yield* rows;
  }
  const groups = groupsAbove(first[at - 1], found);
  const named =
    groups === undefined ? found.cells : found.cells.map((name, column) => `${groups[column] ?? ""} ${name}`);
  if (named.length > COLUMN_LIMIT)
    throw new Refusal([diagnostic("too-many-columns", { limit: COLUMN_LIMIT }, { place: { file } })]);
  refuseLongNames(named, file);
  return {
    header: named.map(tidy),
    ...(groups === undefined
      ? {}
      : { headings: found.cells.map((name, column) => [tidy(groups[column] ?? ""), tidy(name)] as const) }),
    headerRow: found.row,
    sample,
    batches: batches(),
  };
}

const tidy = (name: string): string => name.replace(/\s+/g, " ").trim();

/** Blank cells up to the header's width, for formats that leave them out. */
export function padded(
  batches: AsyncGenerator<readonly TableRecord[]>,
  header: readonly string[],
): AsyncGenerator<readonly TableRecord[]> {
  const pad = (record: TableRecord): TableRecord => {
    if (record.cells.length >= header.length) return record;
    const cells = [...record.cells];
    while (cells.length < header.length) cells.push("");
    return { ...record, cells };
  };
  return (async function* () {
    for await (const batch of batches) yield batch.map(pad);
  })();
}
