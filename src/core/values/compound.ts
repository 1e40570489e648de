/** Measures in two units, and numbers with fractions. */
import { ownOf } from "../own.js";
import { decimal, type Decimal } from "./decimal.js";
import { convert, measure } from "./measure.js";
import type { Unit } from "./units.js";
import type { Measure } from "./value.js";

/**
 * A measure in two units of one dimension, such as pounds and ounces: whole larger units, and the rest in the smaller,
 * rounded. A rest that rounds up to a whole larger unit is carried: 15.97 oz at one decimal is 1 lb 0 oz.
 */
export function split(
  value: Measure,
  larger: Unit,
  smaller: Unit,
  decimals: number,
): { readonly whole: Measure; readonly rest: Measure } | undefined {
  const small = convert(value, smaller);
  if (small === undefined || larger.dimension !== smaller.dimension) return undefined;
  const perLarger = larger.factor.div(smaller.factor);
  const total = small.amount.toDecimalPlaces(decimals);
  const whole = total.div(perLarger).trunc();
  return { whole: measure(whole, larger), rest: measure(total.minus(whole.times(perLarger)), smaller) };
}

const glyphs: Readonly<Record<string, string>> = {
  "½": "1/2",
  "¼": "1/4",
  "¾": "3/4",
  "⅛": "1/8",
  "⅜": "3/8",
  "⅝": "5/8",
  "⅞": "7/8",
};
const fraction = /^(?:(\d{1,6})[ -])?(\d{1,4})\/(\d{1,4})$/;

/** A number with a fraction as rules and rulers have it, such as `18 1/8`; exact for halves down to 64ths. */
export function readFraction(text: string): Decimal | undefined {
  const spelled = text.replace(/(\d?)\s*([½¼¾⅛⅜⅝⅞])/, (_, before: string, glyph: string) =>
    `${before} ${ownOf(glyphs, glyph) ?? ""}`.trim(),
  );
  const match = fraction.exec(spelled);
  if (match === null) return undefined;
  const [whole, over, under] = [decimal(match[1] ?? "0"), decimal(match[2] ?? ""), decimal(match[3] ?? "")];
  if (whole === undefined || over === undefined || under === undefined || under.isZero()) return undefined;
  return whole.plus(over.div(under));
}
