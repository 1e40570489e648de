import type { FieldCheck } from "../check-kind.js";

/** Texts match the definition's pattern. */
export const textPattern: FieldCheck = {
  name: "text-pattern",
  check({ rule, value, report }) {
    const { pattern } = rule.limits;
    if (pattern === undefined) return;
    for (const text of Array.isArray(value) ? value : [value])
      if (typeof text === "string" && !pattern.matches(text))
        report(
          "wrong-pattern",
          { label: rule.field.label, value: text, example: rule.field.example },
          { field: rule },
        );
  },
};
