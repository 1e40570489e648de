import type { Store } from "../../store/store.js";
import { FOR_CHANNEL } from "../../workspace/source-text.js";
import { attributesIn } from "../refusals.js";
import type { ChosenProducts } from "../choice/chosen-products.js";

/** The attributes of a sheet: those asked for, or all that any of the products has. The SKU always comes first, then the channel that the sheet is for. */
export async function sheetColumns(
  store: Store,
  only: string | undefined,
  products: ChosenProducts,
  forChannel: string | undefined,
): Promise<readonly string[]> {
  const attributes = await store.attributes();
  const first = forChannel === undefined ? ["sku"] : ["sku", FOR_CHANNEL];
  if (only !== undefined) {
    const asked = attributesIn(only, attributes);
    return [...first, ...new Set(asked.filter((name) => name !== "sku"))];
  }
  const used = new Set<number>();
  for await (const product of products())
    for (let slot = 0; slot < attributes.names.length; slot++)
      if (!used.has(slot) && product.text(slot) !== undefined) used.add(slot);
  return [...first, ...attributes.names.filter((name, slot) => name !== "sku" && used.has(slot))];
}
