/** What an attribute can hold at all, whoever says it: no weight of minus a kilo, no stock of a quarter. */
import { isDecimal, whole } from "../values/decimal.js";
import { payable } from "../values/money.js";
import type { Reading, ReadingProblem } from "../values/read.js";
import type { Dimension } from "../values/units.js";
import { isDate, isMeasure, isMoney, type Value } from "../values/value.js";
import { isOurs, withoutMark } from "./vocabulary.js";

/** What an attribute's values can be, beyond their kind. */
interface Possible {
  readonly dimension?: Dimension;
  /** Whether a value of nothing says that there is none. */
  readonly isNeverZero?: true;
  /** Whether less than nothing is nothing: more was sold than there was. */
  readonly isNoneBelow?: true;
  readonly isShare?: true;
  /** Whether it is paid as it stands, to the last place. */
  readonly isPaid?: true;
}

const length: Possible = { dimension: "length", isNeverZero: true };
const mass: Possible = { dimension: "mass", isNeverZero: true };
const amount: Possible = { isNeverZero: true };
const paid: Possible = { isNeverZero: true, isPaid: true };

// Asked of every value.
const possible: ReadonlyMap<string, Possible> = new Map(
  Object.entries({
    weight: mass,
    package_weight: mass,
    width: length,
    height: length,
    depth: length,
    package_width: length,
    package_height: length,
    package_depth: length,
    unit_quantity: amount,
    price: paid,
    list_price: paid,
    sale_price: paid,
    cost: amount,
    quantity: { isNoneBelow: true },
    tax_rate: { isShare: true },
  } satisfies Readonly<Record<string, Possible>>),
);

/** The dimension that an attribute's measures have; undefined where any will do. */
export const dimensionOf = (attribute: string): Dimension | undefined =>
  possible.get(withoutMark(attribute))?.dimension;

// Systems count days from these, and show them where no day was entered.
const noDay = /^(?:0\d{3}|1[0-8]\d\d|190\d|19[1-8]\d|1970-01-01)/;

function measured(value: Value): { readonly isNegative: boolean; readonly isZero: boolean } | undefined {
  const number = isDecimal(value) ? value : isMoney(value) || isMeasure(value) ? value.amount : undefined;
  return number === undefined ? undefined : { isNegative: number.lessThan(0), isZero: number.isZero() };
}

/** A value as the attribute can have it: itself, repaired, or why it is impossible. */
export function asPossible(
  attribute: string,
  value: Value,
  currencies: readonly string[] | undefined,
): Reading {
  const name = withoutMark(attribute);
  const refused = (problem: ReadingProblem): Reading => ({ problem });
  if (isMoney(value) && currencies !== undefined && !currencies.includes(value.currency))
    return refused("other-currency");
  // What a shop measures by an attribute of its own may well be below zero.
  if (!isOurs(name)) return { value };
  const { dimension, isNeverZero, isNoneBelow, isShare, isPaid } = possible.get(name) ?? {};
  if (isMeasure(value) && dimension !== undefined && value.unit.dimension !== dimension)
    return refused("wrong-dimension");
  if (isDate(value)) return noDay.test(value.iso) ? refused("far-day") : { value };
  const size = measured(value);
  if (size === undefined) return { value };
  if (size.isNegative)
    return isNoneBelow === true ? { value: whole(0), repaired: "oversold" } : refused("below-zero");
  if (size.isZero && isNeverZero === true) return refused(isMeasure(value) ? "zero-measure" : "zero-amount");
  if (isPaid === true && isMoney(value) && !payable(value).amount.equals(value.amount))
    return refused("too-fine");
  if (isShare !== true || !isDecimal(value) || size.isZero) return { value };
  if (value.greaterThan(100)) return refused("over-hundred");
  return value.lessThan(1) ? refused("fraction") : { value };
}
