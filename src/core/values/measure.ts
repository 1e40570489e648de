import type { Decimal } from "./decimal.js";
import type { Unit } from "./units.js";
import type { Measure } from "./value.js";

/** An amount of a unit. */
export const measure = (amount: Decimal, unit: Unit): Measure => ({ kind: "measure", amount, unit });

/** The same measure in another unit of its dimension, exactly; undefined across dimensions. */
export function convert(value: Measure, to: Unit): Measure | undefined {
  if (value.unit === to) return value;
  if (value.unit.dimension !== to.dimension) return undefined;
  return measure(value.amount.times(value.unit.factor).div(to.factor), to);
}
