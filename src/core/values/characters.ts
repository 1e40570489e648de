/** Characters as a person counts them. */
const segmenter = new Intl.Segmenter("en", { granularity: "grapheme" });
// Every sign of ASCII is a character of its own, but for the end of a line in two signs.
// eslint-disable-next-line no-control-regex
const ascii = /^[\u0000-\u000c\u000e-\u007f]*$/;

// Each segment that the engine gives carries the whole text that it is cut from: long texts are cut before.
const PIECE = 256;

const isHighSurrogate = (code: number): boolean => code >= 0xd800 && code < 0xdc00;

/**
 * The characters of a text, cut piece by piece. A piece begins where a character begins, so that all in it are right but
 * perhaps the last, which may go on behind the piece: that one begins the next.
 */
function* segments(text: string): Generator<string> {
  let size = PIECE;
  for (let start = 0; start < text.length;) {
    const at = Math.min(start + size, text.length);
    const end = isHighSurrogate(text.charCodeAt(at - 1)) ? Math.min(at + 1, text.length) : at;
    const piece = text.slice(start, end);
    if (ascii.test(piece) && text.charCodeAt(end) < 0x80) {
      yield* piece;
      start = end;
      continue;
    }
    let last = { segment: "", index: 0 };
    for (const found of segmenter.segment(piece)) {
      if (last.segment !== "") yield last.segment;
      last = found;
    }
    if (end === text.length) {
      yield last.segment;
      return;
    }
    // A character longer than a piece wants a longer one.
    size = last.index === 0 ? size * 2 : PIECE;
    start += last.index;
  }
}

/** The characters of a text as a person counts them: graphemes, so that an accent or a flag counts once. */
export const characters = (text: string): readonly string[] =>
  ascii.test(text) ? text.split("") : [...segments(text)];

/** How many {@link characters} a text has. */
export function characterCount(text: string): number {
  if (ascii.test(text)) return text.length;
  let count = 0;
  for (const segment of segments(text)) count += segment === "" ? 0 : 1;
  return count;
}
