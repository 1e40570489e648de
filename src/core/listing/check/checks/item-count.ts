import { isList } from "../../../values/value.js";
import type { FieldCheck } from "../check-kind.js";

/** Lists keep to the field's greatest count. */
export const itemCount: FieldCheck = {
  name: "item-count",
  check({ rule, value, report }) {
    const { maxItems } = rule.limits;
    if (maxItems !== undefined && isList(value) && value.length > maxItems)
      report(
        "too-many-values",
        { label: rule.field.label, limit: maxItems, actual: value.length },
        { field: rule },
      );
  },
};
