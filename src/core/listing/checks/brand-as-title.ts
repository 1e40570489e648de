import { textOf } from "../../catalogue/product.js";
import { termKey } from "../../values/text.js";
import type { ListingCheck } from "../check-kind.js";

/** A title says more than who made the thing. */
export const brandAsTitle: ListingCheck = {
  name: "brand-as-title",
  check(listing, { definition, files }, report) {
    const field = definition.roles.name;
    const title = field === undefined ? undefined : listing.value(field.slot);
    if (field === undefined || typeof title !== "string") return;
    const { product } = listing;
    const own = textOf(product, "name");
    // Where the product is called like its brand, that is its name.
    if (own !== undefined && termKey(own) === termKey(title)) return;
    const isBrand = ["brand", "manufacturer"].some((attribute) => {
      const text = textOf(product, attribute);
      return text !== undefined && termKey(text) === termKey(title);
    });
    const rule = listing.plan.bySlot[field.slot]?.rule;
    if (isBrand && rule !== undefined)
      report("brand-as-title", { label: field.label, value: title, fills: files.fills }, { field: rule });
  },
};
