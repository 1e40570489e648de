/** A value as the texts of a cell, in the channel's own style. */
import type { Field } from "../core/channel/field.js";
import type { LayoutColumn, ValueStyle } from "../core/channel/layout-definition.js";
import { currencyPlaces } from "../core/values/currencies.js";
import { decimalPlaces, fixedText, isDecimal, type Decimal } from "../core/values/decimal.js";
import { canonicalText } from "../core/values/show.js";
import { isDate, isList, isMeasure, isMoney, type MaybeBlank, type Money } from "../core/values/value.js";

const marked = (text: string, { decimalMark }: ValueStyle): string =>
  decimalMark === "." ? text : text.replace(".", decimalMark);

/** An amount with the decimals that the field has, or else its currency. */
export const amountText = ({ amount, currency }: Money, { decimals }: Field): string =>
  fixedText(amount, decimals ?? Math.max(currencyPlaces(currency), decimalPlaces(amount)));

const numberText = (number: Decimal, style: ValueStyle): string => marked(canonicalText(number), style);

const dateText = (iso: string, { date }: ValueStyle): string =>
  date === "YYYY-MM-DD"
    ? iso
    : date.replace("YYYY", iso.slice(0, 4)).replace("MM", iso.slice(5, 7)).replace("DD", iso.slice(8, 10));

function one(value: MaybeBlank, { part, field }: LayoutColumn, style: ValueStyle): string {
  if (isMoney(value)) {
    const amount = marked(amountText(value, field), style);
    if (part === "amount") return amount;
    return part === "currency" ? value.currency : `${amount} ${value.currency}`;
  }
  if (isMeasure(value)) {
    const amount = numberText(value.amount, style);
    if (part === "amount") return amount;
    return part === "unit" ? value.unit.code : `${amount} ${value.unit.code}`;
  }
  if (isDecimal(value)) return numberText(value, style);
  if (typeof value === "boolean") return value ? style.yes : style.no;
  return isDate(value) ? dateText(value.iso, style) : canonicalText(value);
}

/** The texts that a column shows for a value: none for blank, several for a list that repeats its element. */
export function cellTexts(value: MaybeBlank, column: LayoutColumn, style: ValueStyle): readonly string[] {
  if (value === undefined) return [];
  if (!isList(value)) return [one(value, column, style)];
  if (column.item !== undefined) {
    const own = value[column.item];
    return own === undefined ? [] : [one(own, column, style)];
  }
  const texts = value.map((item) => one(item, column, style));
  return column.joinedBy === undefined ? texts : [texts.join(column.joinedBy)];
}
