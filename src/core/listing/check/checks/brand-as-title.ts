import { textOf } from "../../../catalogue/product.js";
import { termKey } from "../../../values/text.js";
import type { ListingCheck } from "../check-kind.js";

/** A title says more than who made the thing. */
export const brandAsTitle: ListingCheck = {
  name: "brand-as-title",
  check(listing, { definition, files }, report) {
    const field = definition.roles.name;
    const title = field === undefined ? undefined : listing.value(field.slot);
    if (field === undefined || typeof title !== "string") return;
    const key = termKey(title);
    const isTitle = (attribute: string): boolean => {
      const text = textOf(listing.product, attribute);
      return text !== undefined && (text === title || termKey(text) === key);
    };
    // Where the product is called like its brand, that is its name.
    const isBrand = (isTitle("brand") || isTitle("manufacturer")) && !isTitle("name");
    const rule = listing.plan.bySlot[field.slot]?.rule;
    if (isBrand && rule !== undefined)
      report("brand-as-title", { label: field.label, value: title, fills: files.fills }, { field: rule });
  },
};
