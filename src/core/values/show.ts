import { currencyPlaces } from "./currencies.js";
import { decimalPlaces, decimalText, fixedText, isDecimal } from "./decimal.js";
import { isList, isMeasure, isMoney, type MaybeBlank } from "./value.js";

/** Canonical text of a value: what the store keeps and what {@link readValue} reads back unchanged. */
export function canonicalText(value: MaybeBlank, listSeparator = "\u001e"): string {
  if (value === undefined) return "";
  if (typeof value === "string") return value;
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (isDecimal(value)) return decimalText(value);
  if (isList(value))
    return value
      .map((item) => canonicalText(item))
      .filter(Boolean)
      .join(listSeparator);
  if (isMoney(value)) {
    const places = Math.max(currencyPlaces(value.currency), decimalPlaces(value.amount));
    return `${fixedText(value.amount, places)} ${value.currency}`;
  }
  if (isMeasure(value)) return `${decimalText(value.amount)} ${value.unit.code}`;
  return value.iso;
}

/** Text of a value as a person reads it in a table or a template. */
export const shownText = (value: MaybeBlank): string => canonicalText(value, ", ");
