import { whole } from "../../values/decimal.js";
import { dayNumber, dayOf, weekOf } from "../../values/date.js";
import { isDate, type CalendarDate, type MaybeBlank } from "../../values/value.js";
import type { ExpressionFunction } from "../function.js";
import { isDecimal } from "../../values/decimal.js";
import { cannot } from "../trouble.js";
import { asText, optional, parameter } from "./arguments.js";

const two = (part: number): string => String(part).padStart(2, "0");

/** The pieces of an ISO 8601 pattern, longest first; all else stands as it is. */
const piece = /YYYY|MM|DDD|DD|Www|D|hh|mm|ss/g;

function dateText({ iso }: CalendarDate, pattern: string): string {
  const [year = "", month = "", day = ""] = iso.split("-");
  const number = dayNumber(iso);
  const week = weekOf(iso);
  return pattern.replace(piece, (letters, at: number) => {
    switch (letters) {
      case "YYYY":
        // The year of a week is another than that of the day where the new year falls into the week.
        return /^-?Www/.test(pattern.slice(at + 4)) ? String(week.year) : year;
      case "MM":
        return month;
      case "DD":
        return day;
      case "DDD":
        return String(number - dayNumber(`${year}-01-01`) + 1).padStart(3, "0");
      case "Www":
        return `W${two(week.week)}`;
      case "D":
        return String(week.day);
      default:
        return "00";
    }
  });
}

function shifted(date: MaybeBlank, days: MaybeBlank): MaybeBlank | ReturnType<typeof cannot> {
  if (!isDate(date) || !isDecimal(days)) return undefined;
  const moved =
    days.isInteger() && days.abs().lte(1_000_000) ? dayOf(dayNumber(date.iso) + days.toNumber()) : undefined;
  return (
    moved ??
    cannot({
      trouble: "wrong-argument",
      name: "add_days",
      reason: "the days are a whole number, and the year stays between 1000 and 9999",
    })
  );
}

/** Functions over days. */
export const dates: readonly ExpressionFunction[] = [
  {
    name: "today",
    family: "dates",
    summary: "The day of the run.",
    parameters: [],
    result: "date",
    examples: [{ expression: "today()", gives: "2026-03-01" }],
    apply: (_, { today }) => today,
  },
  {
    name: "add_days",
    family: "dates",
    summary: "The day so many days later; a negative number goes back.",
    parameters: [parameter("date", "date"), parameter("days", "number")],
    result: "date",
    examples: [
      { expression: "add_days(today(), 30)", gives: "2026-03-31" },
      { expression: "add_days(today(), -1)", gives: "2026-02-28" },
    ],
    apply: ([date, days]) => shifted(date, days),
  },
  {
    name: "days_between",
    family: "dates",
    summary: "How many days lie from one day to another; negative when the second is earlier.",
    parameters: [parameter("from", "date"), parameter("until", "date")],
    result: "number",
    examples: [{ expression: "days_between(today(), add_days(today(), 7))", gives: "7" }],
    apply: ([from, until]) =>
      isDate(from) && isDate(until) ? whole(dayNumber(until.iso) - dayNumber(from.iso)) : undefined,
  },
  {
    name: "in_period",
    family: "dates",
    summary:
      "Whether a day, today unless you name one, lies between two days, both counted in; a blank end is open. A day that is named and blank lies in no period.",
    parameters: [parameter("from", "date"), parameter("until", "date"), optional("day", "date")],
    result: "yes-no",
    keepsBlanks: true,
    examples: [
      { expression: "in_period(add_days(today(), -3), blank)", gives: "yes" },
      { expression: "in_period(blank, add_days(today(), -1))", gives: "no" },
      { expression: "in_period(blank, today(), blank)", gives: "no" },
    ],
    apply([from, until, ...named], { today }) {
      const day = named.length === 0 ? today : named[0];
      if (!isDate(day)) return false;
      const { iso } = day;
      return !(isDate(from) && iso < from.iso) && !(isDate(until) && iso > until.iso);
    },
  },
  {
    name: "date_text",
    family: "dates",
    summary:
      "A day in the letters of ISO 8601: YYYY year (directly before Www the week's), MM month, DD day, DDD day of the year, Www week, D day of the week; hh, mm and ss are midnight.",
    parameters: [parameter("date", "date"), parameter("pattern", "text")],
    result: "text",
    examples: [
      { expression: 'date_text(today(), "DD.MM.YYYY")', gives: "01.03.2026" },
      { expression: 'date_text(today(), "YYYY-MM-DDThh:mm:ssZ")', gives: "2026-03-01T00:00:00Z" },
      { expression: 'date_text(today(), "YYYY-Www-D")', gives: "2026-W09-7" },
    ],
    apply: ([date, pattern]) => (isDate(date) ? dateText(date, asText(pattern)) : undefined),
  },
];
