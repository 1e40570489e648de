import { isList } from "../../../values/value.js";
import type { ListingCheck } from "../check-kind.js";

/** Where a table joins a list in one cell, no value, be it the only one, holds the mark between values: it would fall apart. */
export const tornLists: ListingCheck = {
  name: "torn-lists",
  beyond: [],
  for({ bySlot }, { definition }) {
    const joined = definition.layouts.flatMap((layout) =>
      !("joinedBy" in layout) || layout.escape !== ""
        ? []
        : layout.columns.flatMap(({ field, joinedBy, item }) => {
            const rule = field.list && item === undefined ? bySlot[field.slot]?.rule : undefined;
            return rule === undefined ? [] : [{ field, rule, mark: joinedBy ?? layout.joinedBy }];
          }),
    );
    if (joined.length === 0) return undefined;
    return (listing, report) => {
      for (const { field, rule, mark } of joined) {
        const value = listing.value(field.slot);
        if (!isList(value)) continue;
        const torn = value.find((one): one is string => typeof one === "string" && one.includes(mark));
        if (torn !== undefined)
          report("torn-list", { label: field.label, value: torn, mark }, { field: rule });
      }
    };
  },
};
