import { Readable } from "node:stream";
import Papa from "papaparse";
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { openText, type Encoding } from "./text-stream.js";

export interface CsvOptions {
  readonly encoding?: Encoding | undefined;
  readonly delimiter?: string | undefined;
}

/** One record below the header. `row` counts as a spreadsheet does: the header is row 1, a cell may span lines. */
export interface TableRecord {
  readonly row: number;
  readonly cells: readonly string[];
  /** Why the record cannot be trusted, or undefined. */
  readonly fault?: Diagnostic;
}

/** A table being read: its header at once, its records in batches as they come. */
export interface TableStream {
  readonly file: string;
  readonly header: readonly string[];
  readonly encoding: Encoding;
  readonly delimiter: string;
  readonly batches: AsyncGenerator<readonly TableRecord[]>;
}

const ROW_LIMIT = 8 << 20;
const delimiters = [",", ";", "\t", "|"] as const;

/** The delimiter that the first line holds most often outside quotes; a comma where there is none. */
const sniffDelimiter = (head: string): string => {
  const line = (/^(?:"(?:[^"]|"")*"|[^"\r\n])*/.exec(head)?.[0] ?? head).replace(/"(?:[^"]|"")*"/g, "");
  const counts = delimiters.map((delimiter) => line.split(delimiter).length);
  return delimiters[counts.indexOf(Math.max(...counts))] ?? ",";
};

/** A line feed ends rows in all but the oldest files; a carriage return before it is cut from the last cell. */
const sniffNewline = (head: string): "\n" | "\r" =>
  !head.includes("\n") && head.includes("\r") ? "\r" : "\n";

interface ParsedChunk {
  readonly rows: readonly string[][];
  readonly errors: readonly Papa.ParseError[];
}

async function* prepend(
  first: string,
  rest: AsyncGenerator<string>,
  fed: (length: number) => void,
): AsyncGenerator<string> {
  fed(first.length);
  yield first;
  for await (const piece of rest) {
    fed(piece.length);
    yield piece;
  }
}

/** Bridges the parser's callbacks to a pull-based sequence: it is paused while a chunk waits to be taken. */
async function* parsedChunks(
  text: AsyncGenerator<string>,
  delimiter: string,
  newline: "\n" | "\r",
): AsyncGenerator<ParsedChunk> {
  const waiting: ParsedChunk[] = [];
  let parser: Papa.Parser | undefined;
  let finished = false;
  let failure: unknown;
  let wake = (): void => undefined;
  const source = Readable.from(text, { objectMode: true });
  source.on("error", (error) => {
    failure = error;
    wake();
  });
  Papa.parse<string[]>(source, {
    delimiter,
    newline,
    quoteChar: '"',
    chunk(results, handle) {
      parser = handle;
      handle.pause();
      waiting.push({ rows: results.data, errors: results.errors });
      wake();
    },
    complete() {
      finished = true;
      wake();
    },
    error(error: unknown) {
      failure = error;
      wake();
    },
  });
  try {
    for (;;) {
      if (failure !== undefined) throw failure;
      const next = waiting.shift();
      if (next !== undefined) {
        yield next;
        if (waiting.length === 0) parser?.resume();
        continue;
      }
      if (finished) return;
      await new Promise<void>((resolve) => {
        wake = resolve;
      });
    }
  } finally {
    source.destroy();
  }
}

const isBlankLine = (cells: readonly string[]): boolean =>
  cells.length === 1 && (cells[0] ?? "").trim() === "";

/**
 * Opens a CSV file: finds encoding, delimiter and header, then streams its records.
 * @throws Refusal when the file is missing, empty, no text, or its quotes or header are broken
 */
export const openCsv = async (path: string, file: string, options: CsvOptions = {}): Promise<TableStream> => {
  const text = await openText(path, file, options.encoding);
  const { value: head } = await text.pieces.next();
  if (typeof head !== "string" || head.trim() === "")
    throw new Refusal([diagnostic("empty-file", { path: file })]);
  const delimiter = options.delimiter ?? sniffDelimiter(head);
  let pending = 0;
  const limited = prepend(head, text.pieces, (length) => {
    pending += length;
    if (pending > ROW_LIMIT + (2 << 20))
      throw new Refusal([diagnostic("row-too-long", { limit: ROW_LIMIT }, { place: { file } })]);
  });
  const chunks = parsedChunks(limited, delimiter, sniffNewline(head));
  let row = 0;
  const records = (chunk: ParsedChunk): TableRecord[] => {
    const faults = chunkFaults(chunk, file, row, text.linesSoFar());
    if (chunk.rows.length > 0) pending = 0;
    return chunk.rows.flatMap((cells, index): TableRecord[] => {
      row++;
      if (isBlankLine(cells)) return [];
      const last = cells.length - 1;
      if (cells[last]?.endsWith("\r") === true) cells[last] = cells[last].slice(0, -1);
      const fault = faults.get(index);
      return [fault === undefined ? { row, cells } : { row, cells, fault }];
    });
  };
  let waiting: TableRecord[] = [];
  while (waiting.length === 0) {
    const { value: chunk, done } = await chunks.next();
    if (done === true) throw new Refusal([diagnostic("empty-file", { path: file })]);
    waiting = records(chunk);
  }
  const [headerRecord, ...firstBatch] = waiting;
  const header = (headerRecord?.cells ?? []).map((name) => name.trim());
  async function* batches(): AsyncGenerator<readonly TableRecord[]> {
    if (firstBatch.length > 0) yield firstBatch;
    for await (const chunk of chunks) yield records(chunk);
  }
  return { file, header, encoding: text.encoding, delimiter, batches: batches() };
};

/** An unterminated quote ends the import: all behind it would be one cell. A stray quote rejects its row. */
const chunkFaults = (
  { rows, errors }: ParsedChunk,
  file: string,
  rowsBefore: number,
  lines: number,
): ReadonlyMap<number, Diagnostic> => {
  const faults = new Map<number, Diagnostic>();
  for (const { code, row: index = 0 } of errors) {
    const place = { file, row: rowsBefore + index + 1 };
    if (code === "MissingQuotes") {
      const swallowed = (rows[index] ?? []).join("").split("\n").length - 1;
      throw new Refusal([
        diagnostic(
          "broken-quote",
          { line: Math.max(1, lines - swallowed + (swallowed > 0 ? 1 : 0)) },
          { place },
        ),
      ]);
    }
    if (code === "InvalidQuotes") {
      const text = rows[index]?.find((cell) => cell.includes('"'))?.slice(0, 40) ?? "";
      faults.set(index, diagnostic("stray-quote", { text }, { place }));
    }
  }
  return faults;
};

/** Two columns of one name cannot be told apart; refuses them all at once. */
export const refuseRepeatedColumns = ({ header, file }: TableStream): void => {
  const first = new Map<string, number>();
  const findings = header.flatMap((column, index) => {
    const earlier = first.get(column);
    if (column === "" || earlier === undefined) {
      first.set(column, index);
      return [];
    }
    const facts = { column, first: columnLetter(earlier), second: columnLetter(index) };
    return [diagnostic("repeated-column", facts, { place: { file, row: 1 } })];
  });
  if (findings.length > 0) throw new Refusal(findings);
};

/** A column's name in a spreadsheet: 0 is A, 26 is AA. */
export const columnLetter = (index: number): string =>
  (index >= 26 ? columnLetter(Math.floor(index / 26) - 1) : "") + String.fromCharCode(65 + (index % 26));
