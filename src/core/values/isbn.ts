/** ISBNs, old and new (ISO 2108). */
import { checkDigit, readGtin, type GtinProblem } from "./gtin.js";
import type { Damage } from "./damage.js";

/** Its digits, or what is wrong with it. */
export type IsbnReading =
  { readonly digits: string; readonly repaired?: Damage } | { readonly problem: GtinProblem | "isbn-prefix" };

// ISO 2108: the two ranges of EAN that books have.
const isbn13 = /^97[89]\d{10}$/;

const isbn10 = /^\d{9}[\dX]$/i;

/** ISO 2108: the sum of the digits, weighted 10 to 1, is a multiple of 11; X stands for ten. */
function isIsbn10(text: string): boolean {
  let sum = 0;
  for (let i = 0; i < 10; i++) {
    const digit = text[i]?.toUpperCase() === "X" ? 10 : Number(text[i]);
    sum += digit * (10 - i);
  }
  return sum % 11 === 0;
}

/** An ISBN-13, which begins with 978 or 979 and is also a GTIN-13; an ISBN-10 is turned into the ISBN-13 of the same book. */
export function readIsbn(text: string): IsbnReading {
  const compact = text.replace(/[\s-]/g, "");
  // A book whose ISBN-10 begins with zeros may have lost them; its check digit proves where.
  const padded = /^\d{7,9}[\dX]?$/i.test(compact) ? compact.padStart(10, "0") : compact;
  if (isbn10.test(padded) && isIsbn10(padded)) {
    const body = `978${padded.slice(0, 9)}`;
    const digits = body + checkDigit(body);
    return padded === compact ? { digits } : { digits, repaired: "leading-zeros" };
  }
  if (isbn10.test(compact)) return { problem: "gtin-check-digit" };
  const reading = readGtin(text);
  return "problem" in reading || isbn13.test(reading.digits) ? reading : { problem: "isbn-prefix" };
}

/** The ISBN-10 of an ISBN-13 that begins with 978; others have none. */
export function isbn10Of(digits: string): string | undefined {
  if (digits.length !== 13 || !digits.startsWith("978")) return undefined;
  const body = digits.slice(3, 12);
  for (let last = 0; last <= 10; last++) {
    const text = body + (last === 10 ? "X" : String(last));
    if (isIsbn10(text)) return text;
  }
  return undefined;
}
