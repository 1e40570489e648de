/**
 * Formats in which a channel writes to us: its reports and its export of live listings. Each is read as one of the kinds of
 * tables that files are read as; what differs is told here, and a new one is a line of the table.
 */

/** How a file is opened as a table, as far as its format tells. */
export interface ReadAs {
  readonly format: "csv" | "xlsx" | "xml" | "json" | "jsonl";
  readonly delimiter?: string | undefined;
  readonly sheet?: string | undefined;
  /** The row with the columns' names, from 1; undefined: it is looked for, or the records name their parts. */
  readonly headerRow?: number | undefined;
  /** The path or name of a record in a tree. */
  readonly records?: string | undefined;
}

interface RecordFormatFacts {
  readonly readAs: ReadAs;
  /** Whether a record is an element whose path the columns' paths begin with: `/hall/lot/number`. */
  readonly isTree: boolean;
  /** Whether line ends and tabs within a value became spaces when it was written. */
  readonly isOneLine: boolean;
}

const table = (delimiter?: string): ReadAs => ({ format: "csv", delimiter, headerRow: 1 });

const facts = {
  csv: { readAs: table(), isTree: false, isOneLine: false },
  tsv: { readAs: table("\t"), isTree: false, isOneLine: true },
  xml: { readAs: { format: "xml" }, isTree: true, isOneLine: false },
  json: { readAs: { format: "json" }, isTree: false, isOneLine: false },
  jsonl: { readAs: { format: "jsonl" }, isTree: false, isOneLine: false },
} as const satisfies Readonly<Record<string, RecordFormatFacts>>;

/** The name of such a format. */
export type RecordFormat = keyof typeof facts;

/** Names of the formats, for messages. */
export const recordFormats = Object.keys(facts) as readonly RecordFormat[];

/** What is known of a format. */
export const recordFormat = (format: RecordFormat): RecordFormatFacts => facts[format];
