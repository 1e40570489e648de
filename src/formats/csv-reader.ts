/**
 * CSV as a stream of rows: encoding, delimiter and header found or stated, torn quotes told by their row. Parsing is
 * papaparse's.
 */
import { ownOf } from "../core/own.js";
import { greatest } from "../core/many.js";
import { Readable } from "node:stream";
import Papa from "papaparse";
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { ByteSource } from "./byte-source.js";
import { headedRows } from "./header-row.js";
import { fixedColumns, ROW_LIMIT, rowTooLong, type TableRecord, type TableStream } from "./table-stream.js";
import { firstPiece, openText, type Encoding } from "./text-stream.js";

/** What is stated of a CSV file. */
export interface CsvOptions {
  readonly encoding?: Encoding | undefined;
  readonly delimiter?: string | undefined;
  /** The header's row where it is known; 1 for tables of our own, else it is looked for. */
  readonly headerRow?: number | undefined;
}

const delimiters = [",", ";", "\t", "|"] as const;
const SNIFFED_LINES = 30;
const ourHeader = /^\ufeff?(?:[\p{Ll}\p{Lo}_\d@A-Z-]+,)*sku(?:,[\p{Ll}\p{Lo}_\d@A-Z-]+)+$/u;

/** Delimiters in words. */
export const delimiterNames: Readonly<Record<string, string>> = {
  ",": "commas",
  ";": "semicolons",
  "\t": "tabs",
  "|": "bars",
};

/**
 * The delimiter that divides the first lines most evenly: the one whose most usual count of cells, times the lines that
 * have it, is largest. A comma where nothing divides.
 */
export function sniffDelimiter(head: string): string {
  const lines = head
    .slice(0, 1 << 16)
    // A quoted cell is a cell: nothing in its place would leave a line of tabs alone, which reads as blank.
    .replace(/"(?:[^"]|"")*"/g, "x")
    .split(/\r\n?|\n/)
    .filter((line) => line.trim() !== "")
    .slice(0, SNIFFED_LINES);
  // A sheet that we wrote has commas, however many other marks stand in its cells.
  if (ourHeader.test(lines[0] ?? "")) return ",";
  const scores = delimiters.map((delimiter) => {
    const byCount = new Map<number, number>();
    for (const line of lines) {
      const cells = line.split(delimiter).length;
      if (cells > 1) byCount.set(cells, (byCount.get(cells) ?? 0) + 1);
    }
    return greatest(
      [...byCount].map(([cells, count]) => Math.min(cells, 12) * count * count),
      0,
    );
  });
  const best = greatest(scores);
  return best === 0 ? "," : (delimiters[scores.indexOf(best)] ?? ",");
}

/** A line feed ends rows in all but the oldest files; a carriage return before it is cut from the last cell. */
const sniffNewline = (head: string): "\n" | "\r" =>
  !head.includes("\n") && head.includes("\r") ? "\r" : "\n";

interface ParsedChunk {
  /** Characters of the piece that was parsed. */
  readonly length: number;
  readonly rows: readonly string[][];
  readonly errors: readonly Papa.ParseError[];
}

async function* prepend(first: string, rest: AsyncGenerator<string>): AsyncGenerator<string> {
  yield first;
  yield* rest;
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
  const isFinished = (): boolean => finished;
  // The parser answers each piece with one chunk, which may be without a row.
  const lengths: number[] = [];
  // Paused, it still takes whatever comes, a whole file: so no more comes than is being parsed and one piece.
  let untaken = 0;
  let isEnded = false;
  let taken = (): void => undefined;
  async function* measured(): AsyncGenerator<string> {
    for await (const piece of text) {
      lengths.push(piece.length);
      untaken++;
      yield piece;
      while (untaken > 1 && !isEnded)
        await new Promise<void>((resolve) => {
          taken = resolve;
        });
    }
  }
  let failure: Error | undefined;
  let wake = (): void => undefined;
  const source = Readable.from(measured(), { objectMode: true, highWaterMark: 1 });
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
      waiting.push({ rows: results.data, errors: results.errors, length: lengths.shift() ?? 0 });
      wake();
    },
    complete() {
      finished = true;
      wake();
    },
    error(error: Error) {
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
        untaken--;
        taken();
        if (waiting.length === 0) parser?.resume();
        continue;
      }
      if (isFinished()) return;
      await new Promise<void>((resolve) => {
        wake = resolve;
      });
    }
  } finally {
    isEnded = true;
    taken();
    source.destroy();
  }
}

const isBlankLine = (cells: readonly string[]): boolean =>
  cells.length === 1 && (cells[0] ?? "").trim() === "";

/**
 * Opens a CSV file: finds encoding, delimiter and header, then streams its records.
 * @throws Refusal when the file is missing, empty, no text, or its quotes or header are broken
 */
export async function openCsv(source: ByteSource, options: CsvOptions = {}): Promise<TableStream> {
  const { file } = source;
  const text = await openText(source, options.encoding);
  const head = await firstPiece(text.pieces, file);
  const delimiter = options.delimiter ?? sniffDelimiter(head);
  let [pending, row] = [0, 0];
  const chunks = parsedChunks(prepend(head, text.pieces), delimiter, sniffNewline(head));
  async function* records(): AsyncGenerator<readonly TableRecord[]> {
    for await (const chunk of chunks) {
      const faults = chunkFaults(chunk, file, row, text.linesSoFar());
      // What was read ahead is not what a row is long: only pieces in which none ended count.
      pending = chunk.rows.length > 0 ? 0 : pending + chunk.length;
      if (pending > ROW_LIMIT) throw rowTooLong(file, row + 1);
      yield chunk.rows.flatMap((cells, index): TableRecord[] => {
        row++;
        if (isBlankLine(cells)) return [];
        const last = cells.length - 1;
        if (cells[last]?.endsWith("\r") === true) cells[last] = cells[last].slice(0, -1);
        const fault = faults.get(index);
        return [fault === undefined ? { row, cells } : { row, cells, fault }];
      });
    }
  }
  const headed = await headedRows(records(), file, options.headerRow);
  const guarded = withoutSwallowed(headed.batches, headed.header, delimiter, file);
  const top = headed.headerRow > 1 ? [`header in row ${headed.headerRow}`] : [];
  return {
    file,
    format: "csv",
    ...fixedColumns(headed.header),
    ...headed,
    batches: guarded,
    told: () => [
      text.encoding().toUpperCase(),
      ownOf(delimiterNames, delimiter) ?? `delimiter ${JSON.stringify(delimiter)}`,
      ...top,
    ],
  };
}

/**
 * Rows that stand inside a cell of another, since a quote before them was not closed: a line of that cell then has marks
 * between cells like a row, and none of them is followed by a blank, as those of a sentence are.
 */
async function* withoutSwallowed(
  batches: AsyncGenerator<readonly TableRecord[]>,
  header: readonly string[],
  delimiter: string,
  file: string,
): AsyncGenerator<readonly TableRecord[]> {
  const marksIn = (line: string): number => {
    let count = 0;
    for (let at = line.indexOf(delimiter); at >= 0; at = line.indexOf(delimiter, at + delimiter.length))
      if (line[at + delimiter.length] !== " ") count++;
    return count;
  };
  const checked = (record: TableRecord): TableRecord => {
    const at = record.cells.findIndex((cell) => cell.includes("\n"));
    if (at < 0) return record;
    const wanted = record.fault === undefined ? Math.max(2, header.length - 2) : 1;
    for (const [index, cell] of record.cells.entries()) {
      if (!cell.includes("\n")) continue;
      const rows = cell.split("\n").slice(1);
      if (!rows.some((line) => marksIn(line) >= wanted)) continue;
      const facts = { rows: rows.length, column: header[index] ?? "" };
      return {
        ...record,
        fault: diagnostic("swallowed-rows", facts, { place: { file, row: record.row } }),
      };
    }
    return record;
  };
  for await (const batch of batches) yield batch.map(checked);
}

/** An unterminated quote ends the import: all behind it would be one cell. A stray quote rejects its row. */
function chunkFaults(
  { rows, errors }: ParsedChunk,
  file: string,
  rowsBefore: number,
  lines: number,
): ReadonlyMap<number, Diagnostic> {
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
}
