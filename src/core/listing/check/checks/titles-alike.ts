import { termKey } from "../../../values/text.js";
import type { FamilyCheck } from "../check-kind.js";

/**
 * Titles tell products of a family apart: where each is shown alone they must, and so must those of groups that a family
 * was split into; members shown as one should, unless the title is the group's.
 */
export const titlesAlike: FamilyCheck = {
  name: "titles-alike",
  check({ listings, definition, toldApartBy, axes, shownBefore }, reportFor) {
    const field = toldApartBy ?? definition.roles.name;
    // One alone in its family has nobody to be told apart from.
    if (field === undefined || (listings.length < 2 && shownBefore === undefined)) return;
    const isAlone = toldApartBy !== undefined || listings.length < 2;
    const own = new Map<string, string>();
    listings.forEach(({ value, product, plan }, index) => {
      const title = value(field.slot);
      if (typeof title !== "string") return;
      const key = termKey(title);
      const before = field === definition.roles.name ? shownBefore?.(key) : undefined;
      const beside = field.level === "group" && !isAlone ? undefined : own.get(key);
      if (!own.has(key)) own.set(key, product.sku);
      const other = before ?? beside;
      const rule = plan.bySlot[field.slot]?.rule;
      if (other !== undefined)
        reportFor(index)(
          "titles-alike",
          { title, other, axes },
          {
            severity: isAlone || before !== undefined ? "error" : "advice",
            ...(rule === undefined ? {} : { field: rule }),
          },
        );
    });
  },
};
