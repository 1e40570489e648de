import { isList } from "../../../values/value.js";
import type { FieldCheck } from "../check-kind.js";

/** Lists keep to the field's greatest count. */
export const itemCount: FieldCheck = {
  name: "item-count",
  for(rule) {
    const { maxItems } = rule.limits;
    if (maxItems === undefined) return undefined;
    return (value, report) => {
      if (isList(value) && value.length > maxItems)
        report(
          "too-many-values",
          { label: rule.field.label, limit: maxItems, actual: value.length },
          { field: rule },
        );
    };
  },
};
