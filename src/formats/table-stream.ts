/** A table being read: its header at once, its rows in batches, each with where it stands. */
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { columnLetter } from "../core/diagnostics/place.js";
import type { RecordNode } from "../core/records/node.js";

/** Formats that are read as tables. */
export const formats = ["csv", "xlsx", "xml", "json", "jsonl"] as const;

export type Format = (typeof formats)[number];

/**
 * One record below the header. `row` counts as a spreadsheet does (the header is row 1, a cell may span lines); records
 * of XML and JSON are counted from 1.
 */
export interface TableRecord {
  readonly row: number;
  readonly cells: readonly string[];
  /** Why the record cannot be trusted, or undefined. */
  readonly fault?: Diagnostic;
  /** All that the record holds, where `cells` has no more than was asked for. */
  readonly whole?: () => readonly string[];
}

/** A table being read: its header at once, its records in batches as they come. */
export interface TableStream {
  readonly file: string;
  readonly format: Format;
  /** Names of columns or paths. That of a format without a header row grows while records come. */
  readonly header: readonly string[];
  readonly headerGrows: boolean;
  /** Where two rows hold the columns' names: the words above each, and its own. */
  readonly headings?: readonly (readonly [above: string, own: string])[];
  /** The index of a column; a header that grows has room for each name that is asked for. */
  column(name: string): number | undefined;
  /** Names that were asked for and that no record had, where the header grows. */
  unseen(): readonly string[];
  /** The header's row; 0 where the format has none. */
  readonly headerRow: number;
  /** Columns that whoever opens the file does not see, by their index. */
  readonly hidden?: ReadonlySet<number>;
  /** The first records, which come again in {@link batches}: what a proposal looks at. */
  readonly sample: readonly TableRecord[];
  /** The same as trees, where the format has them, and the path that they were found by. */
  readonly trees?: readonly RecordNode[];
  readonly records?: string;
  /** The sheet that is read, where its workbook has several. */
  readonly sheet?: string;
  readonly batches: AsyncGenerator<readonly TableRecord[]>;
  /** How the file was read, in words, as far as it is known by now: encoding, delimiter, sheet. */
  told(): readonly string[];
}

/** Rows no longer than this, in characters, are real. */
export const ROW_LIMIT = 4 << 20;

/** The most columns of a table: as many as spreadsheets have. */
export const COLUMN_LIMIT = 16_384;

/** A column's name is no text: longer ones come from a file that is read amiss. */
export const NAME_LIMIT = 1000;

/** Refuses names that no column has. */
export function refuseLongNames(names: readonly string[], file: string): void {
  const long = names.find((name) => name.length > NAME_LIMIT);
  if (long !== undefined)
    throw new Refusal([
      diagnostic("name-too-long", { name: long.slice(0, 40), limit: NAME_LIMIT }, { place: { file } }),
    ]);
}

/** `row` is the row that does not end, where it is known. */
export function rowTooLong(file: string, row?: number): Refusal {
  return new Refusal([
    diagnostic(
      "row-too-long",
      { limit: ROW_LIMIT },
      { place: { file, ...(row === undefined ? {} : { row }) } },
    ),
  ]);
}

/** Two columns of one name cannot be told apart; refuses them all at once. */
export function refuseRepeatedColumns({
  header,
  file,
  headerRow,
}: Pick<TableStream, "header" | "file" | "headerRow">): void {
  const first = new Map<string, number>();
  const findings = header.flatMap((column, index) => {
    const earlier = first.get(column);
    if (column === "" || earlier === undefined) {
      first.set(column, index);
      return [];
    }
    const facts = { column, first: columnLetter(earlier), second: columnLetter(index) };
    return [diagnostic("repeated-column", facts, { place: { file, row: headerRow } })];
  });
  if (findings.length > 0) throw new Refusal(findings);
}

/** The look-up of a header that stands fixed. */
export function fixedColumns(
  header: readonly string[],
): Pick<TableStream, "headerGrows" | "column" | "unseen"> {
  const slots = new Map(header.map((name, index) => [name, index]));
  return { headerGrows: false, column: (name) => slots.get(name), unseen: () => [] };
}
