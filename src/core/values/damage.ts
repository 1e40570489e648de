/** Traces of what spreadsheets and encodings did to a cell, and what can be proved to have stood there. */
import { monthNamed } from "./months.js";

/** What a spreadsheet, a wrong encoding or a hurried hand did to a cell. */
export type Damage =
  | "scientific"
  | "leading-zeros"
  | "decimal-point"
  | "date"
  | "encoding"
  | "quotes"
  | "spaces"
  | "formula"
  | "text-formula"
  | "address"
  | "oversold"
  | "joined"
  | "markup";

/** Letters that were lost when the text was saved: they cannot be guessed. */
export const hasLostLetters = (text: string): boolean => text.includes("\ufffd");

const dayMonth = /^(\d{1,2})[-. /]{1,2}(\p{L}{3,9})\.?$/u;
const monthDay = /^(\p{L}{3,9})\.?[-. /]{1,2}(\d{1,2})$/u;
const isoDay = /^\d{4}-(\d{2})-(\d{2})(?:[T ]00:00(?::00)?(?:\.0+)?Z?)?$/;

/**
 * What a cell can have held before a spreadsheet took it for a date: `10-Dec` was 10-12, 10/12, 12-10 or 12/10.
 * Empty when the text is no such date.
 */
export function beforeDate(text: string): readonly string[] {
  if (text.length > 25) return [];
  const [iso, first, second] = [isoDay.exec(text), dayMonth.exec(text), monthDay.exec(text)];
  const day = Number(iso?.[2] ?? first?.[1] ?? second?.[2] ?? 0);
  const month = iso === null ? (monthNamed(first?.[2] ?? second?.[1] ?? "") ?? 0) : Number(iso[1]);
  if (day === 0 || month === 0) return [];
  return ["-", "/"].flatMap((mark) => [`${day}${mark}${month}`, `${month}${mark}${day}`]);
}

const formulaFaults = new Set([
  "#N/A",
  "#REF!",
  "#VALUE!",
  "#NAME?",
  "#DIV/0!",
  "#NUM!",
  "#NULL!",
  "#NV",
  "#BEZUG!",
  "#WERT!",
]);

/** A cell whose formula failed: it shows the fault in the place of the value. */
export const isFormulaFault = (text: string): boolean =>
  text.startsWith("#") && formulaFaults.has(text.toUpperCase());
