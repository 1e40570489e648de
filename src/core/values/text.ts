// Controls other than tab and line feed say nothing in a listing, and XML forbids most of them.
// eslint-disable-next-line no-control-regex
const controls = /[\u0000-\u0008\u000b-\u001f\u007f\ufeff\ufffe\uffff]/g;
const inner =
  // eslint-disable-next-line no-control-regex
  /[\u0000-\u0008\u000b-\u001f\u007f\u00a0\u00ad\u200b-\u200f\u202a-\u202e\u2060-\u2069\ufeff\ufffe\uffff]/;
// Signs of which nothing is seen. Some scripts write with joiners and marks of direction, and pictures are joined by one.
const unseenAnywhere = /[\u00ad\u200b\u2060-\u2064\ufeff]/g;
const marksOfScripts =
  /[\u200e\u200f\u202a-\u202e\u2066-\u2069]|(?<!\p{Extended_Pictographic}\ufe0f?)[\u200c\u200d]/gu;
const plainScripts = /^[\p{Script=Latin}\p{Script=Greek}\p{Script=Cyrillic}\P{L}]*$/u;
// The apostrophe that keeps a spreadsheet from running a cell is no part of its text.
const guarded = /^'(?=[=+@-])/;

const isSpace = (code: number): boolean =>
  code <= 32 || (code >= 0x1680 && /\s/.test(String.fromCharCode(code)));

/** A text without the signs in it of which nothing is seen: zero width blanks, soft hyphens, marks of direction. */
export function withoutUnseen(text: string): string {
  const seen = text.replace(unseenAnywhere, "");
  return plainScripts.test(seen) ? seen.replace(marksOfScripts, "") : seen;
}

/** `="0123"`: the formula by which an export keeps a spreadsheet from taking a text for a number. */
const textFormula = /^="((?:[^"]|"")*)"$/;

/** The text that such a formula holds; undefined for any other text. */
export function textOfFormula(text: string): string | undefined {
  if (text.charCodeAt(0) !== 61) return undefined;
  return textFormula.exec(text)?.[1]?.replaceAll('""', '"');
}

/** Whether a text has nothing that {@link cleanText} would take away. Asked of every cell: the ends first, they tell most. */
export function isTidy(text: string): boolean {
  if (text === "") return true;
  const [first, last] = [text.charCodeAt(0), text.charCodeAt(text.length - 1)];
  return !isSpace(first) && !isSpace(last) && first !== 39 && first !== 61 && !inner.test(text);
}

/**
 * Cell text without control characters, signs of which nothing is seen, non-breaking spaces and outer spaces. Line ends
 * become `\n`.
 */
export function cleanText(text: string): string {
  if (isTidy(text)) return text;
  const clean = withoutUnseen(text.replace(/\r\n?/g, "\n").replace(controls, ""))
    .replace(/\u00a0/g, " ")
    .trim();
  return textOfFormula(clean)?.trim() ?? clean.replace(guarded, "");
}

const plainSigns = /^[ -~]*$/;

/** Letters without case and accents; most texts have no others, and need no more than their case. */
const plainLetters = (text: string): string =>
  plainSigns.test(text) ? text.toLowerCase() : text.normalize("NFKD").replace(/\p{M}/gu, "").toLowerCase();

/**
 * A term folded for comparison: no case, accents or doubled spaces, and no punctuation but the signs that tell terms
 * apart: `A+` is not `A`, `<5` not `>5`, `C#` not `C`.
 */
export function termKey(text: string): string {
  return plainLetters(text)
    .replace(/[\u2010-\u2015\u2212]/g, "-")
    .replace(/\u2044/g, "/")
    .replace(/[^\p{L}\p{N}+<>#&/%-]+/gu, " ")
    .replace(/ ?([+<>#&/%-]) ?/g, "$1")
    .trim();
}

/** Whether two terms are the same but for what {@link termKey} takes away. */
export const isSameTerm = (one: string, other: string): boolean =>
  one === other || (mayBeSame(one, other) && termKey(one) === termKey(other));

const firstSign = /^[A-Za-z0-9]/;

/** Terms that begin with two different letters or digits without accents are two. */
const mayBeSame = (one: string, other: string): boolean =>
  !plainSigns.test(one) ||
  !plainSigns.test(other) ||
  !firstSign.test(one) ||
  !firstSign.test(other) ||
  one.charAt(0).toLowerCase() === other.charAt(0).toLowerCase();

/** Folded for comparison: no case, accents, punctuation or doubled spaces. */
export function fold(text: string): string {
  return plainLetters(text)
    .replace(/[^\p{L}\p{N}]+/gu, " ")
    .trim();
}
