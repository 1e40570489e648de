import type { LayoutColumn } from "../core/channel/layout-definition.js";
import { currencyPlaces } from "../core/values/currencies.js";
import { decimalPlaces, fixedText } from "../core/values/decimal.js";
import { canonicalText } from "../core/values/show.js";
import { isList, isMeasure, isMoney, type MaybeBlank, type Money } from "../core/values/value.js";

const amountText = ({ amount, currency }: Money): string =>
  fixedText(amount, Math.max(currencyPlaces(currency), decimalPlaces(amount)));

const one = (value: MaybeBlank, { part }: LayoutColumn): string => {
  if (isMoney(value)) {
    if (part === "amount") return amountText(value);
    return part === "currency" ? value.currency : canonicalText(value);
  }
  if (isMeasure(value)) {
    if (part === "amount") return canonicalText(value.amount);
    return part === "unit" ? value.unit.code : canonicalText(value);
  }
  return canonicalText(value);
};

/** The texts that a column shows for a value: none for blank, several for a list that repeats its element. */
export const partTexts = (value: MaybeBlank, column: LayoutColumn): readonly string[] => {
  if (value === undefined) return [];
  if (!isList(value)) return [one(value, column)];
  const texts = value.map((item) => one(item, column));
  return column.joinedBy === undefined ? texts : [texts.join(column.joinedBy)];
};
