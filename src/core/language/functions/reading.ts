import { isDecimal, whole, type Decimal } from "../../values/decimal.js";
import { convert, measure } from "../../values/measure.js";
import { readValue, type ReadingDefaults } from "../../values/read.js";
import { shownText } from "../../values/show.js";
import { cleanText } from "../../values/text.js";
import { unitOf } from "../../values/units.js";
import {
  isDate,
  isList,
  isMeasure,
  isMoney,
  type MaybeBlank,
  type Measure,
  type Money,
} from "../../values/value.js";
import type { ExpressionFunction } from "../function.js";
import { cannot, type Cannot } from "../trouble.js";

/** A source keeps what it cannot read as written, so that the row's finding shows it; elsewhere it is a trouble. */
const unreadable = (value: MaybeBlank, wanted: string): Cannot | undefined =>
  value === undefined ? undefined : cannot({ trouble: "not-readable", value: shownText(value), wanted });

/** A text to be read, without the blanks around it that a cell or a piece of one brings. */
const written = (value: MaybeBlank): string => cleanText(shownText(value));

/** What is already a value stays; a text is read as the file's own settings say. */
function asMoney(value: MaybeBlank, defaults: ReadingDefaults): Money | undefined {
  if (value === undefined || isMoney(value)) return value;
  const reading = readValue("money", written(value), defaults);
  return "value" in reading && isMoney(reading.value) ? reading.value : undefined;
}

function asNumber(value: MaybeBlank, defaults: ReadingDefaults): Decimal | undefined {
  if (value === undefined || isDecimal(value)) return value;
  const reading = readValue("decimal", written(value), defaults);
  return "value" in reading && isDecimal(reading.value) ? reading.value : undefined;
}

function asMeasure(value: MaybeBlank, unit: MaybeBlank, defaults: ReadingDefaults): Measure | undefined {
  if (value === undefined || isMeasure(value)) return value;
  const named = unit === undefined ? {} : { unit: shownText(unit) };
  const reading = readValue("measure", written(value), { ...defaults, ...named });
  return "value" in reading && isMeasure(reading.value) ? reading.value : undefined;
}

function asDate(value: MaybeBlank, defaults: ReadingDefaults): MaybeBlank {
  if (value === undefined || isDate(value)) return value;
  const reading = readValue("date", written(value), defaults);
  return "value" in reading ? reading.value : undefined;
}

/** Two prices of one currency in order; undefined where they cannot be told apart. */
function inOrder(a: Money | undefined, b: Money | undefined): readonly [Money, Money] | undefined {
  if (a === undefined || b === undefined || a.currency !== b.currency) return undefined;
  // A price of nothing is a shop's way to say "none".
  if (a.amount.isZero() || b.amount.isZero() || a.amount.equals(b.amount)) return undefined;
  return a.amount.greaterThan(b.amount) ? [a, b] : [b, a];
}

const given = (price: Money | undefined): Money | undefined =>
  price === undefined || price.amount.isZero() ? undefined : price;

// Longer than any size that is written down.
const SIDES_LIMIT = 200;
const sides = /\s*[x×*]\s*/i;
const trailingUnit = /[^\d\s.,/½¼¾]+\.?$/;

/** One of the sides of `30 x 20 x 12 cm`; a unit behind the last side is that of all. */
function side(text: string, number: number, defaults: ReadingDefaults): MaybeBlank {
  if (text.length > SIDES_LIMIT) return text;
  const parts = text.split(sides);
  const part = parts[number - 1]?.trim();
  if (part === undefined || part === "") return undefined;
  const unit = trailingUnit.exec(parts.at(-1) ?? "")?.[0] ?? defaults.unit;
  // What cannot be read is kept as written, so that the finding shows it.
  return asMeasure(part, unit, defaults) ?? part;
}

function compound(args: readonly MaybeBlank[], defaults: ReadingDefaults): MaybeBlank {
  const [larger, largerUnit, smaller, smallerUnit] = args;
  const [big, small] = [unitOf(shownText(largerUnit)), unitOf(shownText(smallerUnit))];
  if (big === undefined || small === undefined || (larger === undefined && smaller === undefined))
    return undefined;
  const [first, second] = [asNumber(larger ?? whole(0), defaults), asNumber(smaller ?? whole(0), defaults)];
  if (first === undefined || second === undefined)
    return [larger, smaller].map(shownText).filter(Boolean).join(" + ");
  const converted = convert(measure(first, big), small);
  return converted === undefined ? undefined : measure(converted.amount.plus(second), small);
}

/** Functions that read texts of files as values. */
export const reading: readonly ExpressionFunction[] = [
  {
    name: "number",
    family: "reading",
    summary: "A text read as a number, with the file's decimal mark.",
    parameters: [{ name: "text", kind: "any" }],
    result: "number",
    examples: [
      { expression: 'number("1,250.5") / 2', gives: "625.25" },
      { expression: 'number(" 64.00")', gives: "64" },
    ],
    apply: ([text], { reading: defaults = {} }) => asNumber(text, defaults) ?? unreadable(text, "a number"),
  },
  {
    name: "total",
    family: "reading",
    summary:
      "The sum of numbers, such as the pieces of several places; a list counts with all its values. What is blank counts for nothing, and where all are there is no sum; one that is no number leaves the sum open.",
    parameters: [
      { name: "number", kind: "any" },
      { name: "other", kind: "any", optional: true },
    ],
    repeats: true,
    keepsBlanks: true,
    result: "number",
    examples: [
      { expression: 'total("4", "10")', gives: "14" },
      { expression: 'total(list("4", "10"), 1)', gives: "15" },
    ],
    apply(args, { reading: defaults = {} }) {
      const given = args.flatMap((arg) => (arg === undefined ? [] : isList(arg) ? [...arg] : [arg]));
      let sum: Decimal | undefined;
      for (const one of given) {
        if (one === "") continue;
        const number = asNumber(one, defaults);
        if (number === undefined) return unreadable(one, "a number");
        sum = sum === undefined ? number : sum.plus(number);
      }
      return sum;
    },
  },
  {
    name: "measure",
    family: "reading",
    summary: "A text read as a measure; the unit is that of a bare number.",
    parameters: [
      { name: "text", kind: "any" },
      { name: "unit", kind: "text", optional: true },
    ],
    result: "measure",
    examples: [
      { expression: 'measure("1.5", "kg") in g', gives: "1500 g" },
      { expression: 'measure("18 1/8 in") in cm', gives: "46.0375 cm" },
    ],
    foresee: ([, unit]) => {
      if (typeof unit?.literal !== "string") return undefined;
      const known = unitOf(unit.literal);
      return known === undefined
        ? { trouble: "wrong-argument", name: "measure", reason: `"${unit.literal}" is no unit that is known` }
        : { kind: "measure", dimension: known.dimension };
    },
    apply: ([text, unit], { reading: defaults = {} }) =>
      asMeasure(text, unit, defaults) ?? unreadable(text, "a measure"),
  },
  {
    name: "date",
    family: "reading",
    summary: "A text read as a day: 2026-03-01, or as the file's own settings say.",
    parameters: [{ name: "text", kind: "any" }],
    result: "date",
    examples: [{ expression: 'add_days(date("2026-03-01"), 3)', gives: "2026-03-04" }],
    apply: ([text], { reading: defaults = {} }) => asDate(text, defaults) ?? unreadable(text, "a day"),
  },
  {
    name: "compound",
    family: "reading",
    summary: "One measure from two columns, such as pounds and ounces; either may be blank.",
    parameters: [
      { name: "larger", kind: "any" },
      { name: "unit", kind: "text" },
      { name: "smaller", kind: "any" },
      { name: "smaller unit", kind: "text" },
    ],
    result: "any",
    keepsBlanks: true,
    examples: [
      { expression: 'compound("5", "lb", "3.5", "oz")', gives: "83.5 oz" },
      { expression: 'compound(blank, "ft", "9", "in")', gives: "9 in" },
    ],
    apply: (args, { reading: defaults = {} }) => compound(args, defaults),
  },
  {
    name: "side",
    family: "reading",
    summary: "One of the sides of a size such as 30 x 20 x 12 cm, counted from 1.",
    parameters: [
      { name: "text", kind: "text" },
      { name: "number", kind: "number" },
    ],
    result: "any",
    examples: [
      { expression: 'side("30 x 20 x 12 cm", 2)', gives: "20 cm" },
      { expression: 'side("12in × 8in", 1)', gives: "12 in" },
    ],
    apply: ([text, number], { reading: defaults = {} }) =>
      side(shownText(text), isDecimal(number) ? number.toNumber() : 0, defaults),
  },
  {
    name: "regular_price",
    family: "reading",
    summary: "Of two prices the higher, whichever column a shop keeps it in; of one the one.",
    parameters: [
      { name: "price", kind: "any" },
      { name: "other", kind: "any" },
    ],
    result: "any",
    keepsBlanks: true,
    examples: [
      { expression: 'regular_price("12.00 GBP", "15.00 GBP")', gives: "15.00 GBP" },
      { expression: 'regular_price("12.00 GBP", blank)', gives: "12.00 GBP" },
    ],
    apply: ([first, second], { reading: defaults = {} }) => {
      const [a, b] = [asMoney(first, defaults), asMoney(second, defaults)];
      return inOrder(a, b)?.[0] ?? given(a) ?? given(b) ?? first;
    },
  },
  {
    name: "reduced_price",
    family: "reading",
    summary: "Of two prices the lower; blank where only one is given, or both are the same.",
    parameters: [
      { name: "price", kind: "any" },
      { name: "other", kind: "any" },
    ],
    result: "any",
    examples: [{ expression: 'reduced_price("12.00 GBP", "15.00 GBP")', gives: "12.00 GBP" }],
    apply: ([first, second], { reading: defaults = {} }) =>
      inOrder(asMoney(first, defaults), asMoney(second, defaults))?.[1],
  },
];
