import type { Decimal } from "../../values/decimal.js";
import { isDecimal, whole } from "../../values/decimal.js";
import { convert, measure } from "../../values/measure.js";
import { unitOf, type Unit } from "../../values/units.js";
import { isMeasure, isMoney, type MaybeBlank, type Measure } from "../../values/value.js";
import { money } from "../../values/money.js";
import type { ExpressionFunction, KnownArgument } from "../function.js";
import { shapeWords, type Shape } from "../kind.js";
import { cannot, type Cannot } from "../trouble.js";
import type { TroubleFacts } from "../../diagnostics/trouble-facts.js";
import { asCount, asText, optional, parameter, payableOnly } from "./arguments.js";

const cubicCentimetre = unitOf("cm");
const kilogram = unitOf("kg");

const unknownUnit = (name: string, unit: MaybeBlank): TroubleFacts => ({
  trouble: "wrong-argument",
  name,
  reason: `"${asText(unit)}" is no unit that is known`,
});

/** A unit written out is checked before any product is. */
const foreseeUnit =
  (name: string, ...positions: readonly number[]) =>
  (args: readonly KnownArgument[]): Shape | TroubleFacts | undefined => {
    for (const position of positions) {
      const written = args[position]?.literal;
      if (typeof written === "string" && unitOf(written) === undefined) return unknownUnit(name, written);
    }
    return undefined;
  };

const wrongShape = (name: string, reason: string): TroubleFacts => ({
  trouble: "wrong-argument",
  name,
  reason,
});

/** A unit of what the measure is: pounds of a length are told before any product is. */
const foreseeParts =
  (name: string) =>
  (args: readonly KnownArgument[]): Shape | TroubleFacts | undefined => {
    const wrong = foreseeUnit(name, 1, 2)(args);
    const [value, larger] = args;
    const unit = typeof larger?.literal === "string" ? unitOf(larger.literal) : undefined;
    if (wrong !== undefined || unit === undefined || value?.dimension === undefined) return wrong;
    return value.dimension === unit.dimension
      ? undefined
      : wrongShape(
          name,
          `${unit.code} is the unit of ${shapeWords({ kind: "measure", dimension: unit.dimension })}, the measure is ${shapeWords(value)}`,
        );
  };

const foreseeSides =
  (name: string, result?: Shape) =>
  (args: readonly KnownArgument[]): Shape | TroubleFacts | undefined => {
    const other = args.slice(0, 3).find(({ dimension }) => dimension !== undefined && dimension !== "length");
    return other === undefined
      ? result
      : wrongShape(name, `the sides are lengths, this is ${shapeWords(other)}`);
  };

/** The measure in the smaller unit, rounded there, so that both parts of it are cut from one number. */
const inSmaller = (value: Measure, smaller: Unit, decimals: MaybeBlank): Decimal | undefined =>
  convert(value, smaller)?.amount.toDecimalPlaces(isDecimal(decimals) ? asCount(decimals) : 10);

function parts(
  name: string,
  [value, largerName, smallerName, decimals]: readonly MaybeBlank[],
): { readonly whole: Decimal; readonly rest: Decimal } | Cannot | undefined {
  if (!isMeasure(value)) return undefined;
  const larger = unitOf(asText(largerName));
  const smaller = smallerName === undefined ? larger : unitOf(asText(smallerName));
  if (larger === undefined) return cannot(unknownUnit(name, largerName));
  if (smaller === undefined) return cannot(unknownUnit(name, smallerName));
  const total = inSmaller(value, smaller, decimals);
  const perLarger = convert(measure(whole(1), larger), smaller)?.amount;
  if (total === undefined || perLarger === undefined)
    return cannot({ trouble: "kinds-apart", left: `a measure in ${value.unit.code}`, right: smaller.code });
  const count = total.div(perLarger).floor();
  return { whole: count, rest: total.minus(count.times(perLarger)) };
}

function sides(values: readonly MaybeBlank[]): readonly Measure[] | undefined {
  const found = values.filter(isMeasure);
  return found.length === 3 && new Set(found.map(({ unit }) => unit.dimension)).size === 1
    ? found
    : undefined;
}

function longestFirst(values: readonly Measure[]): readonly Measure[] {
  const [first] = values;
  if (first === undefined) return [];
  return values
    .map((value) => convert(value, first.unit) ?? value)
    .sort((a, b) => b.amount.comparedTo(a.amount));
}

const threeSides = [
  parameter("width", "measure"),
  parameter("height", "measure"),
  parameter("depth", "measure"),
];

/** Functions over measures and their units. */
export const units: readonly ExpressionFunction[] = [
  {
    name: "whole_in",
    family: "units",
    summary:
      "How many whole larger units are in a measure. With the smaller unit and its decimals, the measure is rounded there first, so that rest_in never shows a full larger unit.",
    parameters: [
      parameter("measure", "measure"),
      parameter("larger", "text"),
      optional("smaller", "text"),
      optional("decimals", "number"),
    ],
    result: "number",
    examples: [
      { expression: 'whole_in(measure(1.4, "kg"), "lb", "oz", 1)', gives: "3" },
      { expression: 'whole_in(measure(0.9071, "kg"), "lb", "oz", 1)', gives: "2" },
    ],
    foresee: foreseeParts("whole_in"),
    apply(args) {
      const found = parts("whole_in", args);
      return found !== undefined && "whole" in found ? found.whole : found;
    },
  },
  {
    name: "rest_in",
    family: "units",
    summary: "What is left of a measure above its whole larger units, as a number of smaller ones.",
    parameters: [
      parameter("measure", "measure"),
      parameter("larger", "text"),
      parameter("smaller", "text"),
      optional("decimals", "number"),
    ],
    result: "number",
    examples: [
      { expression: 'rest_in(measure(1.4, "kg"), "lb", "oz", 1)', gives: "1.4" },
      { expression: 'rest_in(measure(0.9071, "kg"), "lb", "oz", 1)', gives: "0" },
    ],
    foresee: foreseeParts("rest_in"),
    apply(args) {
      const found = parts("rest_in", args);
      return found !== undefined && "rest" in found ? found.rest : found;
    },
  },
  {
    name: "volumetric_weight",
    family: "units",
    summary:
      "The weight that a carrier takes for a parcel by its size: cubic centimetres divided by the carrier's number (5000 unless you name another), in kilograms.",
    parameters: [...threeSides, optional("divisor", "number")],
    result: "measure",
    foresee: foreseeSides("volumetric_weight", { kind: "measure", dimension: "mass" }),
    examples: [
      {
        expression: 'volumetric_weight(measure(60, "cm"), measure(40, "cm"), measure(30, "cm"))',
        gives: "14.4 kg",
      },
    ],
    apply([width, height, depth, divisor]) {
      const all = sides([width, height, depth]);
      if (all === undefined || cubicCentimetre === undefined || kilogram === undefined) return undefined;
      const by = isDecimal(divisor) ? divisor : whole(5000);
      if (by.isZero()) return cannot({ trouble: "divided-by-zero" });
      const volume = all.reduce(
        (product, side) => product.times(convert(side, cubicCentimetre)?.amount ?? 0),
        whole(1),
      );
      return measure(volume.div(by), kilogram);
    },
  },
  {
    name: "longest_side",
    family: "units",
    summary: "The longest of three sides.",
    parameters: threeSides,
    foresee: foreseeSides("longest_side"),
    result: "first",
    examples: [
      { expression: 'longest_side(measure(60, "cm"), measure(1, "m"), measure(30, "cm"))', gives: "100 cm" },
    ],
    apply: ([width, height, depth]) => longestFirst(sides([width, height, depth]) ?? [])[0],
  },
  {
    name: "girth",
    family: "units",
    summary: "The way around a parcel across its longest side: twice the sum of the two shorter sides.",
    parameters: threeSides,
    foresee: foreseeSides("girth"),
    result: "first",
    examples: [
      { expression: 'girth(measure(60, "cm"), measure(40, "cm"), measure(30, "cm"))', gives: "140 cm" },
    ],
    apply([width, height, depth]) {
      const [, second, third] = longestFirst(sides([width, height, depth]) ?? []);
      if (second === undefined || third === undefined) return undefined;
      return measure(second.amount.plus(third.amount).times(2), second.unit);
    },
  },
  {
    name: "price_per",
    family: "units",
    summary:
      "What so much of the content costs: the price divided by the content, for 1 of a unit or as many as you name.",
    parameters: [
      parameter("price", "money"),
      parameter("content", "measure"),
      parameter("unit", "text"),
      optional("count", "number"),
    ],
    result: "first",
    foresee: (args) => foreseeUnit("price_per", 2)(args) ?? args[0],
    examples: [
      { expression: 'price_per(money(4.5, "GBP"), measure(340, "g"), "g", 100)', gives: "1.32 GBP" },
    ],
    apply([price, content, unitName, count]) {
      if (!isMoney(price) || !isMeasure(content)) return undefined;
      const unit = unitOf(asText(unitName));
      if (unit === undefined) return cannot(unknownUnit("price_per", unitName));
      const converted = convert(content, unit);
      if (converted === undefined)
        return cannot({
          trouble: "kinds-apart",
          left: `a measure in ${content.unit.code}`,
          right: unit.code,
        });
      if (converted.amount.isZero()) return cannot({ trouble: "divided-by-zero" });
      const times = isDecimal(count) ? count : whole(1);
      // Multiplied first and divided once, so that nothing is cut on the way.
      const over = price.amount.times(times).times(unit.factor);
      const under = content.amount.times(content.unit.factor);
      return payableOnly(money(over.div(under), price.currency));
    },
  },
];
