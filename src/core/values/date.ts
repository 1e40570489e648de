import type { CalendarDate } from "./value.js";

const isoDay = /^(\d{4})-(\d{2})-(\d{2})$/;

const daysInMonth = (year: number, month: number): number => {
  if (month === 2) return (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0 ? 29 : 28;
  return month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31;
};

/** A real day of the Gregorian calendar written as ISO 8601; undefined for anything else. */
export const readDate = (text: string): CalendarDate | undefined => {
  const match = isoDay.exec(text);
  if (match === null) return undefined;
  const [year, month, day] = [Number(match[1]), Number(match[2]), Number(match[3])];
  const real = month >= 1 && month <= 12 && day >= 1 && day <= daysInMonth(year, month);
  return real ? { kind: "date", iso: text } : undefined;
};
