import { TokenParser } from "@streamparser/json";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { ByteSource } from "./byte-source.js";
import { digitsOf, ExactTokenizer, WrittenNumber } from "./json-number.js";
import { growingHeader, type GrowingHeader } from "./growing-header.js";
import { structuredTable } from "./structured-table.js";
import { ROW_LIMIT, rowTooLong, type TableRecord, type TableStream } from "./table-stream.js";
import { firstPiece, openText, type Encoding } from "./text-stream.js";

export interface JsonOptions {
  readonly encoding?: Encoding | undefined;
  /** Where the list of records stands: `products`, `catalogue.items`; blank for a list at the top. */
  readonly records?: string | undefined;
}

const DEPTH_LIMIT = 50;

/** Adds a record's leaves by their path: `price.amount`; lists become list values. */
const addLeaves = (value: unknown, path: string, header: GrowingHeader, depth = 0): void => {
  if (value === null || value === undefined || value === "" || depth > DEPTH_LIMIT) return;
  if (Array.isArray(value)) for (const item of value) addLeaves(item, path, header, depth + 1);
  else if (typeof value === "object" && !(value instanceof WrittenNumber))
    for (const [key, inner] of Object.entries(value))
      addLeaves(inner, path === "" ? key : `${path}.${key}`, header, depth + 1);
  else
    header.add(
      path === "" ? "value" : path,
      typeof value === "boolean" ? (value ? "yes" : "no") : textOf(value),
    );
};

const textOf = (value: unknown): string => (value instanceof WrittenNumber ? digitsOf(value) : String(value));

// Fifteen digits and no exponent: such a number is the same in binary.
const isLossy = /\d{16}|\d\.\d*\d{12}|\d[eE][+-]?\d/;

/** One JSON value with its numbers exact; the quick way where no number of it could lose a digit. */
const parsed = (text: string): unknown => {
  if (!isLossy.test(text)) return JSON.parse(text);
  // What is no JSON is told in the words of the engine.
  JSON.parse(text);
  let found: unknown;
  const parser = new TokenParser({ paths: ["$"], keepStack: false });
  const tokenizer = new ExactTokenizer();
  tokenizer.onToken = (token) => parser.write(token);
  parser.onValue = ({ value }) => void (found = value);
  tokenizer.write(text);
  return found;
};

/** Where the first list of objects begins, by the keys that lead to it; undefined when the head shows none. */
const recordsPath = (head: string): string | undefined => {
  const keys: string[] = [];
  const inArray: boolean[] = [];
  let key = "";
  for (const [token] of head.matchAll(/"(?:[^"\\]|\\.)*"|[{}[\],:]/gs)) {
    if (token === "[" || token === "{") {
      if (token === "{" && inArray.at(-1) === true) return keys.filter(Boolean).join(".");
      inArray.push(token === "[");
      keys.push(key);
      key = "";
    } else if (token === "]" || token === "}") {
      inArray.pop();
      keys.pop();
    } else if (token.startsWith('"') && inArray.at(-1) === false) key = token.slice(1, -1);
    else if (token === ",") key = "";
  }
  return undefined;
};

const broken = (file: string, format: string, error: unknown): unknown => {
  if (error instanceof Refusal || !(error instanceof Error)) return error;
  return new Refusal([diagnostic("broken-data", { format, reason: error.message }, { place: { file } })]);
};

/** Opens a JSON file: the objects of its first list, or of the list that is named, one after another. */
export const openJson = async (source: ByteSource, options: JsonOptions = {}): Promise<TableStream> => {
  const { file } = source;
  const text = await openText(source, options.encoding);
  const head = await firstPiece(text.pieces, file);
  const path = options.records ?? recordsPath(head);
  if (path === undefined) throw new Refusal([diagnostic("no-records", { path: file, format: "JSON" })]);
  const header = growingHeader(file);
  async function* records(): AsyncGenerator<readonly TableRecord[]> {
    const finished: TableRecord[] = [];
    let row = 0;
    const tokenizer = new ExactTokenizer();
    const parser = new TokenParser({
      paths: [`$${path === "" ? "" : `.${path ?? ""}`}.*`],
      keepStack: false,
    });
    let failure: Error | undefined;
    tokenizer.onToken = (token) => parser.write(token);
    tokenizer.onError = (error) => void (failure ??= error);
    parser.onError = (error) => void (failure ??= error);
    parser.onValue = ({ value }) => {
      row++;
      addLeaves(value, "", header);
      finished.push({ row, cells: header.take() });
    };
    let [pending, ended] = [0, 0];
    const feed = (piece: string): readonly TableRecord[] => {
      try {
        tokenizer.write(piece);
      } catch (error) {
        failure ??= error as Error;
      }
      pending = row > ended ? 0 : pending + piece.length;
      ended = row;
      if (failure !== undefined) throw broken(file, "JSON", failure) as Error;
      if (pending > ROW_LIMIT * 2) throw rowTooLong(file);
      return finished.splice(0);
    };
    yield feed(head);
    for await (const piece of text.pieces) yield feed(piece);
    // A list that is never closed is half a file.
    if (!parser.isEnded)
      throw broken(file, "JSON", new Error("the file ends in the middle of a value")) as Error;
  }
  return structuredTable(file, "json", header, records(), () => [
    text.encoding().toUpperCase(),
    path === "" ? "a list of records" : `records under ${path}`,
  ]);
};

/** Opens JSON Lines: one object a line. A line that is no object is told as a row that cannot be taken. */
export const openJsonLines = async (source: ByteSource, options: JsonOptions = {}): Promise<TableStream> => {
  const { file } = source;
  const text = await openText(source, options.encoding);
  const head = await firstPiece(text.pieces, file);
  const header = growingHeader(file);
  let row = 0;
  const record = (line: string): readonly TableRecord[] => {
    row++;
    if (line.trim() === "") return [];
    try {
      const value = parsed(line);
      if (typeof value !== "object" || value === null || Array.isArray(value))
        throw new Error("it is no object");
      addLeaves(value, "", header);
      return [{ row, cells: header.take() }];
    } catch (error) {
      const reason = error instanceof Error ? error.message : String(error);
      const fault = diagnostic("broken-record", { reason }, { place: { file, row } });
      return [{ row, cells: header.take(), fault }];
    }
  };
  async function* records(): AsyncGenerator<readonly TableRecord[]> {
    let rest = "";
    const feed = (piece: string): readonly TableRecord[] => {
      const lines = (rest + piece).split("\n");
      rest = lines.pop() ?? "";
      if (rest.length > ROW_LIMIT) throw rowTooLong(file);
      return lines.flatMap(record);
    };
    yield feed(head);
    for await (const piece of text.pieces) yield feed(piece);
    yield record(rest);
  }
  return structuredTable(file, "jsonl", header, records(), () => [
    text.encoding().toUpperCase(),
    "one record a line",
  ]);
};
