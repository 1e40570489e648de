import { characterCount } from "../../../values/characters.js";
import type { FieldCheck } from "../check-kind.js";

const utf8 = new TextEncoder();

/** Texts keep to the field's least and greatest length, in characters as a person counts or in UTF-8 bytes. */
export const textLength: FieldCheck = {
  name: "text-length",
  check({ rule, value, report }) {
    const { minLength, maxLength, counted = "characters" } = rule.limits;
    if (minLength === undefined && maxLength === undefined) return;
    for (const text of Array.isArray(value) ? value : [value]) {
      if (typeof text !== "string") continue;
      const actual = counted === "bytes" ? utf8.encode(text).length : characterCount(text);
      const facts = { label: rule.field.label, value: text, actual, unit: counted };
      if (maxLength !== undefined && actual > maxLength)
        report("too-long", { ...facts, limit: maxLength }, { field: rule });
      if (minLength !== undefined && actual < minLength)
        report("too-short", { ...facts, limit: minLength }, { field: rule });
    }
  },
};
