/** Opens any file as a table: unpacks it, tells its kind by its bytes, and refuses what its name says otherwise. */
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { allBytes, type ByteSource } from "./byte-source.js";
import { gzipSource } from "./gzip-source.js";
import type { FileHead, FileKind, TableOptions } from "./kinds/file-kind.js";
import { kindNamed, kindOf, kinds } from "./kinds/kinds.js";
import { isZip } from "./kinds/xlsx.js";
import { refuseRepeatedColumns, type TableStream } from "./table-stream.js";
import { shownEncoding } from "./text-stream.js";

const ARCHIVE_LIMIT = 512 << 20;
const SHOWN_BYTES = 1 << 16;

const isGzip = (head: Buffer): boolean => head[0] === 0x1f && head[1] === 0x8b;

/** A workbook's archive names its content types within its first bytes or, rarely, behind other parts. */
const looksLikeWorkbook = (head: Buffer): boolean =>
  head.includes("[Content_Types].xml") || head.includes("xl/workbook") || head.includes("xl/worksheets");

/** A file whose name says one thing and whose bytes say another was renamed or broken on its way: not read by luck. */
function refuseOtherwise(file: string, found: FileKind): void {
  const expected = kindNamed(file);
  if (expected === undefined || expected === found || expected.near === found.format) return;
  const { words, format } = found;
  throw new Refusal([
    diagnostic("named-otherwise", { path: file, named: expected.words, found: words, format }),
  ]);
}

/** The files that a source holds: those inside an archive, what a gzip file unpacks to, or itself. */
export async function unpacked(source: ByteSource): Promise<readonly ByteSource[]> {
  const head = await source.head();
  if (isGzip(head)) return unpacked(gzipSource(source));
  if (!isZip(head) || kindNamed(source.file)?.isWorkbook === true || looksLikeWorkbook(head)) return [source];
  const { archiveSources } = await import("./zip-archive.js");
  return archiveSources(source.path ?? (await allBytes(source, ARCHIVE_LIMIT)), source.file);
}

/** What a file holds by its first bytes; where the person says what it is, only a workbook is not taken at their word. */
function kindIn(bytes: Buffer, file: string, { format }: TableOptions): FileKind {
  if (format !== undefined && !isZip(bytes)) return kindOf(format);
  const text = new TextDecoder(shownEncoding(bytes) ?? "utf-8")
    .decode(bytes.subarray(0, SHOWN_BYTES))
    .replace(/^\ufeff/, "");
  const head: FileHead = { bytes, text, named: kindNamed(file)?.format };
  return kinds.find((kind) => kind.holds(head)) ?? kindOf("csv");
}

/**
 * Opens a file as a table, by what it holds.
 * @throws Refusal when it is empty, no table, or not what its name says
 */
export async function openTable(source: ByteSource, options: TableOptions = {}): Promise<TableStream> {
  const bytes = await source.head();
  if (bytes.length === 0) throw new Refusal([diagnostic("empty-file", { path: source.file })]);
  const found = kindIn(bytes, source.file, options);
  if (options.format === undefined) refuseOtherwise(source.file, found);
  else if (kindOf(options.format).isWorkbook && !found.isWorkbook)
    refuseOtherwise(`${source.file}.${options.format}`, found);
  const table = await found.open(source, options);
  refuseRepeatedColumns(table);
  return table;
}
