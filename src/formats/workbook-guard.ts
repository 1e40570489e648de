/** Looks over a workbook's parts before any of it is held in memory. */
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { memberChunks } from "./zip-archive.js";

/** Different texts of a workbook: the package that reads it holds them all at once. */
const STRINGS_LIMIT = 2_000_000;
const STRINGS_MEGABYTES = 256;

const [LESS, GREATER, QUOTE, APOSTROPHE, SLASH, QUESTION, BANG] = [60, 62, 34, 39, 47, 63, 33];
const [COLON, SPACE, ZERO, NINE, DASH, BRACKET] = [58, 32, 48, 57, 45, 93];

/** A name of at most four letters as a number, so that tags are told apart without a text for each. */
const packed = (name: string): number =>
  [...name].reduce((sum, letter) => (sum << 8) | letter.charCodeAt(0), 0);

const [CELL, VALUE, STRING_ITEM] = [packed("c"), packed("v"), packed("si")];
/** The last four bytes of ` t="s` and ` t='s`. */
const shared: readonly number[] = [packed('t="s'), packed("t='s")];

/** Where a scan is. */
const At = {
  Text: 0,
  Open: 1,
  Name: 2,
  Tag: 3,
  Quoted: 4,
  Instruction: 5,
  Marked: 6,
  Comment: 7,
  Data: 8,
} as const;

type At = (typeof At)[keyof typeof At];

/**
 * Whether a part of a workbook is whole: each element that opens is closed, none closes that was not open, and it ends
 * behind its root. The package that reads workbooks takes half a part for a whole one, so this is looked at before: byte by
 * byte, in one pass, since a sheet has millions of tags.
 */
class PartScan {
  /** Elements `si`. */
  strings = 0;
  /** The highest number of a shared text that a cell names. */
  highest = -1;
  private state: At = At.Text;
  private depth = 0;
  private hadRoot = false;
  private isBroken = false;
  private isClosing = false;
  private quote = 0;
  private name = 0;
  /** The last four bytes, and the one before them. */
  private last = 0;
  private before = 0;
  private isShared = false;
  private value = -1;

  feed(bytes: Uint8Array): void {
    let { state, name, last, before, value } = this;
    for (let at = 0; at < bytes.length; at++) {
      const byte = bytes[at] ?? 0;
      switch (state) {
        case At.Text:
          if (byte === LESS) {
            if (value > this.highest) this.highest = value;
            value = -1;
            state = At.Open;
          } else if (value >= 0) value = byte >= ZERO && byte <= NINE ? value * 10 + byte - ZERO : Infinity;
          continue;
        case At.Open:
          this.isClosing = byte === SLASH;
          name = this.isClosing ? 0 : byte;
          last = 0;
          state = byte === QUESTION ? At.Instruction : byte === BANG ? At.Marked : At.Name;
          continue;
        case At.Name:
          if (byte > SPACE && byte !== GREATER && byte !== SLASH && byte !== LESS) {
            name = byte === COLON ? 0 : (name << 8) | byte;
            continue;
          }
          state = At.Tag;
          break;
        case At.Tag:
          break;
        case At.Quoted:
          if (byte !== this.quote) {
            before = last >>> 24;
            last = (last << 8) | byte;
            continue;
          }
          if (name === CELL && before <= SPACE && shared.includes(last)) this.isShared = true;
          state = At.Tag;
          continue;
        case At.Instruction:
          if (byte === GREATER && last === QUESTION) state = At.Text;
          last = byte;
          continue;
        case At.Marked:
          // A document type is what no workbook has.
          last = (last << 8) | byte;
          if ((last & 0xffff) === ((DASH << 8) | DASH)) state = At.Comment;
          else if (last === packed("ATA[")) state = At.Data;
          else if (byte === GREATER || byte === LESS) this.isBroken = true;
          continue;
        case At.Comment:
        case At.Data: {
          last = ((last << 8) | byte) & 0xffffff;
          const mark = state === At.Comment ? DASH : BRACKET;
          if (last === ((mark << 16) | (mark << 8) | GREATER)) state = At.Text;
          continue;
        }
      }
      // Inside of a tag.
      if (byte === GREATER) {
        this.endTag(name, (last & 0xff) === SLASH);
        if (name === VALUE && this.isShared && !this.isClosing) value = 0;
        state = At.Text;
      } else if (byte === QUOTE || byte === APOSTROPHE) {
        this.quote = byte;
        state = At.Quoted;
      } else if (byte === LESS) this.isBroken = true;
      before = last >>> 24;
      last = (last << 8) | byte;
    }
    Object.assign(this, { state, name, last, before, value });
  }

  isWhole(): boolean {
    return !this.isBroken && this.hadRoot && this.depth === 0 && this.state === At.Text;
  }

  private endTag(name: number, isAlone: boolean): void {
    if (this.isClosing) {
      if (--this.depth < 0) this.isBroken = true;
      if (name === CELL) this.isShared = false;
      return;
    }
    if (this.depth === 0 && this.hadRoot) this.isBroken = true;
    this.hadRoot = true;
    if (!isAlone) this.depth++;
    else if (name === CELL) this.isShared = false;
    if (name === STRING_ITEM) this.strings++;
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

/**
 * Looks over the texts that cells of a workbook share, and counts them.
 * @throws Refusal where they are broken, or more than can be held
 */
export async function guardStrings(bytes: Buffer, part: string, file: string): Promise<number> {
  const chunks = part === "" ? undefined : await memberChunks(bytes, part, file);
  if (chunks === undefined) return 0;
  let size = 0;
  const scan = new PartScan();
  for await (const chunk of chunks) {
    size += chunk.length;
    scan.feed(chunk);
    if (scan.strings > STRINGS_LIMIT || size > STRINGS_MEGABYTES << 20)
      throw new Refusal([
        diagnostic(
          "workbook-too-large",
          { texts: STRINGS_LIMIT, megabytes: STRINGS_MEGABYTES },
          { place: { file } },
        ),
      ]);
  }
  if (!scan.isWhole()) throw damaged(file, "the list of its texts");
  return scan.strings;
}

/**
 * Looks over a sheet, and gives what stands before its rows.
 * @throws Refusal where it is broken, or names texts that are not there
 */
export async function guardSheet(
  bytes: Buffer,
  part: string,
  file: string,
  strings: number,
  headBytes: number,
): Promise<Buffer> {
  const chunks = await memberChunks(bytes, part, file);
  if (chunks === undefined) return Buffer.alloc(0);
  let head: Buffer = Buffer.alloc(0);
  const scan = new PartScan();
  for await (const chunk of chunks) {
    if (head.length < headBytes) head = Buffer.concat([head, chunk.subarray(0, headBytes)]);
    scan.feed(chunk);
  }
  if (!scan.isWhole()) throw damaged(file, "the sheet");
  if (scan.highest >= strings) throw damaged(file, "the list of its texts");
  return head;
}
