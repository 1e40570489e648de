import { isDecimal, type Decimal } from "../../values/decimal.js";
import { measure } from "../../values/measure.js";
import { money, payable } from "../../values/money.js";
import { shownText } from "../../values/show.js";
import { isList, isMeasure, isMoney, type MaybeBlank, type Value } from "../../values/value.js";
import type { Parameter } from "../function.js";
import type { ResultKind } from "../kind.js";
import { cannot, type Cannot } from "../trouble.js";

/** `parameter("text", "text")`, and the same that may be left out. */
export const parameter = (name: string, kind: ResultKind): Parameter => ({ name, kind });
/** A parameter that may be left out. */
export const optional = (name: string, kind: ResultKind): Parameter => ({ name, kind, optional: true });

/** A number, price or measure to be calculated with. */
export const amountParameter = (name: string): Parameter => ({ name, kind: "any", calculates: true });

/** The places of a list, those that a file left blank ("") included; a single value counts as a list of one. */
export const places = (value: MaybeBlank): readonly Value[] =>
  value === undefined ? [] : isList(value) ? value : [value];

/** The values of a list. */
export const items = (value: MaybeBlank): readonly Value[] => places(value).filter((one) => one !== "");

/** A list; blank where it is empty. */
export const listOrBlank = (list: readonly Value[]): MaybeBlank => (list.length === 0 ? undefined : list);

/** A text; blank where it is empty. */
export const textOrBlank = (text: string): MaybeBlank => (text === "" ? undefined : text);

/** Any value as the text that a person reads. */
export const asText = (value: MaybeBlank): string => (typeof value === "string" ? value : shownText(value));

/** A count that an argument gives: whole, not negative, and no larger than any text or list is. */
export const asCount = (value: MaybeBlank): number =>
  isDecimal(value) ? Math.min(Math.max(value.trunc().toNumber(), 0), 1_000_000) : 0;

/** How much is let through: {@link asCount}, or all where the limit is not there. */
export const asLimit = (value: MaybeBlank): number => (isDecimal(value) ? asCount(value) : Infinity);

/** Applies a change of the number inside a number, a price or a measure. */
export function within(value: MaybeBlank, change: (amount: Decimal) => Decimal): MaybeBlank {
  if (isDecimal(value)) return change(value);
  if (isMoney(value)) return money(change(value.amount), value.currency);
  return isMeasure(value) ? measure(change(value.amount), value.unit) : undefined;
}

/** A rate that is not there is not 0: what would be worked out with it is blank, and told. */
export const noRate = (name: string): Cannot =>
  cannot({ trouble: "wrong-argument", name, reason: "its rate is blank" });

/** A price of what can be paid in its currency; other values as they are. */
export const payableOnly = (value: MaybeBlank): MaybeBlank => (isMoney(value) ? payable(value) : value);
