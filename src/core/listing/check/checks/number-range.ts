import { decimalText, isDecimal } from "../../../values/decimal.js";
import { shownText } from "../../../values/show.js";
import { isMeasure, isMoney } from "../../../values/value.js";
import type { FieldCheck } from "../check-kind.js";

/** Numbers, prices and measures (in the field's unit) keep to the field's range. */
export const numberRange: FieldCheck = {
  name: "number-range",
  for(rule) {
    const { min, max } = rule.limits;
    if (min === undefined && max === undefined) return undefined;
    const bound = (limit: typeof min): string => (limit === undefined ? "" : decimalText(limit));
    return (value, report) => {
      const amount = isMoney(value) || isMeasure(value) ? value.amount : value;
      if (!isDecimal(amount)) return;
      if ((min === undefined || amount.gte(min)) && (max === undefined || amount.lte(max))) return;
      const facts = { label: rule.field.label, value: shownText(value), min: bound(min), max: bound(max) };
      report("out-of-range", facts, { field: rule });
    };
  },
};
