import { assertNever } from "../assert-never.js";
import { currencyOf } from "./currencies.js";
import { readDate } from "./date.js";
import { readGtin, type GtinProblem } from "./gtin.js";
import { measure } from "./measure.js";
import { money } from "./money.js";
import { readNumber, type DecimalMark } from "./number.js";
import { unitOf } from "./units.js";
import type { Kind, Value } from "./value.js";
import { readYesNo } from "./yes-no.js";

export type ReadingProblem =
  | GtinProblem
  | "not-a-number"
  | "not-whole"
  | "not-money"
  | "no-currency"
  | "not-a-measure"
  | "no-unit"
  | "not-a-date"
  | "not-yes-or-no"
  | "not-a-url";

export type Reading = { readonly value: Value } | { readonly problem: ReadingProblem };

/** What a file leaves unsaid: its decimal mark, and the currency and unit of bare numbers. */
export interface ReadingDefaults {
  readonly decimalMark?: DecimalMark;
  readonly currency?: string;
  readonly unit?: string;
}

const moneyParts = /^([^\d\s.,+-]{1,3})?\s*([+-]?[\d.,'\u202f ]*\d)\s*([^\d\s.,+-]{1,3})?$/;

const readMoney = (text: string, defaults: ReadingDefaults): Reading => {
  const match = moneyParts.exec(text);
  if (match === null) return { problem: "not-money" };
  const amount = readNumber(match[2] ?? "", defaults.decimalMark);
  if (amount === undefined) return { problem: "not-money" };
  const mark = match[1] ?? match[3];
  const currency = mark === undefined ? defaults.currency : currencyOf(mark, defaults.currency);
  return currency === undefined ? { problem: "no-currency" } : { value: money(amount, currency) };
};

const measureParts = /^([+-]?[\d.,'\u202f]*\d)\s*([^\d\s].*)?$/;

const readMeasure = (text: string, defaults: ReadingDefaults): Reading => {
  const match = measureParts.exec(text);
  const amount = match === null ? undefined : readNumber(match[1] ?? "", defaults.decimalMark);
  if (amount === undefined) return { problem: "not-a-measure" };
  const spelling = match?.[2]?.trim() ?? defaults.unit;
  const unit = spelling === undefined ? undefined : unitOf(spelling);
  return unit === undefined
    ? { problem: spelling === undefined ? "no-unit" : "not-a-measure" }
    : { value: measure(amount, unit) };
};

const readDecimal = (text: string, defaults: ReadingDefaults, wholeOnly: boolean): Reading => {
  const value = readNumber(text, defaults.decimalMark);
  if (value === undefined) return { problem: "not-a-number" };
  return wholeOnly && !value.isInteger() ? { problem: "not-whole" } : { value };
};

const orProblem = (value: Value | undefined, problem: ReadingProblem): Reading =>
  value === undefined ? { problem } : { value };

const readUrl = (text: string): Reading =>
  /^https?:\/\/[^\s/]+\.[^\s]+$/i.test(text) ? { value: text } : { problem: "not-a-url" };

/** Reads cleaned, non-empty cell text as a value of a kind, or says what is wrong with it. */
export const readValue = (kind: Kind, text: string, defaults: ReadingDefaults = {}): Reading => {
  switch (kind) {
    case "text":
    case "html":
    case "choice":
      return { value: text };
    case "integer":
      return readDecimal(text, defaults, true);
    case "decimal":
      return readDecimal(text, defaults, false);
    case "money":
      return readMoney(text, defaults);
    case "measure":
      return readMeasure(text, defaults);
    case "date":
      return orProblem(readDate(text), "not-a-date");
    case "yes-no":
      return orProblem(readYesNo(text), "not-yes-or-no");
    case "url":
      return readUrl(text);
    case "gtin": {
      const reading = readGtin(text);
      return "digits" in reading ? { value: reading.digits } : reading;
    }
    default:
      return assertNever(kind);
  }
};
