import { isUtf8 } from "node:buffer";
import { createReadStream } from "node:fs";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { readFault } from "./file-fault.js";

export const encodings = ["utf-8", "utf-16le", "windows-1252"] as const;

export type Encoding = (typeof encodings)[number];

/** A file as text pieces, with how it was read and how many line ends have gone by. */
export interface TextStream {
  readonly encoding: Encoding;
  readonly pieces: AsyncGenerator<string>;
  linesSoFar(): number;
}

const CHUNK_BYTES = 1 << 20;

const signatures: readonly (readonly [string, string])[] = [
  ["504b0304", "a ZIP archive or an XLSX workbook"],
  ["d0cf11e0", "an old binary workbook or document"],
  ["25504446", "a PDF document"],
  ["1f8b", "a gzip archive"],
  ["89504e47", "a picture"],
  ["ffd8ff", "a picture"],
];

const refuseBinary = (head: Buffer, file: string, encoding: Encoding): void => {
  const hex = head.subarray(0, 4).toString("hex");
  const known = signatures.find(([signature]) => hex.startsWith(signature))?.[1];
  const found =
    known ?? (encoding !== "utf-16le" && head.includes(0) ? "binary data with NUL bytes" : undefined);
  if (found !== undefined) throw new Refusal([diagnostic("not-a-table", { found }, { place: { file } })]);
};

const markOf = (head: Buffer): { readonly encoding: Encoding; readonly bytes: number } | undefined => {
  if (head[0] === 0xef && head[1] === 0xbb && head[2] === 0xbf) return { encoding: "utf-8", bytes: 3 };
  return head[0] === 0xff && head[1] === 0xfe ? { encoding: "utf-16le", bytes: 2 } : undefined;
};

const countLineFeeds = (bytes: Buffer): number => {
  let count = 0;
  for (let at = bytes.indexOf(10); at >= 0; at = bytes.indexOf(10, at + 1)) count++;
  return count;
};

/** The length of the incomplete UTF-8 character at the end, which waits for the next chunk. */
const incompleteTail = (bytes: Buffer): number => {
  for (let back = 1; back <= Math.min(3, bytes.length); back++) {
    const byte = bytes[bytes.length - back] ?? 0;
    if (byte >= 0xc0) return back < (byte >= 0xf0 ? 4 : byte >= 0xe0 ? 3 : 2) ? back : 0;
    if (byte < 0x80) return 0;
  }
  return 0;
};

const firstBadByte = (bytes: Buffer): number => {
  let [good, bad] = [0, bytes.length];
  while (bad - good > 1) {
    const middle = (good + bad) >> 1;
    const head = bytes.subarray(0, middle);
    if (isUtf8(head.subarray(0, middle - incompleteTail(head)))) good = middle;
    else bad = middle;
  }
  // The byte that began a character which never came to its end is the bad one.
  return good - incompleteTail(bytes.subarray(0, good));
};

/** Opens a text file; its encoding is the one stated, else the byte order mark's, else UTF-8, which is verified. */
export const openText = async (
  path: string,
  file: string,
  stated: Encoding | undefined,
): Promise<TextStream> => {
  const chunks = createReadStream(path, { highWaterMark: CHUNK_BYTES })[
    Symbol.asyncIterator
  ]() as AsyncIterator<Buffer>;
  const nextChunk = async (): Promise<Buffer | undefined> => {
    try {
      const { done, value } = await chunks.next();
      return done === true ? undefined : value;
    } catch (error) {
      throw readFault(path, error);
    }
  };
  const first = (await nextChunk()) ?? Buffer.alloc(0);
  const mark = markOf(first);
  const encoding = stated ?? mark?.encoding ?? "utf-8";
  refuseBinary(first, file, encoding);
  let lines = 0;
  async function* decoded(): AsyncGenerator<string> {
    const decoder = encoding === "utf-8" ? undefined : new TextDecoder(encoding);
    let held = Buffer.alloc(0);
    let chunk: Buffer | undefined = mark?.encoding === encoding ? first.subarray(mark.bytes) : first;
    for (; chunk !== undefined; chunk = await nextChunk()) {
      if (decoder !== undefined) {
        lines += countLineFeeds(chunk);
        yield decoder.decode(chunk, { stream: true });
        continue;
      }
      const bytes: Buffer = held.length === 0 ? chunk : Buffer.concat([held, chunk]);
      const whole = bytes.subarray(0, bytes.length - incompleteTail(bytes));
      held = Buffer.from(bytes.subarray(whole.length));
      if (!isUtf8(whole)) throw wrongEncoding(file, whole, lines);
      lines += countLineFeeds(whole);
      yield whole.toString("utf8");
    }
    if (held.length > 0) throw wrongEncoding(file, held, lines);
  }
  return { encoding, pieces: decoded(), linesSoFar: () => lines };
};

const wrongEncoding = (file: string, bytes: Buffer, linesBefore: number): Refusal => {
  const at = firstBadByte(bytes);
  const line = linesBefore + countLineFeeds(bytes.subarray(0, at)) + 1;
  const byte = `0x${(bytes[at] ?? 0).toString(16).toUpperCase().padStart(2, "0")}`;
  return new Refusal([
    diagnostic("wrong-encoding", { byte, line, encoding: "windows-1252" }, { place: { file, line } }),
  ]);
};
