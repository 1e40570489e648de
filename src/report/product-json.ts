import { itemsOf } from "../core/catalogue/list-text.js";
import type { Product } from "../core/catalogue/product.js";

/** A product as the documented JSON object: canonical texts by attribute, lists as arrays. */
export const productJson = (product: Product): Readonly<Record<string, unknown>> => {
  const { names, kinds } = product.attributes;
  const values = names.flatMap((name, slot) => {
    const text = product.text(slot);
    if (text === undefined) return [];
    return [[name, kinds[slot]?.list === true ? itemsOf(text) : text] as const];
  });
  return { type: "product", ...Object.fromEntries(values) };
};
