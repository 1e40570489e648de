import { isDecimal, type Decimal } from "../values/decimal.js";
import { convert, measure } from "../values/measure.js";
import { money } from "../values/money.js";
import { isDate, isMeasure, isMoney, type MaybeBlank } from "../values/value.js";

/** Order of two values of one kind; undefined when they have none (blank, other kinds, other currencies). */
export const order = (a: MaybeBlank, b: MaybeBlank): number | undefined => {
  if (typeof a === "string" && typeof b === "string") return a < b ? -1 : a > b ? 1 : 0;
  if (typeof a === "boolean" && typeof b === "boolean") return Number(a) - Number(b);
  if (isDecimal(a) && isDecimal(b)) return a.comparedTo(b);
  if (isMoney(a) && isMoney(b)) return a.currency === b.currency ? a.amount.comparedTo(b.amount) : undefined;
  if (isMeasure(a) && isMeasure(b)) {
    const same = convert(b, a.unit);
    return same === undefined ? undefined : a.amount.comparedTo(same.amount);
  }
  if (isDate(a)) return order(a.iso, isDate(b) ? b.iso : b);
  return isDate(b) ? order(a, b.iso) : undefined;
};

export type Arithmetic = "+" | "-" | "*" | "/";

type Numeric = Extract<MaybeBlank, object>;
type Operation = (a: Decimal, b: Decimal) => Decimal;

const operations: Readonly<Record<Arithmetic, Operation>> = {
  "+": (a, b) => a.plus(b),
  "-": (a, b) => a.minus(b),
  "*": (a, b) => a.times(b),
  "/": (a, b) => a.div(b),
};

const sum = (operator: "+" | "-", a: Numeric, b: Numeric): MaybeBlank => {
  const apply = operations[operator];
  if (isMoney(a) && isMoney(b))
    return a.currency === b.currency ? money(apply(a.amount, b.amount), a.currency) : undefined;
  if (!isMeasure(a) || !isMeasure(b)) return undefined;
  const same = convert(b, a.unit);
  return same === undefined ? undefined : measure(apply(a.amount, same.amount), a.unit);
};

const scaled = (operator: "*" | "/", a: Numeric, b: Numeric): MaybeBlank => {
  if (operator === "*" && isDecimal(a) && !isDecimal(b)) return scaled("*", b, a);
  if (isDecimal(b)) {
    const apply = operations[operator];
    if (isMoney(a)) return money(apply(a.amount, b), a.currency);
    return isMeasure(a) ? measure(apply(a.amount, b), a.unit) : undefined;
  }
  if (operator === "*") return undefined;
  if (isMoney(a) && isMoney(b)) return a.currency === b.currency ? a.amount.div(b.amount) : undefined;
  if (!isMeasure(a) || !isMeasure(b)) return undefined;
  const same = convert(b, a.unit);
  return same === undefined ? undefined : a.amount.div(same.amount);
};

/** Exact arithmetic on numbers, money and measures; blank when a side is blank or the sides do not go together. */
export const calculate = (operator: Arithmetic, a: MaybeBlank, b: MaybeBlank): MaybeBlank => {
  if (typeof a !== "object" || typeof b !== "object") return undefined;
  if (operator === "/" && !("kind" in b && b.kind === "date") && amountIsZero(b)) return undefined;
  if (isDecimal(a) && isDecimal(b)) return operations[operator](a, b);
  return operator === "+" || operator === "-" ? sum(operator, a, b) : scaled(operator, a, b);
};

const amountIsZero = (value: Numeric): boolean =>
  isDecimal(value) ? value.isZero() : (isMoney(value) || isMeasure(value)) && value.amount.isZero();
