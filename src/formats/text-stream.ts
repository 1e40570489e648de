/** Bytes as text: the encoding found, proved or stated; what is no text refused. */
import { isAscii, isUtf8 } from "node:buffer";
import { TextDecoder } from "node:util";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { ByteSource } from "./byte-source.js";
import { pieceDecoder } from "./declared-encoding.js";

/** Encodings that are read. */
export const encodings = ["utf-8", "utf-16le", "utf-16be", "windows-1252"] as const;

export type Encoding = (typeof encodings)[number];

/** A file as text pieces, with how it is read and how many line ends have gone by. */
export interface TextStream {
  encoding(): string;
  readonly pieces: AsyncGenerator<string>;
  linesSoFar(): number;
}

const signatures: readonly (readonly [string, string])[] = [
  ["504b0304", "a ZIP archive or an XLSX workbook"],
  ["d0cf11e0", "an old binary workbook or document"],
  ["25504446", "a PDF document"],
  ["1f8b", "a gzip archive"],
  ["89504e47", "a picture"],
  ["ffd8ff", "a picture"],
];

/** What bytes that are no text are, as far as it shows; undefined for text. */
export function binaryKind(head: Buffer, encoding: Encoding): string | undefined {
  const hex = head.subarray(0, 4).toString("hex");
  const known = signatures.find(([signature]) => hex.startsWith(signature))?.[1];
  const isWide = encoding === "utf-16le" || encoding === "utf-16be";
  return known ?? (!isWide && head.includes(0) ? "binary data with NUL bytes" : undefined);
}

const marks: readonly (readonly [Encoding, readonly number[]])[] = [
  ["utf-8", [0xef, 0xbb, 0xbf]],
  ["utf-16le", [0xff, 0xfe]],
  ["utf-16be", [0xfe, 0xff]],
];

function markOf(head: Buffer): { readonly encoding: Encoding; readonly bytes: number } | undefined {
  const found = marks.find(([, bytes]) => bytes.every((byte, index) => head[index] === byte));
  return found === undefined ? undefined : { encoding: found[0], bytes: found[1].length };
}

/** UTF-16 without a mark: mostly Latin letters, so nearly every other byte is a NUL. */
function looksWide(head: Buffer): Encoding | undefined {
  const looked = Math.min(head.length & ~1, 4096);
  if (looked < 8) return undefined;
  let [even, odd] = [0, 0];
  for (let at = 0; at < looked; at += 2) {
    if (head[at] === 0) even++;
    if (head[at + 1] === 0) odd++;
  }
  const most = looked * 0.35;
  if (odd > most && even < most / 10) return "utf-16le";
  return even > most && odd < most / 10 ? "utf-16be" : undefined;
}

/** The encoding that a file's first bytes show by a mark or by their pattern. */
export const shownEncoding = (head: Buffer): Encoding | undefined =>
  markOf(head)?.encoding ?? looksWide(head);

function countLineFeeds(bytes: Buffer): number {
  let count = 0;
  for (let at = bytes.indexOf(10); at >= 0; at = bytes.indexOf(10, at + 1)) count++;
  return count;
}

/** The length of the incomplete UTF-8 character at the end, which waits for the next chunk. */
function incompleteTail(bytes: Buffer): number {
  for (let back = 1; back <= Math.min(3, bytes.length); back++) {
    const byte = bytes[bytes.length - back] ?? 0;
    if (byte >= 0xc0) return back < (byte >= 0xf0 ? 4 : byte >= 0xe0 ? 3 : 2) ? back : 0;
    if (byte < 0x80) return 0;
  }
  return 0;
}

function firstBadByte(bytes: Buffer): number {
  let [good, bad] = [0, bytes.length];
  while (bad - good > 1) {
    const middle = (good + bad) >> 1;
    const head = bytes.subarray(0, middle);
    if (isUtf8(head.subarray(0, middle - incompleteTail(head)))) good = middle;
    else bad = middle;
  }
  // The byte that began a character which never came to its end is the bad one.
  return good - incompleteTail(bytes.subarray(0, good));
}

/**
 * Opens a text: its encoding is the one stated, else the one that its first bytes show, else UTF-8, which is verified.
 * The first byte that is not UTF-8 after nothing but ASCII makes it Windows-1252, the way of older spreadsheets.
 */
export async function openText(source: ByteSource, stated?: Encoding): Promise<TextStream> {
  const { file } = source;
  const head = await source.head();
  const mark = markOf(head);
  let encoding = stated ?? mark?.encoding ?? looksWide(head) ?? "utf-8";
  const found = binaryKind(head, encoding);
  if (found !== undefined) throw new Refusal([diagnostic("not-a-table", { found }, { place: { file } })]);
  let lines = 0;
  let onlyAscii = true;
  async function* decoded(): AsyncGenerator<string> {
    let decoder = encoding === "utf-8" ? undefined : new TextDecoder(encoding);
    let held = Buffer.alloc(0);
    let toSkip = mark?.encoding === encoding ? mark.bytes : 0;
    for await (let chunk of source.chunks()) {
      if (toSkip > 0) {
        chunk = chunk.subarray(toSkip);
        toSkip = 0;
      }
      const bytes: Buffer = held.length === 0 ? chunk : Buffer.concat([held, chunk]);
      held = Buffer.alloc(0);
      if (decoder === undefined) {
        if (onlyAscii && isAscii(bytes)) {
          lines += countLineFeeds(bytes);
          yield bytes.toString("latin1");
          continue;
        }
        const whole = bytes.subarray(0, bytes.length - incompleteTail(bytes));
        if (isUtf8(whole)) {
          held = Buffer.from(bytes.subarray(whole.length));
          onlyAscii = false;
          lines += countLineFeeds(whole);
          yield whole.toString("utf8");
          continue;
        }
        decoder = fallback(bytes);
      }
      const known: TextDecoder = decoder;
      lines += countLineFeeds(bytes);
      yield known.decode(bytes, { stream: true });
    }
    if (held.length > 0) yield fallback(held).decode(held);
  }
  const fallback = (bytes: Buffer): TextDecoder => {
    const at = firstBadByte(bytes);
    if (stated !== undefined || mark !== undefined || !onlyAscii || !isAscii(bytes.subarray(0, at)))
      throw wrongEncoding(file, bytes, at, lines);
    encoding = "windows-1252";
    return new TextDecoder(encoding);
  };
  return { encoding: () => encoding, pieces: decoded(), linesSoFar: () => lines };
}

function wrongEncoding(file: string, bytes: Buffer, at: number, linesBefore: number): Refusal {
  const line = linesBefore + countLineFeeds(bytes.subarray(0, at)) + 1;
  const byte = `0x${(bytes[at] ?? 0).toString(16).toUpperCase().padStart(2, "0")}`;
  return new Refusal([
    diagnostic("wrong-encoding", { byte, line, encoding: "windows-1252" }, { place: { file, line } }),
  ]);
}

/**
 * A text in an encoding that it declares itself.
 * @throws Refusal, while it is read, where bytes are none of that encoding
 */
export function openDeclared(source: ByteSource, encoding: string): TextStream {
  const { file } = source;
  let lines = 0;
  async function* pieces(): AsyncGenerator<string> {
    const decoder = pieceDecoder(encoding);
    const checked = (text: string): string => {
      if (!decoder.isWhole())
        throw new Refusal([
          diagnostic("not-the-encoding", { encoding, line: lines + 1 }, { place: { file } }),
        ]);
      return text;
    };
    for await (const chunk of source.chunks()) {
      const text = checked(decoder.decode(chunk));
      lines += countLineFeeds(chunk);
      yield text;
    }
    yield checked(decoder.end());
  }
  return { encoding: () => encoding, pieces: pieces(), linesSoFar: () => lines };
}

/**
 * The first piece of a text.
 * @throws Refusal when the file is empty
 */
export async function firstPiece(pieces: AsyncGenerator<string>, file: string): Promise<string> {
  const step = await pieces.next();
  if (step.done === true || step.value.trim() === "")
    throw new Refusal([diagnostic("empty-file", { path: file })]);
  return step.value;
}
