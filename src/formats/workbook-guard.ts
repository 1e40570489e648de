import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { memberChunks } from "./zip-archive.js";

/** Different texts of a workbook: the package that reads it holds them all at once. */
const STRINGS_LIMIT = 2_000_000;
const STRINGS_MEGABYTES = 256;

const [LESS, GREATER, QUOTE, APOSTROPHE, SLASH, QUESTION, BANG] = [60, 62, 34, 39, 47, 63, 33];

const TAG_LIMIT = 1 << 20;

/** What is met in a part of a workbook. */
interface Seen {
  /** A tag as it is written between its angle brackets. */
  tag?(tag: Buffer): void;
  text?(text: Buffer): void;
}

/**
 * Whether a part is whole: each element that opens is closed, none closes that was not open, and it ends behind its root.
 * The package that reads workbooks takes half a part for a whole one, so this is looked at before, in one pass over bytes.
 */
class PartScan {
  private depth = 0;
  private hadRoot = false;
  private rest: Buffer = Buffer.alloc(0);
  private isBroken = false;

  constructor(private readonly seen: Seen = {}) {}

  feed(chunk: Buffer): void {
    if (this.isBroken) return;
    const bytes = this.rest.length === 0 ? chunk : Buffer.concat([this.rest, chunk]);
    let at = 0;
    while (at < bytes.length) {
      const open = bytes.indexOf(LESS, at);
      if (open < 0) break;
      if (open > at) this.seen.text?.(bytes.subarray(at, open));
      const end = this.endOf(bytes, open);
      if (end < 0) {
        at = open;
        break;
      }
      this.take(bytes, open + 1, end);
      at = end + 1;
    }
    const open = bytes.indexOf(LESS, at);
    this.rest = open < 0 ? Buffer.alloc(0) : Buffer.from(bytes.subarray(open));
    if (this.rest.length > TAG_LIMIT) this.isBroken = true;
  }

  isWhole(): boolean {
    return !this.isBroken && this.hadRoot && this.depth === 0 && this.rest.length === 0;
  }

  /** Where what begins at `open` ends; less than 0 where it does not end here. */
  private endOf(bytes: Buffer, open: number): number {
    const next = bytes[open + 1];
    if (next === undefined) return -1;
    if (next === BANG) {
      const isComment = bytes.subarray(open, open + 4).toString("latin1") === "<!--";
      const isData = bytes.subarray(open, open + 9).toString("latin1") === "<![CDATA[";
      if (!isComment && !isData) {
        // A document type is what no workbook has.
        this.isBroken = bytes.length > open + 9;
        return -1;
      }
      const end = bytes.indexOf(isComment ? "-->" : "]]>", open + 4);
      return end < 0 ? -1 : end + 2;
    }
    let quote = 0;
    for (let at = open + 1; at < bytes.length; at++) {
      const byte = bytes[at];
      if (quote !== 0) {
        if (byte === quote) quote = 0;
      } else if (byte === GREATER) return at;
      else if (byte === QUOTE || byte === APOSTROPHE) quote = byte;
      else if (byte === LESS) {
        this.isBroken = true;
        return -1;
      }
    }
    return -1;
  }

  private take(bytes: Buffer, from: number, to: number): void {
    const first = bytes[from];
    if (first === QUESTION || first === BANG) return;
    if (first === SLASH) this.depth--;
    else {
      if (this.depth === 0 && this.hadRoot) this.isBroken = true;
      this.hadRoot = true;
      this.seen.tag?.(bytes.subarray(from, to));
      if (bytes[to - 1] !== SLASH) this.depth++;
    }
    if (this.depth < 0) this.isBroken = true;
  }
}

const damaged = (file: string, part: string): Refusal =>
  new Refusal([
    diagnostic(
      "broken-data",
      { format: "XLSX", reason: `${part} is cut off or broken` },
      { place: { file } },
    ),
  ]);

const COLON = 58;
const SPACE = 32;

/** Whether a tag has a name, behind whatever prefix; by bytes, since a sheet has millions. */
const isNamed = (tag: Buffer, name: string): boolean => {
  let from = 0;
  for (let at = 0; at <= tag.length; at++) {
    const byte = tag[at] ?? SLASH;
    if (byte === COLON) from = at + 1;
    if (byte > SPACE && byte !== SLASH) continue;
    if (at - from !== name.length) return false;
    for (let letter = 0; letter < name.length; letter++)
      if (tag[from + letter] !== name.charCodeAt(letter)) return false;
    return true;
  }
  return false;
};

/**
 * Looks over the texts that cells of a workbook share, and counts them.
 * @throws Refusal where they are broken, or more than can be held
 */
export const guardStrings = async (bytes: Buffer, part: string, file: string): Promise<number> => {
  const chunks = part === "" ? undefined : await memberChunks(bytes, part, file);
  if (chunks === undefined) return 0;
  let [count, size] = [0, 0];
  const scan = new PartScan({
    tag(tag) {
      if (isNamed(tag, "si")) count++;
    },
  });
  for await (const chunk of chunks) {
    size += chunk.length;
    scan.feed(chunk);
    if (count > STRINGS_LIMIT || size > STRINGS_MEGABYTES << 20)
      throw new Refusal([
        diagnostic(
          "workbook-too-large",
          { texts: STRINGS_LIMIT, megabytes: STRINGS_MEGABYTES },
          { place: { file } },
        ),
      ]);
  }
  if (!scan.isWhole()) throw damaged(file, "the list of its texts");
  return count;
};

/**
 * Looks over a sheet, and gives what stands before its rows.
 * @throws Refusal where it is broken, or names texts that are not there
 */
export const guardSheet = async (
  bytes: Buffer,
  part: string,
  file: string,
  strings: number,
  headBytes: number,
): Promise<Buffer> => {
  const chunks = await memberChunks(bytes, part, file);
  if (chunks === undefined) return Buffer.alloc(0);
  let head: Buffer = Buffer.alloc(0);
  let [isShared, isValue, highest] = [false, false, -1];
  const scan = new PartScan({
    tag(tag) {
      isValue = isShared && isNamed(tag, "v");
      if (isNamed(tag, "c")) isShared = tag.includes(' t="s"') || tag.includes(" t='s'");
    },
    text(text) {
      if (!isValue) return;
      isValue = false;
      const index = Number(text.toString("latin1"));
      if (index > highest) highest = index;
    },
  });
  for await (const chunk of chunks) {
    if (head.length < headBytes) head = Buffer.concat([head, chunk.subarray(0, headBytes)]);
    scan.feed(chunk);
  }
  if (!scan.isWhole()) throw damaged(file, "the sheet");
  if (highest >= strings) throw damaged(file, "the list of its texts");
  return head;
};
