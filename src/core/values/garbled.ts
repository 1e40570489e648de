/*
 * UTF-8 that was read as Windows-1252: `GrÃ¶ÃŸe` for `Größe`. The same signs can be good text (`„süß“` ends in two that
 * make a letter of another script), so a repair needs proof: signs that cannot be right as they stand.
 */

// The characters that Windows-1252 has at 0x80 to 0x9f, in that order; a space where it has none.
const windows1252 = "€ ‚ƒ„…†‡ˆ‰Š‹Œ Ž  ‘’“”•–—˜™š›œ žŸ";

function byteOf(character: string): number {
  const code = character.charCodeAt(0);
  if (code <= 0xff) return code;
  const at = windows1252.indexOf(character);
  return at < 0 ? 0 : 0x80 + at;
}

// A first byte of UTF-8, and as many of the following ones as it asks for.
const follower = "[\\u0080-\\u00bf€‚ƒ„…†‡ˆ‰Š‹ŒŽ‘’“”•–—˜™š›œžŸ]";
const misread = new RegExp(
  `[\\u00c2-\\u00df]${follower}|[\\u00e0-\\u00ef]${follower}{2}|[\\u00f0-\\u00f4]${follower}{3}`,
  "g",
);
const suspicious = new RegExp(`[\\u00c2-\\u00f4]${follower}`);
const utf8 = new TextDecoder("utf-8", { fatal: true });

function decoded(piece: string): string | undefined {
  try {
    return utf8.decode(Uint8Array.from(piece, byteOf));
  } catch {
    return undefined;
  }
}

// What texts of European languages are made of: letters of Latin, signs, quotes, dashes, currencies, arrows, pictures.
const usual =
  /^[\u00a0-\u017f\u0218-\u021b\u1e9e\u2010-\u203a\u20a0-\u20bf\u2100-\u215e\u2190-\u21ff\u2200-\u22ff\u2500-\u27bf\ufb01\ufb02\u{1f300}-\u{1faff}]$/u;
// Words of other scripts have several letters: one alone proves nothing.
const otherLetter = /^\p{L}$/u;

// Signs that end a word: a letter before them can be its last, and need not be torn.
const closing = /^[’”“‘»›…–—™®©°²³¹ºª·]+$/;
const closingQuote = /^[’”“‘»›…–—™]+$/;
const word = /[\p{L}\p{N}]/u;

/** How sure it is that signs are torn: not at all where they read well, and where they stand alone only beside others. */
type Proof = "proof" | "within a torn text" | "none";

/** Signs can be right as they stand where a capital ends a word, and a quote, a dash or a mark of trade follows. */
function proofOf(before: string, piece: string, after: string): Proof {
  const [lead = ""] = piece;
  const signs = piece.slice(1);
  if (!closing.test(signs) || /\p{Ll}/u.test(before)) return "proof";
  // No word ends in this one: it is what a mark of trade or a degree leaves behind.
  if (lead === "Â" && !closingQuote.test(signs)) return "proof";
  // An apostrophe stands within words; a dash between two of them, but not before a small letter.
  const ends = signs.endsWith("’") || (/[–—]$/.test(signs) ? !/\p{Ll}/u.test(after) : !word.test(after));
  if (!ends) return "proof";
  return lead === "Ã" && !closingQuote.test(signs) && !word.test(before) ? "within a torn text" : "none";
}

interface Torn {
  readonly at: number;
  readonly end: number;
  readonly letter: string;
  readonly proof: Proof;
}

function tornIn(text: string): readonly Torn[] {
  const found = [...text.matchAll(misread)].flatMap(({ 0: piece, index: at }) => {
    const letter = decoded(piece);
    return letter === undefined ? [] : [{ at, end: at + piece.length, piece, letter }];
  });
  return found.flatMap(({ at, end, piece, letter }, index): readonly Torn[] => {
    const isBeside =
      otherLetter.test(letter) &&
      [found[index - 1], found[index + 1]].some(
        (other) =>
          other !== undefined &&
          (other.end === at || other.at === end) &&
          otherLetter.test(other.letter) &&
          !usual.test(other.letter),
      );
    if (!usual.test(letter) && !isBeside) return [];
    return [{ at, end, letter, proof: proofOf(text[at - 1] ?? "", piece, text[end] ?? "") }];
  });
}

/** Whether all that is not ASCII is part of such signs: then the whole text was read wrongly. */
function isAllTorn(text: string, torn: readonly Torn[]): boolean {
  let from = 0;
  let between = "";
  for (const { at, end } of torn) {
    between += text.slice(from, at);
    from = end;
  }
  // eslint-disable-next-line no-control-regex
  return /^[\u0000-\u007f]*$/.test(between + text.slice(from));
}

/**
 * Text that was written as UTF-8 and read as Windows-1252, put right; undefined where nothing proves that. Signs that can
 * be right as they stand are put right only in a text that is torn throughout, beside others that are proof.
 */
export function repairEncoding(text: string): string | undefined {
  const spaced = withoutSpaceMark(text);
  if (!suspicious.test(spaced)) return spaced === text ? undefined : spaced;
  return repairedSigns(spaced) ?? (spaced === text ? undefined : spaced);
}

// In HTML a non-breaking space is written by its name; what a wrong encoding left before it stands alone.
const withoutSpaceMark = (text: string): string =>
  text.replace(/(?:\u00c2|&Acirc;)(?=&nbsp;|&#160;|&#xa0;)/gi, "");

function repairedSigns(text: string): string | undefined {
  const torn = tornIn(text);
  const isAll = isAllTorn(text, torn);
  if (!torn.some(({ proof }) => proof === "proof" || (isAll && proof !== "none"))) return undefined;
  let repaired = "";
  let from = 0;
  for (const { at, end, letter, proof } of torn) {
    if (proof !== "proof" && !isAll) continue;
    repaired += text.slice(from, at) + letter;
    from = end;
  }
  return repaired + text.slice(from);
}
