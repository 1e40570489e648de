import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { allBytes, type ByteSource } from "./byte-source.js";
import { openCsv } from "./csv-reader.js";
import { gzipSource } from "./gzip-source.js";
import { refuseRepeatedColumns, type Format, type TableStream } from "./table-stream.js";
import { shownEncoding, type Encoding } from "./text-stream.js";

/** What a source file or the command line states of a file; all the rest is found out. */
export interface TableOptions {
  readonly format?: Format | undefined;
  readonly encoding?: Encoding | undefined;
  readonly delimiter?: string | undefined;
  readonly sheet?: string | number | undefined;
  readonly headerRow?: number | undefined;
  readonly records?: string | undefined;
}

const ARCHIVE_LIMIT = 512 << 20;

const byExtension: Readonly<Record<string, Format>> = {
  csv: "csv",
  tsv: "csv",
  tab: "csv",
  txt: "csv",
  xlsx: "xlsx",
  xlsm: "xlsx",
  xml: "xml",
  json: "json",
  jsonl: "jsonl",
  ndjson: "jsonl",
};

const named = (file: string): Format | undefined =>
  byExtension[/\.(\w+)$/.exec(file)?.[1]?.toLowerCase() ?? ""];

const startsWith = (head: Buffer, hex: string): boolean =>
  head.subarray(0, hex.length / 2).toString("hex") === hex;

const isZip = (head: Buffer): boolean => startsWith(head, "504b0304") || startsWith(head, "504b0506");

/** A workbook's archive names its content types within its first bytes or, rarely, behind other parts. */
const looksLikeWorkbook = (head: Buffer): boolean =>
  head.includes("[Content_Types].xml") || head.includes("xl/workbook") || head.includes("xl/worksheets");

const jsonHead = /^\s*(?:\[\s*[[{]|\[\s*\]|\{\s*")/;
const xmlHead = /^\s*(?:<\?xml|<!doctype(?! html)|<[a-z][\w:.-]*(?:\s[^<>]*)?>\s*<)/i;
const htmlHead = /^\s*<(?:!doctype html|html|table)\b/i;

const isJson = (text: string): boolean => {
  try {
    JSON.parse(text);
    return true;
  } catch {
    return false;
  }
};

/** Objects one a line: the first line is whole by itself, and more follow or the name says so. */
const areLines = (text: string, file: string): boolean => {
  const [first = "", second = ""] = text.split("\n").filter((line) => line.trim() !== "");
  return (
    first.trimStart().startsWith("{") &&
    isJson(first) &&
    (second.trimStart().startsWith("{") || named(file) !== "json")
  );
};

/** What a text holds by its first characters; CSV where nothing else shows. */
const textFormat = (head: Buffer, file: string): Format => {
  const encoding = shownEncoding(head) ?? "utf-8";
  const text = new TextDecoder(encoding).decode(head.subarray(0, 1 << 16)).replace(/^\ufeff/, "");
  const isMarkup = xmlHead.test(text) || (named(file) === "xml" && /^\s*</.test(text));
  if (isMarkup && !htmlHead.test(text)) return "xml";
  if (!jsonHead.test(text)) return "csv";
  return areLines(text, file) ? "jsonl" : "json";
};

const words: Readonly<Record<Format, string>> = {
  csv: "plain text",
  xlsx: "a workbook",
  xml: "XML",
  json: "JSON",
  jsonl: "JSON Lines",
};

/** A file whose name says one thing and whose bytes say another was renamed or broken on its way: not read by luck. */
const refuseOtherwise = (file: string, found: Format): void => {
  const expected = named(file);
  const json = (format: Format | undefined): boolean => format === "json" || format === "jsonl";
  if (expected === undefined || expected === found || (json(expected) && json(found))) return;
  throw new Refusal([
    diagnostic("named-otherwise", { path: file, named: words[expected], found: words[found], format: found }),
  ]);
};

/** The files that a source holds: those inside an archive, what a gzip file unpacks to, or itself. */
export const unpacked = async (source: ByteSource): Promise<readonly ByteSource[]> => {
  const head = await source.head();
  if (startsWith(head, "1f8b")) return unpacked(gzipSource(source));
  if (!isZip(head) || named(source.file) === "xlsx" || looksLikeWorkbook(head)) return [source];
  const { archiveSources } = await import("./zip-archive.js");
  return archiveSources(source.path ?? (await allBytes(source, ARCHIVE_LIMIT)), source.file);
};

/**
 * Opens a file as a table, by what it holds.
 * @throws Refusal when it is empty, no table, or not what its name says
 */
export const openTable = async (source: ByteSource, options: TableOptions = {}): Promise<TableStream> => {
  const head = await source.head();
  if (head.length === 0) throw new Refusal([diagnostic("empty-file", { path: source.file })]);
  const found = isZip(head) ? "xlsx" : (options.format ?? textFormat(head, source.file));
  if (options.format === undefined) refuseOtherwise(source.file, found);
  else if (options.format === "xlsx" && found !== "xlsx") refuseOtherwise(`${source.file}.xlsx`, found);
  const table = await opened(source, found, options);
  refuseRepeatedColumns(table);
  return table;
};

const opened = async (source: ByteSource, format: Format, options: TableOptions): Promise<TableStream> => {
  switch (format) {
    case "csv":
      return openCsv(source, options);
    case "xlsx":
      return (await import("./xlsx-reader.js")).openXlsx(source, options);
    case "xml":
      return (await import("./xml-reader.js")).openXml(source, options);
    case "json":
      return (await import("./json-reader.js")).openJson(source, options);
    case "jsonl":
      return (await import("./json-reader.js")).openJsonLines(source, options);
  }
};
