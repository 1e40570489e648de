import { itemsOf } from "../core/catalogue/list-text.js";
import type { Product } from "../core/catalogue/product.js";

/** A product as the documented JSON object: under `values` canonical texts by attribute, lists as arrays. Names of the data stand apart from our own. */
export function productJson(product: Product): Readonly<Record<string, unknown>> {
  const { names, kinds } = product.attributes;
  const values = names.flatMap((name, slot) => {
    const text = product.text(slot);
    if (text === undefined) return [];
    return name === "sku" ? [] : [[name, kinds[slot]?.list === true ? itemsOf(text) : text] as const];
  });
  return { type: "product", sku: product.sku, values: Object.fromEntries(values) };
}
