/** Order and arithmetic of values: exact, and between what can be compared. */
import { isDecimal, whole, type Decimal } from "../values/decimal.js";
import { convert, measure } from "../values/measure.js";
import { money } from "../values/money.js";
import { isDate, isList, isMeasure, isMoney, type MaybeBlank, type Value } from "../values/value.js";
import { cannot, type Cannot } from "./trouble.js";

// What divisions leave behind the 35th of the 40 digits that are kept.
const NUMBER_DUST = whole(10).pow(-35);
// Conversions may have gone through a text of 20 decimals.
const MEASURE_DUST = whole(10).pow(-12);
const FEW_DIGITS = 30;
// Two numbers of so many digits differ by more than that part, or not at all.
const PLAIN_DIGITS = 11;

const isDust = (a: Decimal, b: Decimal, dust: Decimal): boolean => a.minus(b).abs().lte(a.abs().times(dust));

function numbersCompared(a: Decimal, b: Decimal): number {
  const found = a.comparedTo(b);
  // Only what was divided has so many digits.
  if (found === 0 || (a.precision() < FEW_DIGITS && b.precision() < FEW_DIGITS)) return found;
  return isDust(a, b, NUMBER_DUST) ? 0 : found;
}

/** Measures are alike to one part in 10^12: a weight in pounds and back is the same weight. */
function measuresCompared(a: Decimal, b: Decimal): number {
  const found = a.comparedTo(b);
  if (found === 0 || (a.precision() <= PLAIN_DIGITS && b.precision() <= PLAIN_DIGITS)) return found;
  return isDust(a, b, MEASURE_DUST) ? 0 : found;
}

/** Order of two values of one kind; undefined when they have none (blank, other kinds, other currencies). */
export function order(a: MaybeBlank, b: MaybeBlank): number | undefined {
  if (typeof a === "string" && typeof b === "string") return a < b ? -1 : a > b ? 1 : 0;
  if (typeof a === "boolean" && typeof b === "boolean") return Number(a) - Number(b);
  if (isDecimal(a) && isDecimal(b)) return numbersCompared(a, b);
  if (isMoney(a) && isMoney(b))
    return a.currency === b.currency ? numbersCompared(a.amount, b.amount) : undefined;
  if (isMeasure(a) && isMeasure(b)) {
    const same = convert(b, a.unit);
    return same === undefined ? undefined : measuresCompared(a.amount, same.amount);
  }
  if (isDate(a)) return order(a.iso, isDate(b) ? b.iso : b);
  return isDate(b) ? order(a, b.iso) : undefined;
}

/** Signs that calculate. */
export type Arithmetic = "+" | "-" | "*" | "/";

/** More digits before the point than any price, weight or count of the trade has. */
const DIGITS_LIMIT = 30;

function kindName(value: Value): string {
  if (isDecimal(value)) return "a number";
  if (isMoney(value)) return value.currency;
  if (isMeasure(value)) return `a measure in ${value.unit.code}`;
  if (isDate(value)) return "a date";
  if (isList(value)) return "a list";
  return typeof value === "boolean" ? "yes or no" : `the text "${value.slice(0, 40)}"`;
}

const apart = (a: Value, b: Value): Cannot =>
  cannot({ trouble: "kinds-apart", left: kindName(a), right: kindName(b) });

function operate(operator: Arithmetic, a: Decimal, b: Decimal): Decimal | Cannot {
  switch (operator) {
    case "+":
      return a.plus(b);
    case "-":
      return a.minus(b);
    case "*": {
      const product = a.times(b);
      return product.e >= DIGITS_LIMIT ? cannot({ trouble: "number-too-large" }) : product;
    }
    case "/":
      return b.isZero() ? cannot({ trouble: "divided-by-zero" }) : a.div(b);
  }
}

const isDigits = (value: Decimal | Cannot): value is Decimal => isDecimal(value);

function priced(operator: Arithmetic, a: Decimal, b: Decimal, currency: string): MaybeBlank | Cannot {
  const amount = operate(operator, a, b);
  return isDigits(amount) ? money(amount, currency) : amount;
}

/** Exact arithmetic on numbers, money and measures; blank when a side is blank, a trouble when the sides do not go together. */
export function calculate(operator: Arithmetic, a: MaybeBlank, b: MaybeBlank): MaybeBlank | Cannot {
  if (a === undefined || b === undefined) return undefined;
  if (isDecimal(a)) {
    if (isDecimal(b)) return operate(operator, a, b);
    return operator === "*" && (isMoney(b) || isMeasure(b)) ? calculate("*", b, a) : apart(a, b);
  }
  const together = operator === "+" || operator === "-";
  if (isMoney(a)) {
    if (isDecimal(b)) return together ? apart(a, b) : priced(operator, a.amount, b, a.currency);
    if (!isMoney(b) || operator === "*") return apart(a, b);
    if (a.currency !== b.currency) return apart(a, b);
    return together ? priced(operator, a.amount, b.amount, a.currency) : operate("/", a.amount, b.amount);
  }
  if (!isMeasure(a)) return apart(a, b);
  if (isDecimal(b)) {
    const amount = together ? apart(a, b) : operate(operator, a.amount, b);
    return isDecimal(amount) ? measure(amount, a.unit) : amount;
  }
  const same = isMeasure(b) && operator !== "*" ? convert(b, a.unit) : undefined;
  if (same === undefined) return apart(a, b);
  const amount = operate(operator, a.amount, same.amount);
  return isDigits(amount) && together ? measure(amount, a.unit) : amount;
}
