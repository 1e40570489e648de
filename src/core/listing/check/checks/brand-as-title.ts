import { textOf } from "../../../catalogue/product.js";
import { isSameTerm } from "../../../values/text.js";
import type { ListingCheck } from "../check-kind.js";

/** A title says more than who made the thing. */
export const brandAsTitle: ListingCheck = {
  name: "brand-as-title",
  beyond: [],
  for({ bySlot }, { definition, files }) {
    const field = definition.roles.name;
    const rule = field === undefined ? undefined : bySlot[field.slot]?.rule;
    if (field === undefined || rule === undefined) return undefined;
    return ({ value, product }, report) => {
      const title = value(field.slot);
      if (typeof title !== "string") return;
      const isTitle = (attribute: string): boolean => {
        const text = textOf(product, attribute);
        return text !== undefined && isSameTerm(text, title);
      };
      // Where the product is called like its brand, that is its name.
      if ((isTitle("brand") || isTitle("manufacturer")) && !isTitle("name"))
        report("brand-as-title", { label: field.label, value: title, fills: files.fills }, { field: rule });
    };
  },
};
