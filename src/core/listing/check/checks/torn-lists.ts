import { isList } from "../../../values/value.js";
import type { ListingCheck } from "../check-kind.js";

/** Where a table joins a list in one cell, no value, be it the only one, holds the mark between values: it would fall apart. */
export const tornLists: ListingCheck = {
  name: "torn-lists",
  check(listing, { definition }, report) {
    for (const layout of definition.layouts) {
      if (!("joinedBy" in layout) || layout.escape !== "") continue;
      for (const { field, joinedBy, item } of layout.columns) {
        const mark = joinedBy ?? layout.joinedBy;
        const value = field.list && item === undefined ? listing.value(field.slot) : undefined;
        if (!isList(value)) continue;
        const torn = value.find((one): one is string => typeof one === "string" && one.includes(mark));
        const rule = listing.plan.bySlot[field.slot]?.rule;
        if (torn !== undefined && rule !== undefined)
          report("torn-list", { label: field.label, value: torn, mark }, { field: rule });
      }
    }
  },
};
