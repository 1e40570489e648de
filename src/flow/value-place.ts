import type { Product } from "../core/catalogue/product.js";
import type { Diagnostic } from "../core/diagnostics/diagnostic.js";
import type { Store } from "../store/store.js";

/** Tells the file, row and column that a product's value came from, by the attribute's name. */
export const placeIn =
  (store: Pick<Store, "placeOf">) =>
  (product: Product, attribute: string): Diagnostic["place"] => {
    const slot = product.attributes.slot(attribute);
    const origin = slot === undefined ? undefined : product.origin(slot);
    return origin === undefined ? undefined : store.placeOf(origin, attribute);
  };
