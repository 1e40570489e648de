/** Numbers as people write them: marks of decimals and thousands, and what a computer leaves behind. */
import { decimal, type Decimal } from "./decimal.js";

/** What parts a number's decimals. */
export type DecimalMark = "." | ",";

const grouped = {
  ".": /^[+-]?[1-9]\d{0,2}(?:[,'’\u202f ]\d{3})+(?:\.\d+)?$/,
  ",": /^[+-]?[1-9]\d{0,2}(?:[.'’\u202f ]\d{3})+(?:,\d+)?$/,
} as const;
const plain = { ".": /^[+-]?(?:\d+\.?\d*|\.\d+)$/, ",": /^[+-]?(?:\d+,?\d*|,\d+)$/ } as const;

/**
 * A number as people write it, under a stated decimal mark; groups of three may be set apart.
 * `12,50` under the mark `.` is none; see {@link readOtherMark}.
 */
export function readNumber(text: string, mark: DecimalMark = "."): Decimal | undefined {
  const direct = decimal(text);
  if (direct !== undefined && (mark === "." || !text.includes("."))) return direct;
  if (!plain[mark].test(text) && !grouped[mark].test(text)) return undefined;
  const digits =
    mark === "." ? text.replace(/[,'’\u202f ]/g, "") : text.replace(/[.'’\u202f ]/g, "").replace(",", ".");
  return decimal(digits.replace(/^([+-]?)\./, "$10.").replace(/\.$/, ""));
}

const other = { ".": ",", ",": "." } as const satisfies Readonly<Record<DecimalMark, DecimalMark>>;

// What stands behind the only mark, or behind the last of two kinds, are decimals: thousands come in threes, and not
// behind a nought.
const decimalsBehind = {
  ".": /^[+-]?(?:(?:\d+|\d{1,3}(?:[,'’\u202f ]\d{3})+)\.(?:\d{1,2}|\d{4,})|0\.\d+)$/,
  ",": /^[+-]?(?:(?:\d+|\d{1,3}(?:[.'’\u202f ]\d{3})+),(?:\d{1,2}|\d{4,})|0,\d+)$/,
} as const;
const thousandsAndDecimals = {
  ".": /^[+-]?\d{1,3}(?:[,'’\u202f ]\d{3})+\.\d+$/,
  ",": /^[+-]?\d{1,3}(?:[.'’\u202f ]\d{3})+,\d+$/,
} as const;

/** A number with another decimal mark than the stated one, where it reads one way alone: `12,50` or `1.249,5` under `.`. */
export function readOtherMark(text: string, mark: DecimalMark = "."): Decimal | undefined {
  const own = other[mark];
  return decimalsBehind[own].test(text) || thousandsAndDecimals[own].test(text)
    ? readNumber(text, own)
    : undefined;
}

/** Digits that a binary number carries for sure. */
const BINARY_DIGITS = 15;

/** A number without what a computer's fractions leave behind: 24.900000000000002 is 24.9; undefined where it has none of it. */
export function withoutNoise(value: Decimal): Decimal | undefined {
  if (value.precision() <= BINARY_DIGITS || value.isInteger()) return undefined;
  const plainer = value.toSignificantDigits(BINARY_DIGITS);
  // A number that needs all its digits is one that was worked out, or measured so.
  return plainer.precision() <= BINARY_DIGITS - 3 ? plainer : undefined;
}
