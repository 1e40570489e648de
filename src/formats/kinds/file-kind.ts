/** What a kind of file must be able to say of itself. One file a kind, one line in `kinds.ts`. */
import type { ByteSource } from "../byte-source.js";
import type { Format, TableStream } from "../table-stream.js";
import type { RecordNode } from "../../core/records/node.js";
import type { Encoding } from "../text-stream.js";

/** What a source file or the command line states of a file; all the rest is found out. */
export interface TableOptions {
  readonly format?: Format | undefined;
  readonly encoding?: Encoding | undefined;
  readonly delimiter?: string | undefined;
  readonly sheet?: string | number | undefined;
  readonly headerRow?: number | undefined;
  readonly records?: string | undefined;
  /** Asked where the records of XML or JSON are not stated. */
  readonly chooseRecords?: ChooseRecords | undefined;
}

/** Tells what a record is by the beginning of a file: the end of its path; undefined where none shows. */
export type ChooseRecords = (head: RecordNode | undefined) => string | undefined;

/** The beginning of a file, for telling what it holds. */
export interface FileHead {
  readonly bytes: Buffer;
  /** The same as text, in the encoding that it shows. */
  readonly text: string;
  /** What the file's name says that it is. */
  readonly named: Format | undefined;
}

/** One kind of file that is read as a table. */
export interface FileKind {
  readonly format: Format;
  /** What it is called in a sentence. */
  readonly words: string;
  /** Endings of names, in small letters. */
  readonly extensions: readonly string[];
  /** Whether it has sheets, and says itself how its letters are written. */
  readonly isWorkbook?: true;
  /** Whether it has columns below a header row, as the sheets that we write. */
  readonly isSheet?: true;
  /** Whether its numbers are texts that may read two ways. */
  readonly hasOpenMarks?: true;
  /** Whether its records can be read from the middle of the file, so that several threads share it. */
  readonly canBeShared?: true;
  /** A kind that is told apart from this one by how it goes on alone: a name that says one does for the other. */
  readonly near?: Format;
  /** Whether a file begins as one of this kind does. */
  holds(head: FileHead): boolean;
  /** @throws Refusal when the file is no table, or not whole */
  open(source: ByteSource, options: TableOptions): Promise<TableStream>;
}
