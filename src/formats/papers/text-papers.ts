/** A table of text, or lines of it, as a paper: whatever is nothing else and no binary file. */
import { extname } from "node:path";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { blankCell, type SheetPaper } from "../../core/learning/paper.js";
import { rawRecords, type TableText } from "../table-form.js";
import { binaryKind } from "../text-stream.js";
import type { PaperFile, PaperKind } from "./paper-kind.js";

const LONGEST_TABLE = 250_000;

const tableForm = ({ form, text }: TableText): SheetPaper["form"] => ({
  separator: form.delimiter,
  encoding: form.encoding === "utf-16be" ? "utf-16le" : form.encoding,
  startsWithMark: form.isMarked,
  lineEnd: text.includes("\r\n") ? "\r\n" : "\n",
});

/** A table or lines of text as a sheet; what is indented keeps its indent. */
function textPaper({ shown, file }: PaperFile): SheetPaper {
  const read = shown();
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
}

/** Whether a file says by its first bytes that its letters are two bytes wide, which would look like no text at all. */
const isWide = (bytes: Buffer): boolean =>
  bytes.subarray(0, 2).equals(Buffer.from([0xff, 0xfe])) ||
  bytes.subarray(0, 2).equals(Buffer.from([0xfe, 0xff]));

/** Refuses what is no text. */
export function refuseBinary({ bytes, file }: PaperFile): void {
  const found = binaryKind(bytes.subarray(0, 4096), "utf-8");
  if (found !== undefined && !isWide(bytes))
    throw new Refusal([diagnostic("not-a-table", { found }, { place: { file } })]);
}

/** Tables and lines of text. */
export const textPapers: PaperKind = {
  holds: () => true,
  read: (file) => ({ papers: [textPaper(file)], told: [] }),
};
