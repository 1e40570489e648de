import { isDecimal, type Decimal } from "../../values/decimal.js";
import { measure } from "../../values/measure.js";
import { money } from "../../values/money.js";
import { isMeasure, isMoney, type MaybeBlank } from "../../values/value.js";
import type { ExpressionFunction } from "../function.js";

const PLACES_LIMIT = 20;

const places = (value: MaybeBlank): number =>
  isDecimal(value) && value.isInteger() ? Math.min(Math.max(value.toNumber(), 0), PLACES_LIMIT) : 0;

/** Applies a change of the number inside a number, a price or a measure. */
const within = (value: MaybeBlank, change: (amount: Decimal) => Decimal): MaybeBlank => {
  if (isDecimal(value)) return change(value);
  if (isMoney(value)) return money(change(value.amount), value.currency);
  return isMeasure(value) ? measure(change(value.amount), value.unit) : undefined;
};

export const numbers: readonly ExpressionFunction[] = [
  {
    name: "round",
    family: "numbers",
    summary: "Rounds a number, price or measure to so many decimals, halves away from zero.",
    parameters: [
      { name: "value", kind: "any" },
      { name: "decimals", kind: "number", optional: true },
    ],
    result: "any",
    examples: [
      { expression: "round(2.345, 2)", gives: "2.35" },
      { expression: "round(2.5)", gives: "3" },
    ],
    apply: ([value, decimals]) => within(value, (amount) => amount.toDecimalPlaces(places(decimals))),
  },
  {
    name: "whole",
    family: "numbers",
    summary: "The whole part of a number, price or measure: rounded down.",
    parameters: [{ name: "value", kind: "any" }],
    result: "any",
    examples: [
      { expression: "whole(3.9)", gives: "3" },
      { expression: 'whole(amount(measure(1.4, "kg") in lb))', gives: "3" },
    ],
    apply: ([value]) => within(value, (amount) => amount.floor()),
  },
  {
    name: "amount",
    family: "numbers",
    summary: "The bare number of a price or a measure.",
    parameters: [{ name: "value", kind: "any" }],
    result: "number",
    examples: [{ expression: 'amount(money(12.5, "GBP"))', gives: "12.5" }],
    apply: ([value]) =>
      isMoney(value) || isMeasure(value) ? value.amount : isDecimal(value) ? value : undefined,
  },
  {
    name: "money",
    family: "numbers",
    summary: "A price from a number and a currency code.",
    parameters: [
      { name: "number", kind: "number" },
      { name: "currency", kind: "text" },
    ],
    result: "money",
    examples: [{ expression: 'money(12.5, "GBP")', gives: "12.50 GBP" }],
    apply: ([number, currency]) =>
      isDecimal(number) && typeof currency === "string" ? money(number, currency) : undefined,
  },
];
