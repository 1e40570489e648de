/** What a channel hands out, as papers: workbooks with all that they show, tables, texts, trees. */
import { extname } from "node:path";
import { SaxesParser } from "saxes";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import {
  blankCell,
  type Paper,
  type SheetPaper,
  type TreeNode,
  type TreePaper,
} from "../core/learning/paper.js";
import { smallFile, SMALL_FILE } from "./small-file.js";
import { rawRecords, tableText } from "./table-form.js";
import { templateBook } from "./template-book.js";
import { binaryKind } from "./text-stream.js";
import { refuseEntities } from "./xml-reader.js";

/** Papers of a file, and what to know of it. */
export interface ReadPapers {
  readonly papers: readonly Paper[];
  /** What a person should know of the file. */
  readonly told: readonly string[];
}

const DEEPEST = 60;
const MOST_NODES = 500_000;
const LONGEST_TABLE = 250_000;

interface Growing {
  name: string;
  attributes: Map<string, string>;
  children: Growing[];
  text: string;
  line: number;
}

const broken = (file: string, format: string, reason: string, line = 0): Refusal =>
  new Refusal([
    diagnostic("broken-data", { format, reason }, { place: { file, ...(line > 0 ? { line } : {}) } }),
  ]);

/** A document of XML as a tree; entities of its own are refused. */
const xmlTree = (text: string, file: string): TreeNode => {
  const parser = new SaxesParser();
  const path: Growing[] = [];
  let root: Growing | undefined;
  let nodes = 0;
  parser.on("doctype", (doctype) => refuseEntities(doctype, file));
  parser.on("error", (error) => {
    throw broken(file, "XML", error.message.replace(/^.*?\d+:\d+: /, ""), parser.line);
  });
  parser.on("opentag", ({ name, attributes }) => {
    if (++nodes > MOST_NODES || path.length >= DEEPEST)
      throw broken(
        file,
        "XML",
        `it has more than ${MOST_NODES} elements, or more than ${DEEPEST} within each other`,
      );
    const node: Growing = {
      name,
      attributes: new Map(Object.entries(attributes)),
      children: [],
      text: "",
      line: parser.line,
    };
    path.at(-1)?.children.push(node);
    root ??= node;
    path.push(node);
  });
  const add = (piece: string): void => {
    const node = path.at(-1);
    if (node !== undefined) node.text += piece;
  };
  parser.on("text", add);
  parser.on("cdata", add);
  parser.on("closetag", () => path.pop());
  parser.write(text.startsWith("\ufeff") ? text.slice(1) : text).close();
  if (root === undefined) throw broken(file, "XML", "it has no element");
  return root;
};

const scalarText = (value: unknown): string =>
  typeof value === "string"
    ? value
    : typeof value === "number" || typeof value === "boolean"
      ? String(value)
      : "";

/** JSON as a tree: members of objects are named children, items of lists bear their list's name. */
const jsonTree = (json: unknown): TreeNode => {
  let nodes = 0;
  const node = (name: string, value: unknown, deep: number): readonly TreeNode[] => {
    if (++nodes > MOST_NODES || deep > DEEPEST) return [];
    if (Array.isArray(value)) return value.flatMap((item) => node(name, item, deep + 1));
    const own = { name, attributes: new Map<string, string>(), line: 0 };
    if (typeof value !== "object" || value === null)
      return [{ ...own, children: [], text: scalarText(value) }];
    return [
      {
        ...own,
        children: Object.entries(value).flatMap(([key, inner]) => node(key, inner, deep + 1)),
        text: "",
      },
    ];
  };
  const children = Array.isArray(json)
    ? json.flatMap((item) => node("item", item, 1))
    : (node("root", json, 0)[0]?.children ?? []);
  return { name: "root", attributes: new Map(), children, text: "", line: 0 };
};

const parsed = (text: string, file: string): unknown => {
  try {
    return JSON.parse(text.replace(/^\ufeff/, ""));
  } catch (error) {
    throw broken(file, "JSON", error instanceof Error ? error.message : "it cannot be read");
  }
};

/** JSON Lines: an object a line. */
const jsonLines = (text: string): readonly unknown[] | undefined => {
  const lines = text.split(/\r?\n/).filter((line) => line.trim() !== "");
  if (lines.length < 2) return undefined;
  try {
    const objects = lines.map((line): unknown => JSON.parse(line));
    return objects.every((one) => typeof one === "object" && one !== null) ? objects : undefined;
  } catch {
    return undefined;
  }
};

const tableForm = ({ form, text }: ReturnType<typeof tableText>): SheetPaper["form"] => ({
  separator: form.delimiter,
  encoding: form.encoding === "utf-16be" ? "utf-16le" : form.encoding,
  startsWithMark: form.isMarked,
  lineEnd: text.includes("\r\n") ? "\r\n" : "\n",
});

/** A table or lines of text as a sheet; what is indented keeps its indent. */
const textPaper = (bytes: Buffer, file: string): SheetPaper => {
  const read = tableText(bytes);
  const isLines =
    extname(file).toLowerCase() === ".txt" && !/[\t;,|].*[\t;,|]/.test(read.text.split(/\r?\n/, 1)[0] ?? "");
  const rows = isLines
    ? read.text.split(/\r\n|\n|\r/).map((line) => [line])
    : rawRecords(read.text, read.form.delimiter).map(({ cells }) => cells);
  return {
    paper: "sheet",
    file,
    sheet: "",
    isHidden: false,
    isProtected: false,
    rows: rows
      .slice(0, LONGEST_TABLE)
      .map((cells) => cells.map((text) => (text === "" ? blankCell : { ...blankCell, text }))),
    merges: [],
    rules: [],
    frozenRows: 0,
    form: tableForm(read),
  };
};

const treePaper = (file: string, format: TreePaper["format"], root: TreeNode, json: unknown): TreePaper => ({
  paper: "tree",
  file,
  format,
  root,
  json,
});

/**
 * Reads a file that a channel hands out, whatever it is: a workbook, a table, lines of text, XML or JSON.
 * @throws Refusal when it is damaged, too large, or none of these
 */
export const readPapers = async (path: string, file: string): Promise<ReadPapers> => {
  const bytes = await smallFile(path, file, SMALL_FILE);
  if (bytes.length === 0)
    throw new Refusal([diagnostic("not-a-table", { found: "an empty file" }, { place: { file } })]);
  if (bytes.subarray(0, 4).toString("latin1") === "PK\u0003\u0004") {
    const book = await templateBook(bytes, file);
    return {
      papers: book.sheets,
      told: [
        ...(book.hasMacros
          ? [`${file} holds macros: none is run, and they stay in the filled workbook`]
          : []),
        ...book.sheets
          .filter(({ isProtected, isHidden }) => isProtected && !isHidden)
          .map(
            ({ sheet }) =>
              `${file}, sheet "${sheet}" is protected: it is filled all the same, and stays protected`,
          ),
        ...book.unread
          .slice(0, 5)
          .map(
            ({ sheet, formula }) =>
              `${file}, sheet "${sheet}": the list "${formula.slice(0, 60)}" could not be worked out`,
          ),
      ],
    };
  }
  const found = binaryKind(bytes.subarray(0, 4096), "utf-8");
  const isWide =
    bytes.subarray(0, 2).equals(Buffer.from([0xff, 0xfe])) ||
    bytes.subarray(0, 2).equals(Buffer.from([0xfe, 0xff]));
  if (found !== undefined && !isWide)
    throw new Refusal([diagnostic("not-a-table", { found }, { place: { file } })]);
  const { text } = tableText(bytes);
  const start = text.trimStart()[0] ?? "";
  if (start === "<") return { papers: [treePaper(file, "xml", xmlTree(text, file), undefined)], told: [] };
  const isJson = (start === "{" || start === "[") && /\.(?:json|jsonl|ndjson|jsonld)$/i.test(file);
  if (isJson) {
    const json = jsonLines(text) ?? parsed(text, file);
    return { papers: [treePaper(file, "json", jsonTree(json), json)], told: [] };
  }
  return { papers: [textPaper(bytes, file)], told: [] };
};
