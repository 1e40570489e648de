/** XML as a stream of records; no entities, bounded depth. */
import { localName } from "../core/records/local-name.js";
import { SaxesParser, type SaxesTagPlain } from "saxes";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { ByteSource } from "./byte-source.js";
import type { RecordNode } from "../core/records/node.js";
import { structuredTable, type TreeRecord } from "./structured-table.js";
import { ROW_LIMIT, rowTooLong, type TableStream } from "./table-stream.js";
import { treeBuilder, type TreeBuilder } from "./tree-builder.js";
import type { ChooseRecords } from "./kinds/file-kind.js";
import { declaredEncoding } from "./declared-encoding.js";
import {
  firstPiece,
  openDeclared,
  openText,
  shownEncoding,
  type Encoding,
  type TextStream,
} from "./text-stream.js";

/** What is stated of an XML file. */
export interface XmlOptions {
  readonly encoding?: Encoding | undefined;
  /** The element of one record, as a name or the end of its path: `product`, `goods/product`. */
  readonly records?: string | undefined;
  readonly chooseRecords?: ChooseRecords | undefined;
}

const DEPTH_LIMIT = 200;

const declared = /^\s*<\?xml[^>]*\bencoding=["']([\w.:-]{1,60})["']/;

/** A file's text by what its first bytes show, else by what it declares; a name that nobody knows is never guessed at. */
async function openXmlText(source: ByteSource): Promise<TextStream> {
  const head = await source.head();
  const name =
    shownEncoding(head) === undefined
      ? declared.exec(head.subarray(0, 200).toString("latin1"))?.[1]
      : undefined;
  if (name === undefined) return openText(source);
  const encoding = declaredEncoding(name);
  if (encoding === undefined)
    throw new Refusal([diagnostic("unknown-encoding", { encoding: name }, { place: { file: source.file } })]);
  if (encoding === "utf-8" || encoding === "windows-1252") return openText(source, encoding);
  return openDeclared(source, encoding);
}

/** Entities of its own are how XML is made to grow without end or to read other files: none is taken. */
export function refuseEntities(doctype: string, file: string): void {
  if (/<!ENTITY/i.test(doctype)) throw new Refusal([diagnostic("xml-entities", {}, { place: { file } })]);
}

/** The element that stands for one record: of those that repeat, the one nearest to the root. */
function recordPath(head: string, file: string): string {
  const counts = new Map<string, number>();
  const parents = new Set<string>();
  const path: string[] = [];
  const parser = new SaxesParser();
  parser.on("doctype", (doctype) => refuseEntities(doctype, file));
  parser.on("error", () => undefined);
  parser.on("opentag", ({ name, attributes }) => {
    if (path.length > 0) parents.add(path.join("/"));
    path.push(localName(name));
    const here = path.join("/");
    if (Object.keys(attributes).length > 0) parents.add(here);
    counts.set(here, (counts.get(here) ?? 0) + 1);
  });
  parser.on("closetag", () => void path.pop());
  parser.write(head);
  const depth = (candidate: string): number => candidate.split("/").length;
  const candidates = [...counts]
    .filter(([candidate, count]) => parents.has(candidate) && depth(candidate) > 1 && count > 1)
    .sort(([a, m], [b, n]) => depth(a) - depth(b) || n - m);
  const single = [...counts.keys()].filter((candidate) => depth(candidate) === 2 && parents.has(candidate));
  return candidates[0]?.[0] ?? single[0] ?? "";
}

const noAttributes: ReadonlyMap<string, string> = new Map();

function attributesOf({ attributes }: SaxesTagPlain): ReadonlyMap<string, string> {
  const entries = Object.entries(attributes);
  if (entries.length === 0) return noAttributes;
  const found = new Map<string, string>();
  for (const [name, value] of entries)
    if (name === "xml:lang" || !/^xmlns(?::|$)/.test(name)) found.set(localName(name), value);
  return found;
}

/** Lets a parser's events build the trees of records. */
function buildInto(parser: SaxesParser, builder: TreeBuilder, file: string): void {
  parser.on("doctype", (doctype) => refuseEntities(doctype, file));
  parser.on("opentag", (tag) => builder.open(localName(tag.name), attributesOf(tag)));
  parser.on("text", (text) => builder.text(text));
  parser.on("cdata", (text) => builder.text(text));
  parser.on("closetag", () => builder.close());
}

/** The beginning of a file as one tree, however it ends. */
function treeOfHead(head: string, file: string): RecordNode | undefined {
  const builder = treeBuilder("", file, { format: "XML", depthLimit: DEPTH_LIMIT });
  const parser = new SaxesParser();
  parser.on("error", () => undefined);
  buildInto(parser, builder, file);
  parser.write(head);
  return builder.root;
}

/**
 * Opens an XML file of records.
 * @throws Refusal when it is not well-formed, declares entities, or has no repeated element
 */
export async function openXml(source: ByteSource, options: XmlOptions = {}): Promise<TableStream> {
  const { file } = source;
  const text =
    options.encoding === undefined ? await openXmlText(source) : await openText(source, options.encoding);
  const head = await firstPiece(text.pieces, file);
  const chosen = options.records === undefined ? options.chooseRecords?.(treeOfHead(head, file)) : undefined;
  const wanted = options.records ?? chosen ?? recordPath(head, file);
  if (wanted === "") throw new Refusal([diagnostic("no-records", { path: file, format: "XML" })]);
  async function* records(): AsyncGenerator<readonly TreeRecord[]> {
    const parser = new SaxesParser();
    const builder = treeBuilder(wanted, file, { format: "XML", depthLimit: DEPTH_LIMIT });
    buildInto(parser, builder, file);
    const finished = (): readonly TreeRecord[] => builder.take().map((tree) => ({ tree }));
    let failure: Error | undefined;
    parser.on("error", (error) => {
      failure ??= error;
    });
    let [pending, ended] = [0, 0];
    const feed = (piece: string): readonly TreeRecord[] => {
      parser.write(piece);
      pending = builder.recordsEnded() > ended ? 0 : pending + piece.length;
      ended = builder.recordsEnded();
      if (failure !== undefined) throw brokenXml(file, failure);
      if (pending > ROW_LIMIT * 2) throw rowTooLong(file);
      return finished();
    };
    for (const batch of pieces(head)) yield feed(batch);
    for await (const piece of text.pieces) for (const batch of pieces(piece)) yield feed(batch);
    parser.close();
    if (failure !== undefined) throw brokenXml(file, failure);
    yield finished();
  }
  return structuredTable(
    file,
    "xml",
    records(),
    () => [text.encoding().toUpperCase(), `one <${wanted.split("/").at(-1) ?? wanted}> a record`],
    wanted,
  );
}

const PIECE = 1 << 16;

/** Smaller pieces keep the batches of finished records small. */
function* pieces(text: string): Generator<string> {
  for (let at = 0; at < text.length; at += PIECE) yield text.slice(at, at + PIECE);
}

function brokenXml(file: string, error: Error): Refusal {
  const [, line, position, reason] = /^(?:[^:]*:)?(\d+):(\d+): (.*)$/s.exec(error.message) ?? [];
  const place = line === undefined ? { file } : { file, line: Number(line), position: Number(position) };
  return new Refusal([
    diagnostic("broken-data", { format: "XML", reason: reason ?? error.message }, { place }),
  ]);
}
