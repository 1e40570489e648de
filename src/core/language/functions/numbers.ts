import { Decimal } from "decimal.js";
import { isDecimal, whole } from "../../values/decimal.js";
import { isMeasure, isMoney, type MaybeBlank } from "../../values/value.js";
import type { ExpressionFunction } from "../function.js";
import { areApart, fits, shapeWords } from "../kind.js";
import { order } from "../operations.js";
import { cannot } from "../trouble.js";
import { amountParameter, noRate, optional, parameter, payableOnly, within } from "./arguments.js";

const PLACES_LIMIT = 20;

const places = (value: MaybeBlank): number =>
  isDecimal(value) && value.isInteger()
    ? Math.min(Math.max(value.toNumber(), -PLACES_LIMIT), PLACES_LIMIT)
    : 0;

/** Rounded to so many decimals; below 0 to tens, hundreds and so on. */
function roundedTo(amount: Decimal, decimals: number, mode: Decimal.Rounding): Decimal {
  if (decimals >= 0) return amount.toDecimalPlaces(decimals, mode);
  const step = whole(10).pow(-decimals);
  return amount.div(step).toDecimalPlaces(0, mode).times(step);
}

const rounding = (
  name: string,
  summary: string,
  mode: Decimal.Rounding,
  examples: ExpressionFunction["examples"],
): ExpressionFunction => ({
  name,
  family: "numbers",
  summary,
  parameters: [amountParameter("value"), optional("decimals", "number")],
  result: "first",
  examples,
  apply: ([value, decimals]) => within(value, (amount) => roundedTo(amount, places(decimals), mode)),
});

/** The greater or the smaller of two values of one kind. */
const bound = (
  name: string,
  summary: string,
  keeps: (order: number) => boolean,
  examples: ExpressionFunction["examples"],
): ExpressionFunction => ({
  name,
  family: "numbers",
  summary,
  parameters: [parameter("value", "any"), parameter("bound", "any")],
  result: "first",
  examples,
  foresee: ([value, limit]) =>
    value !== undefined && limit !== undefined && (!fits(value.kind, limit.kind) || areApart(value, limit))
      ? {
          trouble: "wrong-argument",
          name,
          reason: `the value is ${shapeWords(value)}, its bound is ${shapeWords(limit)}`,
        }
      : undefined,
  apply([value, limit]) {
    if (limit === undefined || value === undefined) return value;
    const found = order(value, limit);
    if (found === undefined)
      return cannot({
        trouble: "wrong-argument",
        name,
        reason: "the value and its bound are of different kinds",
      });
    return keeps(found) ? value : limit;
  },
});

/** Functions over numbers, prices and measures alike. */
export const numbers: readonly ExpressionFunction[] = [
  rounding(
    "round",
    "Rounds a number, price or measure to so many decimals, halves away from zero; -2 rounds to hundreds.",
    Decimal.ROUND_HALF_UP,
    [
      { expression: "round(2.345, 2)", gives: "2.35" },
      { expression: "round(2.5)", gives: "3" },
      { expression: "round(1234, -2)", gives: "1200" },
    ],
  ),
  rounding("round_up", "Rounds up, away from zero, to so many decimals.", Decimal.ROUND_UP, [
    { expression: "round_up(2.341, 2)", gives: "2.35" },
    { expression: 'round_up(money(7.01, "GBP"))', gives: "8.00 GBP" },
  ]),
  rounding("round_down", "Rounds down, towards zero, to so many decimals.", Decimal.ROUND_DOWN, [
    { expression: "round_down(2.349, 2)", gives: "2.34" },
  ]),
  {
    name: "whole",
    family: "numbers",
    summary: "A number, price or measure rounded down to a whole number, below zero as well.",
    parameters: [amountParameter("value")],
    result: "first",
    examples: [
      { expression: "whole(3.9)", gives: "3" },
      { expression: "whole(-1.5)", gives: "-2" },
    ],
    apply: ([value]) => within(value, (amount) => amount.floor()),
  },
  bound(
    "at_least",
    "The value, or the bound where the value is below it; a blank bound bounds nothing.",
    (found) => found >= 0,
    [
      { expression: 'at_least(money(3, "GBP"), money(5, "GBP"))', gives: "5.00 GBP" },
      { expression: "at_least(7, 5)", gives: "7" },
    ],
  ),
  bound(
    "at_most",
    "The value, or the bound where the value is above it; a blank bound bounds nothing.",
    (found) => found <= 0,
    [
      { expression: "at_most(7, 5)", gives: "5" },
      { expression: "at_most(7, blank)", gives: "7" },
    ],
  ),
  {
    name: "percent",
    family: "numbers",
    summary: "So many hundredths of a number, price or measure; of a price, rounded to what can be paid.",
    parameters: [parameter("percent", "number"), amountParameter("value")],
    result: "any",
    examples: [{ expression: 'percent(15, money(80, "GBP"))', gives: "12.00 GBP" }],
    foresee: ([, value]) => value,
    keepsBlanks: true,
    apply: ([percent, value]) => {
      if (value === undefined) return undefined;
      return isDecimal(percent)
        ? payableOnly(within(value, (amount) => amount.times(percent).div(100)))
        : noRate("percent");
    },
  },
  {
    name: "amount",
    family: "numbers",
    summary: "The bare number of a price or a measure.",
    parameters: [amountParameter("value")],
    result: "number",
    examples: [{ expression: 'amount(money(12.5, "GBP"))', gives: "12.5" }],
    apply: ([value]) =>
      isMoney(value) || isMeasure(value) ? value.amount : isDecimal(value) ? value : undefined,
  },
];
