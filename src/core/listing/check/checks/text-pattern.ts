import { isList } from "../../../values/value.js";
import type { FieldCheck } from "../check-kind.js";

/** Texts match the definition's pattern. */
export const textPattern: FieldCheck = {
  name: "text-pattern",
  for(rule) {
    const { pattern } = rule.limits;
    if (pattern === undefined) return undefined;
    return (value, report) => {
      for (const text of isList(value) ? value : [value])
        if (typeof text === "string" && !pattern.matches(text))
          report(
            "wrong-pattern",
            { label: rule.field.label, value: text, example: rule.field.example },
            { field: rule },
          );
    };
  },
};
