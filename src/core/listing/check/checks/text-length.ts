import { characterCount } from "../../../values/characters.js";
import { isList, type Value } from "../../../values/value.js";
import type { FieldCheck, Report } from "../check-kind.js";

const utf8 = new TextEncoder();
/** Bytes of UTF-8 that one unit of a text has at most; of characters it is one at most. */
const MOST_BYTES = 3;

/** Texts keep to the field's least and greatest length, in characters as a person counts or in UTF-8 bytes. */
export const textLength: FieldCheck = {
  name: "text-length",
  for(rule) {
    const { minLength, maxLength, counted = "characters" } = rule.limits;
    if (minLength === undefined && maxLength === undefined) return undefined;
    const most = counted === "bytes" ? MOST_BYTES : 1;
    const one = (text: Value, report: Report): void => {
      if (typeof text !== "string") return;
      // Most texts are far below the bound: they need no counting.
      if (minLength === undefined && text.length * most <= (maxLength ?? Infinity)) return;
      const actual = counted === "bytes" ? utf8.encode(text).length : characterCount(text);
      const isLong = maxLength !== undefined && actual > maxLength;
      const isShort = minLength !== undefined && actual < minLength;
      if (!isLong && !isShort) return;
      const facts = { label: rule.field.label, value: text, actual, unit: counted };
      if (isLong) report("too-long", { ...facts, limit: maxLength }, { field: rule });
      if (isShort) report("too-short", { ...facts, limit: minLength }, { field: rule });
    };
    return (value, report) => {
      if (isList(value)) for (const text of value) one(text, report);
      else one(value, report);
    };
  },
};
