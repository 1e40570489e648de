/** The web address of the shop, as its products' own pages tell it. Leans on the attribute `url`. */
import { textOf } from "../core/catalogue/product.js";
import type { Store } from "../store/store.js";

/** Where the first product stands that has a page; undefined where none says. */
export async function shopAddress(store: Store): Promise<string | undefined> {
  if ((await store.attributes()).slot("url") === undefined) return undefined;
  for await (const families of store.families())
    for (const { members } of families)
      for (const product of members) {
        const page = textOf(product, "url");
        if (page !== undefined && URL.canParse(page)) return `${new URL(page).origin}/`;
      }
  return undefined;
}
