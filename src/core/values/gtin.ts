/** Barcodes of GS1: digits, check digit, damage by spreadsheets. */
import type { Damage } from "./damage.js";

/** What is wrong with a barcode. */
export type GtinProblem =
  "gtin-length" | "gtin-check-digit" | "gtin-scientific" | "gtin-characters" | "gtin-zeros";

/** Its digits, or what is wrong with it. */
export type GtinReading =
  { readonly digits: string; readonly repaired?: Damage } | { readonly problem: GtinProblem };

/** The GS1 check digit for the digits before it (GS1 General Specifications, section 7.9). */
export function checkDigit(digits: string): number {
  let sum = 0;
  for (let i = digits.length - 1, weight = 3; i >= 0; i--, weight = 4 - weight)
    sum += (digits.charCodeAt(i) - 48) * weight;
  return (10 - (sum % 10)) % 10;
}

const isChecked = (digits: string): boolean =>
  checkDigit(digits.slice(0, -1)) === digits.charCodeAt(digits.length - 1) - 48;

const lengths = new Set([8, 12, 13, 14]);
const scientific = /^(\d)(?:[.,](\d+))?e\+?(\d{1,2})$/i;
const withPoint = /^(\d{7,14})\.0+$/;

/** All digits of a number in scientific notation, when it still has them all; undefined when the last ones are lost. */
function expanded(text: string): string | undefined {
  const match = scientific.exec(text);
  if (match === null) return undefined;
  const [, first = "", rest = "", exponent = ""] = match;
  return rest.length === Number(exponent) ? first + rest : undefined;
}

/**
 * Digits of a GTIN-8, -12, -13 or -14 with the right check digit, or what is wrong with it. Damage done by a
 * spreadsheet is repaired where the check digit proves the result: leading zeros do not change it.
 */
export function readGtin(text: string): GtinReading {
  if (scientific.test(text)) {
    const digits = expanded(text);
    return digits !== undefined && lengths.has(digits.length) && isChecked(digits)
      ? { digits, repaired: "scientific" }
      : { problem: "gtin-scientific" };
  }
  const whole = withPoint.exec(text)?.[1];
  const digits = whole ?? text.replace(/[\s-]/g, "");
  if (!/^\d+$/.test(digits)) return { problem: "gtin-characters" };
  // Its check digit would be right, and it is nobody's: what a system writes where it has none.
  if (/^0+$/.test(digits)) return { problem: "gtin-zeros" };
  if (lengths.has(digits.length)) {
    if (!isChecked(digits)) return { problem: "gtin-check-digit" };
    return whole === undefined ? { digits } : { digits, repaired: "decimal-point" };
  }
  // Seven digits were a GTIN-8, nine to eleven a GTIN-12, before a spreadsheet took them for a number.
  const full = digits.length === 7 ? 8 : digits.length >= 9 && digits.length <= 11 ? 12 : 0;
  return full > 0 && isChecked(digits)
    ? { digits: digits.padStart(full, "0"), repaired: "leading-zeros" }
    : { problem: "gtin-length" };
}

/** The same GTIN with 14 digits, the form in which all lengths compare. */
export const gtin14 = (digits: string): string => digits.padStart(14, "0");

/**
 * Whether the number is of a range that a company or region may use within its own walls only (GS1 prefixes 02, 04 and
 * 20-29; GTIN-8 that begin with 0 or 2): no channel can know the product by it.
 */
export const isRestricted = (digits: string): boolean =>
  digits.length === 8 ? /^[02]/.test(digits) : /^0(?:02|04|2)/.test(gtin14(digits));
