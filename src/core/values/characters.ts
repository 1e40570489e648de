const segmenter = new Intl.Segmenter("en", { granularity: "grapheme" });
// eslint-disable-next-line no-control-regex
const ascii = /^[\u0000-\u007f]*$/;
const starter = /^[\p{L}\p{N}]/u;

// Each segment that the engine gives carries the whole text that it is cut from: long texts are cut before.
const PIECE = 256;

const isAscii = (code: number): boolean => code < 128;

/** A place near the end of a piece where a character ends for certain, or as good as that. */
const cut = (text: string, start: number, end: number): number => {
  for (let at = end; at > start; at--)
    // Two signs of ASCII are never one character, but for the end of a line in two signs.
    if (isAscii(text.charCodeAt(at - 1)) && isAscii(text.charCodeAt(at)) && text[at - 1] !== "\r") return at;
  for (let at = end; at > start; at--) if (starter.test(text.slice(at, at + 2))) return at;
  return text.codePointAt(end - 1) === text.charCodeAt(end - 1) ? end : end - 1;
};

function* pieces(text: string): Generator<string> {
  for (let start = 0; start < text.length;) {
    const end = start + PIECE >= text.length ? text.length : cut(text, start, start + PIECE);
    yield text.slice(start, end);
    start = end;
  }
}

/** The characters of a text as a person counts them: graphemes, so that an accent or a flag counts once. */
export const characters = (text: string): readonly string[] => {
  if (ascii.test(text)) return text.split("");
  const all: string[] = [];
  for (const piece of pieces(text)) for (const { segment } of segmenter.segment(piece)) all.push(segment);
  return all;
};

/** How many {@link characters} a text has. */
export const characterCount = (text: string): number => {
  if (ascii.test(text)) return text.length;
  let count = 0;
  for (const piece of pieces(text))
    count += ascii.test(piece) ? piece.length : Array.from(segmenter.segment(piece)).length;
  return count;
};
