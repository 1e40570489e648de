import type { Sku } from "../ids.js";
import type { AttributeIndex } from "./attribute-index.js";
import { product, type Product } from "./product.js";
import type { Origin, PartialRecord } from "./record.js";

/**
 * Merges partial records into one product: each attribute comes from the last record that has an opinion.
 * Records come in rising order of layer, and within a layer in the order of their revisions.
 */
export const merge = (sku: Sku, attributes: AttributeIndex, records: readonly PartialRecord[]): Product => {
  const size = attributes.names.length;
  const texts = new Array<string | undefined>(size).fill(undefined);
  const origins = new Array<Origin | undefined>(size).fill(undefined);
  for (const { slots, texts: own, origin } of records) {
    for (let i = 0; i < own.length; i++) {
      const slot = slots[i];
      const text = own[i];
      if (slot === undefined || text === undefined || text === "") continue;
      texts[slot] = text;
      origins[slot] = origin;
    }
  }
  return product(sku, attributes, texts, origins);
};
