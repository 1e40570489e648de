import { fold } from "../../values/text.js";
import type { FamilyCheck } from "../check-kind.js";

/** Where each member is shown alone, its title must tell it from the others of its family. */
export const titlesAlike: FamilyCheck = {
  name: "titles-alike",
  check({ listings, toldApartBy, axes }, reportFor) {
    if (toldApartBy === undefined) return;
    const first = new Map<string, string>();
    listings.forEach(({ value, product, plan }, index) => {
      const title = value(toldApartBy.slot);
      if (typeof title !== "string") return;
      const other = first.get(fold(title));
      const rule = plan.bySlot[toldApartBy.slot]?.rule;
      if (other === undefined) first.set(fold(title), product.sku);
      else
        reportFor(index)("titles-alike", { title, other, axes }, rule === undefined ? {} : { field: rule });
    });
  },
};
