import { shownText } from "../../../values/show.js";
import { axesOf } from "../../demand.js";
import type { FamilyCheck } from "../check-kind.js";

const SHOWN = 3;

/** Members of a group say the same where the channel takes one value for all of them. */
export const membersApart: FamilyCheck = {
  name: "members-apart",
  check({ listings, isShownApart, definition }, reportFor) {
    const [first] = listings;
    if (first === undefined || listings.length < 2 || isShownApart) return;
    if (first.product.group === undefined) return;
    const axes = axesOf(first);
    for (const { rule } of first.plan.fields) {
      const { field } = rule;
      if (field.level !== "group" || field === definition.roles.name) continue;
      // What only tells of the members' own differences is theirs wherever it stands.
      if (field.axes.some((axis) => axes.includes(axis))) continue;
      const bySku = new Map<string, string>();
      for (const { product, value } of listings) {
        const text = shownText(value(field.slot));
        if (text !== "" && !bySku.has(text)) bySku.set(text, product.sku);
      }
      if (bySku.size < 2) continue;
      const values = [...bySku].slice(0, SHOWN).map(([value, sku]) => ({ value, sku }));
      const facts = {
        label: field.label,
        values,
        different: bySku.size,
        members: listings.length,
      };
      reportFor(0)("members-apart", facts, { field: rule, severity: "warning" });
    }
  },
};
