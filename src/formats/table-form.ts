/** The form that a person's spreadsheet gave a table, kept when it is written into. */
import { isUtf8 } from "node:buffer";
import iconv from "iconv-lite";
import { sniffDelimiter } from "./csv-reader.js";
import { shownEncoding, type Encoding } from "./text-stream.js";

/** How a person's spreadsheet saved a table: what is written into it keeps to that. */
export interface TableForm {
  readonly encoding: Encoding;
  /** Whether the encoding is said by a mark before the text. */
  readonly isMarked: boolean;
  readonly delimiter: string;
  readonly lineEnd: string;
}

/** The form of tables that we write new. */
export const ownForm: TableForm = { encoding: "utf-8", isMarked: false, delimiter: ",", lineEnd: "\n" };

const MARK = "\ufeff";

/** A table of text, decoded, with the form that it had. */
export interface TableText {
  readonly text: string;
  readonly form: TableForm;
}

/** A small table's text, and its form; read as the reader of tables would. */
export function tableText(bytes: Buffer): TableText {
  const encoding = shownEncoding(bytes) ?? (isUtf8(bytes) ? "utf-8" : "windows-1252");
  const decoded = iconv.decode(bytes, encoding, { stripBOM: false });
  const isMarked = decoded.startsWith(MARK);
  const text = isMarked ? decoded.slice(1) : decoded;
  return {
    text,
    form: {
      encoding,
      isMarked,
      delimiter: sniffDelimiter(text),
      lineEnd: /\r\n|\n|\r/.exec(text)?.[0] ?? "\n",
    },
  };
}

/** Text in a table's form; where its encoding has no sign for a letter, in UTF-8 with a mark, which spreadsheets read too. */
export function tableBytes(text: string, { encoding, isMarked }: TableForm): Buffer {
  const bytes = iconv.encode(isMarked ? MARK + text : text, encoding, { addBOM: false });
  if (encoding !== "windows-1252" || iconv.decode(bytes, encoding) === text) return bytes;
  return Buffer.from(MARK + text);
}

/** A record with its own characters. */
export interface RawRecord {
  /** Its own characters, line end included. */
  readonly text: string;
  readonly lineEnd: string;
  readonly cells: readonly string[];
}

/** The records of a text with their own characters. A quote counts where the reader lets it: at the beginning of a cell, until one that a cell can end with. */
export function rawRecords(text: string, delimiter: string): readonly RawRecord[] {
  const found: RawRecord[] = [];
  const endAt = (at: number): string =>
    text[at] === "\r" && text[at + 1] === "\n"
      ? "\r\n"
      : text[at] === "\r" || text[at] === "\n"
        ? text[at]
        : "";
  const isEnd = (at: number): boolean =>
    at >= text.length || text.startsWith(delimiter, at) || endAt(at) !== "";
  for (let start = 0; start < text.length;) {
    const cells: string[] = [];
    let at = start;
    for (;;) {
      let cell = "";
      if (text[at] === '"') {
        at++;
        for (; at < text.length; at++) {
          if (text[at] !== '"') cell += text[at];
          else if (text[at + 1] === '"') cell += text[at++];
          else if (isEnd(at + 1)) break;
          else cell += '"';
        }
        at++;
      } else {
        const from = at;
        while (!isEnd(at)) at++;
        cell = text.slice(from, at);
      }
      cells.push(cell);
      if (!text.startsWith(delimiter, at)) break;
      at += delimiter.length;
    }
    const lineEnd = endAt(at);
    const end = Math.min(text.length, at + lineEnd.length);
    found.push({ text: text.slice(start, end), lineEnd, cells });
    start = end;
  }
  return found;
}
