import { withNearest } from "../../../diagnostics/with-nearest.js";
import { isList } from "../../../values/value.js";
import type { FieldCheck } from "../check-kind.js";

/** A value beside an open list is taken, with advice: shoppers look for the listed ones. */
export const listedValue: FieldCheck = {
  name: "listed-value",
  for(rule) {
    const { values, isOpenList } = rule.limits;
    if (values === undefined || isOpenList !== true) return undefined;
    return (value, report) => {
      for (const text of isList(value) ? value : [value]) {
        if (typeof text !== "string" || values.match(text) !== undefined) continue;
        const facts = withNearest({ label: rule.field.label, value: text }, () => values.near(text));
        report("unlisted-value", facts, { field: rule, severity: "advice" });
      }
    };
  },
};
