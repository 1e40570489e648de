/** Days, read in the usual forms and orders; nothing is read that reads two ways. */
import { monthNamed } from "./months.js";
import type { CalendarDate } from "./value.js";

/** Which number of `03/04/2026` is the day; a file that says nothing is read only where there is no doubt. */
export type DateOrder = "dmy" | "mdy";

const isoDay = /^(\d{4})-(\d{2})-(\d{2})(?:[T ]\d{2}:\d{2}(?::\d{2}(?:\.\d+)?)?(?:Z|[+-]\d{2}:?\d{2})?)?$/;
const yearFirst = /^(\d{4})[/.](\d{1,2})[/.](\d{1,2})$/;
const yearLast = /^(\d{1,2})([/.-])(\d{1,2})[/.-](\d{4})$/;
const withMonth = /^(\d{1,2})[. -]+(\p{L}{3,9})[. -]+(\d{4})$/u;

/** Years as shops write them: what has another number of digits was meant as something else. */
const YEARS = { first: 1000, last: 9999 } as const;

function daysInMonth(year: number, month: number): number {
  if (month === 2) return (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0 ? 29 : 28;
  return month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31;
}

function day(year: number, month: number, date: number): CalendarDate | undefined {
  const real =
    year >= YEARS.first && month >= 1 && month <= 12 && date >= 1 && date <= daysInMonth(year, month);
  const two = (part: number): string => String(part).padStart(2, "0");
  return real ? { kind: "date", iso: `${year}-${two(month)}-${two(date)}` } : undefined;
}

/**
 * A real day of the Gregorian calendar in the years 1000 to 9999: ISO 8601 (a time behind it is cut), year first, or day
 * and month before the year. Where day and month could change places and the order is not stated, it is refused; between
 * points the day comes first everywhere.
 */
export function readDate(text: string, order?: DateOrder): CalendarDate | undefined {
  const iso = isoDay.exec(text) ?? yearFirst.exec(text);
  if (iso !== null) return day(Number(iso[1]), Number(iso[2]), Number(iso[3]));
  const named = withMonth.exec(text);
  if (named !== null) return day(Number(named[3]), monthNamed(named[2] ?? "") ?? 0, Number(named[1]));
  const last = yearLast.exec(text);
  if (last === null) return undefined;
  const [first, second, year] = [Number(last[1]), Number(last[3]), Number(last[4])];
  const dayFirst = last[2] === "." ? day(year, second, first) : undefined;
  if (dayFirst !== undefined) return dayFirst;
  if (order === "dmy") return day(year, second, first);
  if (order === "mdy") return day(year, first, second);
  if (first > 12 || first === second) return day(year, second, first);
  return second > 12 ? day(year, first, second) : undefined;
}

/** Whether a text is one of two days, with nothing to tell which: `12/11/2026` in a file that states no order. */
export const isTwoDates = (text: string, order?: DateOrder): boolean =>
  order === undefined && readDate(text) === undefined && readDate(text, "dmy") !== undefined;

const DAY = 86_400_000;

/** Days since 1970-01-01 of an ISO day. */
export const dayNumber = (iso: string): number => Date.parse(`${iso}T00:00:00Z`) / DAY;

/** The day of a day number; undefined outside the years 1000 to 9999. */
export function dayOf(number: number): CalendarDate | undefined {
  const iso = new Date(number * DAY).toISOString();
  return /^[1-9]\d{3}-/.test(iso) ? { kind: "date", iso: iso.slice(0, 10) } : undefined;
}

/** Year, week and day of the week (Monday is 1) of an ISO 8601 week date. */
export function weekOf(iso: string): { readonly year: number; readonly week: number; readonly day: number } {
  const number = dayNumber(iso);
  const day = ((((number + 3) % 7) + 7) % 7) + 1;
  // A week belongs to the year that its Thursday is in.
  const thursday = number - day + 4;
  const year = Number(new Date(thursday * DAY).toISOString().slice(0, 4));
  return { year, week: Math.floor((thursday - dayNumber(`${year}-01-01`)) / 7) + 1, day };
}
