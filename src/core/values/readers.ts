/** Readers of texts as values: each gives a value, or what is wrong with the text. Which kind is read by which: `kinds.ts`. */
import { readFraction } from "./compound.js";
import { currencyOf, type CurrencyProblem } from "./currencies.js";
import type { Damage } from "./damage.js";
import type { DateOrder } from "./date.js";
import { whole, type Decimal } from "./decimal.js";
import type { GtinProblem } from "./gtin.js";
import type { IsbnReading } from "./isbn.js";
import { convert, measure } from "./measure.js";
import { money } from "./money.js";
import { readNumber, readOtherMark, withoutNoise, type DecimalMark } from "./number.js";
import { unitOf } from "./units.js";
import type { Measure, Value } from "./value.js";
import { encodedAddress, isWebAddress } from "./web-address.js";

/** What is wrong with a text. */
export type ReadingProblem =
  | GtinProblem
  | "isbn-prefix"
  | "not-a-number"
  | "two-ways-number"
  | "two-ways-date"
  | "not-whole"
  | "not-money"
  | CurrencyProblem
  | "not-a-measure"
  | "other-dimension"
  | "no-unit"
  | "not-a-date"
  | "not-yes-or-no"
  | "not-a-url"
  | "below-zero"
  | "zero-amount"
  | "zero-measure"
  | "over-hundred"
  | "other-currency"
  | "wrong-dimension"
  | "far-day"
  | "several-values"
  | "too-fine"
  | "fraction"
  | "no-value"
  | "not-permitted";

/** A value, or what is wrong with its text. */
export type Reading =
  { readonly value: Value; readonly repaired?: Damage } | { readonly problem: ReadingProblem };

/** What a file leaves unsaid: its decimal mark, its order of dates, and the currency and unit of bare numbers. */
export interface ReadingDefaults {
  readonly decimalMark?: DecimalMark;
  /** Marks of which nothing says whether they part thousands or decimals: of `1.399` and `1,399`. */
  readonly openMarks?: string;
  readonly dateOrder?: DateOrder;
  readonly currency?: string;
  readonly unit?: string;
}

const moneyParts = /^([^\d\s.,+-]{1,3})?\s*([+-]?[\d.,'’\u202f ]*\d)\s*([^\d\s.,+-]{1,3})?$/;

const eitherWay = /^[+-]?[1-9]\d{0,2}[.,]\d{3}$/;

/** Whether a number is one with thousands or one with decimals, and nothing tells which. */
const isEitherWay = (text: string, { openMarks = "" }: ReadingDefaults): boolean =>
  openMarks !== "" && eitherWay.test(text) && openMarks.includes(text.includes(",") ? "," : ".");

interface FoundNumber {
  readonly number: Decimal;
  readonly repaired?: Damage;
}

/** A number by the file's mark, else by the other one where it can be no other number; without a computer's noise. */
function numberIn(text: string, mark: DecimalMark | undefined): FoundNumber | undefined {
  const own = readNumber(text, mark);
  const number = own ?? readOtherMark(text, mark);
  if (number === undefined) return undefined;
  const plain = withoutNoise(number);
  if (plain !== undefined) return { number: plain, repaired: "binary-noise" };
  return own === undefined ? { number, repaired: "decimal-mark" } : { number };
}

const withRepair = (value: Value, { repaired }: FoundNumber): Reading =>
  repaired === undefined ? { value } : { value, repaired };

/** An amount with its currency, or that of bare numbers. */
export function readMoney(text: string, defaults: ReadingDefaults): Reading {
  const match = moneyParts.exec(text);
  if (match === null) return { problem: "not-money" };
  if (isEitherWay(match[2] ?? "", defaults)) return { problem: "two-ways-number" };
  const amount = numberIn(match[2] ?? "", defaults.decimalMark);
  if (amount === undefined) return { problem: "not-money" };
  const found = currencyOf(
    [match[1], match[3]].filter((mark) => mark !== undefined),
    defaults.currency,
  );
  return "problem" in found ? found : withRepair(money(amount.number, found.currency), amount);
}

const measureParts = /^([+-]?(?:[\d.,'’\u202f]*\d|\d*[ -]?(?:\d+\/\d+|[½¼¾⅛⅜⅝⅞])))\s*([^\d\s/½¼¾⅛⅜⅝⅞-].*)?$/;
const compoundParts = /^(\d[\d.,]*)\s*([^\d\s.,]+)[\s,]*(\d[\d.,]*)\s*([^\d\s.,]+)$/;
const smartQuotes = /[’”″′]/;

function amountOf(text: string, mark: DecimalMark | undefined): FoundNumber | undefined {
  const found = numberIn(text, mark);
  if (found !== undefined) return found;
  const number = readFraction(text);
  return number === undefined ? undefined : { number };
}

/**
 * One measure in falling units, such as `5 lb 3 oz`: whole larger ones and less than one of them in smaller, summed in
 * the smaller. `10 cm, 20 cm` are two sizes and no sum.
 */
function readCompound(text: string, { decimalMark }: ReadingDefaults): Measure | undefined {
  const match = compoundParts.exec(text);
  if (match === null) return undefined;
  const [larger, smaller] = [unitOf(match[2] ?? ""), unitOf(match[4] ?? "")];
  const [first, second] = [readNumber(match[1] ?? "", decimalMark), readNumber(match[3] ?? "", decimalMark)];
  if (larger === undefined || smaller === undefined || first === undefined || second === undefined)
    return undefined;
  const perLarger = convert(measure(whole(1), larger), smaller)?.amount;
  if (perLarger === undefined || !first.isInteger() || second.gte(perLarger)) return undefined;
  if (larger.factor.lte(smaller.factor)) return undefined;
  return measure(first.times(perLarger).plus(second), smaller);
}

/** An amount with its unit, or that of bare numbers; falling units are summed. */
export function readMeasure(text: string, defaults: ReadingDefaults): Reading {
  const found = plainMeasure(text, defaults);
  return "value" in found && smartQuotes.test(text) ? { ...found, repaired: "quotes" } : found;
}

function plainMeasure(text: string, defaults: ReadingDefaults): Reading {
  const compound = readCompound(text, defaults);
  if (compound !== undefined) return { value: compound };
  const match = measureParts.exec(text);
  if (isEitherWay(match?.[1] ?? "", defaults)) return { problem: "two-ways-number" };
  const amount = match === null ? undefined : amountOf(match[1] ?? "", defaults.decimalMark);
  if (amount === undefined) return { problem: "not-a-measure" };
  const spelling = match?.[2]?.trim() ?? defaults.unit;
  const unit = spelling === undefined ? undefined : unitOf(spelling);
  return unit === undefined
    ? { problem: spelling === undefined ? "no-unit" : "not-a-measure" }
    : withRepair(measure(amount.number, unit), amount);
}

/** A number; `wholeOnly`: a count of things. */
export function readDecimal(text: string, defaults: ReadingDefaults, wholeOnly: boolean): Reading {
  // A share is a number of hundredths, never a count of things.
  const written = wholeOnly ? text : text.replace(/\s*%$/, "");
  if (isEitherWay(written, defaults)) return { problem: "two-ways-number" };
  const found = numberIn(written, defaults.decimalMark);
  if (found === undefined) return { problem: "not-a-number" };
  return wholeOnly && !found.number.isInteger() ? { problem: "not-whole" } : withRepair(found.number, found);
}

/** A value, or that there is none. */
export const orProblem = (value: Value | undefined, problem: ReadingProblem): Reading =>
  value === undefined ? { problem } : { value };

/** A web address, its signs encoded where that is all that is wrong. */
export function readUrl(text: string): Reading {
  if (isWebAddress(text)) return { value: text };
  const encoded = encodedAddress(text);
  return encoded === undefined ? { problem: "not-a-url" } : { value: encoded, repaired: "address" };
}

/** Digits with a check digit as a value. */
export function fromDigits(reading: IsbnReading): Reading {
  if ("problem" in reading) return reading;
  const { digits: value, repaired } = reading;
  return repaired === undefined ? { value } : { value, repaired };
}
