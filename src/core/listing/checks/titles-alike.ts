import { termKey } from "../../values/text.js";
import type { FamilyCheck } from "../check-kind.js";

/** Members' titles tell them apart: where each is shown alone they must, elsewhere they should unless the title is the group's. */
export const titlesAlike: FamilyCheck = {
  name: "titles-alike",
  check({ listings, definition, toldApartBy, axes }, reportFor) {
    const field = toldApartBy ?? definition.roles.name;
    if (field === undefined || listings.length < 2) return;
    const severity = toldApartBy === undefined ? "advice" : "error";
    if (toldApartBy === undefined && field.level === "group") return;
    const first = new Map<string, string>();
    listings.forEach(({ value, product, plan }, index) => {
      const title = value(field.slot);
      if (typeof title !== "string") return;
      const other = first.get(termKey(title));
      const rule = plan.bySlot[field.slot]?.rule;
      if (other === undefined) first.set(termKey(title), product.sku);
      else
        reportFor(index)(
          "titles-alike",
          { title, other, axes },
          { severity, ...(rule === undefined ? {} : { field: rule }) },
        );
    });
  },
};
