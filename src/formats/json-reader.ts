/** JSON and JSON Lines as streams of records, at any size, within a depth. */
import { TokenType } from "@streamparser/json";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { RecordNode } from "../core/records/node.js";
import type { ByteSource } from "./byte-source.js";
import { digitsOf, ExactTokenizer, WrittenNumber } from "./json-number.js";
import type { ChooseRecords } from "./kinds/file-kind.js";
import { structuredTable, type TreeRecord } from "./structured-table.js";
import { ROW_LIMIT, rowTooLong, type TableStream } from "./table-stream.js";
import { firstPiece, openText, type Encoding } from "./text-stream.js";
import { treeBuilder, type TreeBuilder } from "./tree-builder.js";

/** What is stated of a JSON file. */
export interface JsonOptions {
  readonly encoding?: Encoding | undefined;
  /** Where the list of records stands: `products`, `catalogue/items`; blank for a list at the top. */
  readonly records?: string | undefined;
  readonly chooseRecords?: ChooseRecords | undefined;
}

const DEPTH_LIMIT = 50;

/** What stands in a list that has no key: the records of a list at the top. */
const ITEM = "item";

interface JsonLevel {
  readonly kind: "object" | "list";
  /** The key that values of it stand under. */
  name: string;
  /** Whether it is a list within a list, whose values are told by their number. */
  readonly isInner: boolean;
  count: number;
  /** What may come next. */
  wants: "key" | "colon" | "value" | "comma" | "first";
}

type JsonToken = { readonly token: TokenType; readonly value: unknown };

const unexpected = (): Error => new Error("something stands there that JSON does not have");

/** Turns JSON's tokens into a tree's events: each key is a node, and each item of a list one of its key. */
function jsonEvents(builder: TreeBuilder): { take(token: JsonToken): void; isOver(): boolean } {
  const levels: JsonLevel[] = [];
  let isOver = false;
  const nameHere = (): string => {
    const level = levels.at(-1);
    if (level === undefined) return "";
    if (level.kind === "object" || !level.isInner) return level.name;
    return String(level.count + 1);
  };
  const begin = (): void => {
    const level = levels.at(-1);
    if (isOver || (level !== undefined && level.wants !== "value" && level.wants !== "first"))
      throw unexpected();
    if (level?.kind === "object" && level.wants === "first") throw unexpected();
  };
  const done = (): void => {
    const level = levels.at(-1);
    if (level === undefined) isOver = true;
    else {
      level.count++;
      level.wants = "comma";
    }
  };
  const leaf = (text: string): void => {
    begin();
    builder.open(nameHere());
    builder.text(text);
    builder.close();
    done();
  };
  const close = (kind: JsonLevel["kind"]): void => {
    const level = levels.at(-1);
    const isRight = level?.kind === kind && (level.wants === "comma" || level.wants === "first");
    if (!isRight) throw unexpected();
    levels.pop();
    if (kind === "object" || level.isInner || levels.length === 0) builder.close();
    done();
  };
  return {
    isOver: () => isOver,
    take({ token, value }) {
      const level = levels.at(-1);
      switch (token) {
        case TokenType.LEFT_BRACE:
          begin();
          builder.open(nameHere());
          levels.push({ kind: "object", name: "", isInner: false, count: 0, wants: "first" });
          return;
        case TokenType.LEFT_BRACKET: {
          begin();
          const isInner = level?.kind === "list";
          const name = level?.kind === "object" ? level.name : ITEM;
          // A list at the top is the file's own node, one in a list a node of it; one under a key is its items.
          if (level === undefined || isInner) builder.open(nameHere());
          levels.push({ kind: "list", name, isInner, count: 0, wants: "first" });
          return;
        }
        case TokenType.RIGHT_BRACE:
          close("object");
          return;
        case TokenType.RIGHT_BRACKET:
          close("list");
          return;
        case TokenType.COLON:
          if (level?.wants !== "colon") throw unexpected();
          level.wants = "value";
          return;
        case TokenType.COMMA:
          if (level?.wants !== "comma") throw unexpected();
          level.wants = level.kind === "object" ? "key" : "value";
          return;
        case TokenType.STRING:
          if (level?.kind === "object" && (level.wants === "key" || level.wants === "first")) {
            level.name = String(value);
            level.wants = "colon";
            return;
          }
          leaf(String(value));
          return;
        case TokenType.NUMBER:
          leaf(value instanceof WrittenNumber ? digitsOf(value) : String(value));
          return;
        case TokenType.TRUE:
          leaf("yes");
          return;
        case TokenType.FALSE:
          leaf("no");
          return;
        case TokenType.NULL:
          leaf("");
          return;
        case TokenType.SEPARATOR:
      }
    },
  };
}

// Fifteen digits, no exponent and no zero at the end: such a number reads back from binary as it was written.
const isLossy = /\d{16}|\d\.\d{12}|\d[eE][+-]?\d|\.\d*0(?!\d)|-0(?![\d.])/;

/** The tree of one value; the quick way where no number of it could lose a digit. */
function treeOf(text: string, file: string): RecordNode | undefined {
  // What is no JSON is told in the words of the engine.
  const value: unknown = JSON.parse(text);
  if (typeof value !== "object" || value === null || Array.isArray(value)) throw new Error("it is no object");
  const builder = treeBuilder("", file, { format: "JSON", depthLimit: DEPTH_LIMIT });
  if (isLossy.test(text)) {
    const events = jsonEvents(builder);
    const tokenizer = new ExactTokenizer();
    tokenizer.onToken = (token) => events.take(token);
    tokenizer.write(text);
  } else buildValue(value, "", builder, false);
  return builder.root;
}

function leafText(value: unknown): string {
  if (typeof value === "string") return value;
  if (typeof value === "boolean") return value ? "yes" : "no";
  return typeof value === "number" ? String(value) : "";
}

function buildValue(value: unknown, name: string, builder: TreeBuilder, isInList: boolean): void {
  if (Array.isArray(value)) {
    if (isInList) builder.open(name);
    value.forEach((item, at) => buildValue(item, isInList ? String(at + 1) : name, builder, true));
    if (isInList) builder.close();
    return;
  }
  builder.open(name);
  if (typeof value === "object" && value !== null)
    for (const [key, inner] of Object.entries(value)) buildValue(inner, key, builder, false);
  else builder.text(leafText(value));
  builder.close();
}

/** Strings and signs of a text, in one pass: a string that is never closed ends it. */
function* tokensOf(text: string): Generator<string> {
  for (let at = 0; at < text.length; at++) {
    const sign = text[at] ?? "";
    if ("{}[],:".includes(sign)) yield sign;
    if (sign !== '"') continue;
    const from = at++;
    while (at < text.length && text[at] !== '"') at += text[at] === "\\" ? 2 : 1;
    if (at >= text.length) return;
    yield text.slice(from, at + 1);
  }
}

/** Where the first list of objects begins, by the keys that lead to it; undefined when the head shows none. */
function firstList(head: string): string | undefined {
  const keys: string[] = [];
  const inArray: boolean[] = [];
  let key = "";
  for (const token of tokensOf(head)) {
    if (token === "[" || token === "{") {
      if (token === "{" && inArray.at(-1) === true) return keys.filter(Boolean).join("/");
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
}

function treeOfHead(head: string, file: string): RecordNode | undefined {
  const builder = treeBuilder("", file, { format: "JSON", depthLimit: DEPTH_LIMIT });
  const events = jsonEvents(builder);
  const tokenizer = new ExactTokenizer();
  tokenizer.onToken = (token) => events.take(token);
  tokenizer.onError = () => undefined;
  try {
    tokenizer.write(head);
  } catch {
    // The beginning of a file ends somewhere, and what is broken is told when it is read.
  }
  return builder.root;
}

function broken(file: string, format: string, error: unknown): unknown {
  if (error instanceof Refusal || !(error instanceof Error)) return error;
  return new Refusal([diagnostic("broken-data", { format, reason: error.message }, { place: { file } })]);
}

/** Opens a JSON file: the objects of its first list, or of the list that is named, one after another. */
export async function openJson(source: ByteSource, options: JsonOptions = {}): Promise<TableStream> {
  const { file } = source;
  const text = await openText(source, options.encoding);
  const head = await firstPiece(text.pieces, file);
  const chosen = options.records === undefined ? options.chooseRecords?.(treeOfHead(head, file)) : undefined;
  const path = options.records?.replaceAll(".", "/") ?? chosen ?? firstList(head);
  if (path === undefined) throw new Refusal([diagnostic("no-records", { path: file, format: "JSON" })]);
  const wanted = path === "" ? ITEM : path;
  async function* records(): AsyncGenerator<readonly TreeRecord[]> {
    const builder = treeBuilder(wanted, file, { format: "JSON", depthLimit: DEPTH_LIMIT });
    const events = jsonEvents(builder);
    const tokenizer = new ExactTokenizer();
    let failure: Error | undefined;
    tokenizer.onToken = (token) => events.take(token);
    tokenizer.onError = (error) => void (failure ??= error);
    let [pending, ended] = [0, 0];
    const feed = (piece: string): readonly TreeRecord[] => {
      try {
        tokenizer.write(piece);
      } catch (error) {
        failure ??= error as Error;
      }
      pending = builder.recordsEnded() > ended ? 0 : pending + piece.length;
      ended = builder.recordsEnded();
      if (failure !== undefined) throw broken(file, "JSON", failure) as Error;
      if (pending > ROW_LIMIT * 2) throw rowTooLong(file);
      return builder.take().map((tree) => ({ tree }));
    };
    yield feed(head);
    for await (const piece of text.pieces) yield feed(piece);
    // A list that is never closed is half a file.
    if (!events.isOver())
      throw broken(file, "JSON", new Error("the file ends in the middle of a value")) as Error;
  }
  return structuredTable(
    file,
    "json",
    records(),
    () => [text.encoding().toUpperCase(), wanted === ITEM ? "a list of records" : `records under ${wanted}`],
    wanted,
  );
}

/** Opens JSON Lines: one object a line. A line that is no object is told as a row that cannot be taken. */
export async function openJsonLines(source: ByteSource, options: JsonOptions = {}): Promise<TableStream> {
  const { file } = source;
  const text = await openText(source, options.encoding);
  const head = await firstPiece(text.pieces, file);
  let row = 0;
  const record = (line: string): readonly TreeRecord[] => {
    row++;
    if (line.trim() === "") return [];
    try {
      return [{ row, tree: treeOf(line, file) }];
    } catch (error) {
      const reason = error instanceof Error ? error.message : String(error);
      const fault = diagnostic("broken-record", { reason }, { place: { file, row } });
      return [{ row, tree: undefined, fault }];
    }
  };
  async function* records(): AsyncGenerator<readonly TreeRecord[]> {
    let rest = "";
    const feed = (piece: string): readonly TreeRecord[] => {
      const lines = (rest + piece).split("\n");
      rest = lines.pop() ?? "";
      if (rest.length > ROW_LIMIT) throw rowTooLong(file);
      return lines.flatMap(record);
    };
    yield feed(head);
    for await (const piece of text.pieces) yield feed(piece);
    yield record(rest);
  }
  return structuredTable(file, "jsonl", records(), () => [
    text.encoding().toUpperCase(),
    "one record a line",
  ]);
}
