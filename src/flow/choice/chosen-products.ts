import type { Product } from "../../core/catalogue/product.js";
import type { Store } from "../../store/store.js";
import type { Choice } from "./chosen.js";

/** Products that are meant, in catalogue order; they can be gone through several times. */
export type ChosenProducts = () => AsyncGenerator<Product>;

/**
 * The products of a choice, as the catalogue has them or as one channel sees them.
 * The channel's own prices and stock stay out: coming back in a sheet, they would be taken for edits.
 * @throws Refusal at the end where no product is meant
 */
export function chosenProducts(store: Store, choice: Choice, forChannel?: string): ChosenProducts {
  return async function* () {
    for await (const families of store.families()) {
      await choice.look(families);
      for (const family of families) {
        const members = forChannel === undefined ? family.members : family.membersOn(forChannel);
        for (const product of members) if (choice.isMeant(product)) yield product;
      }
    }
    choice.refuseNothing();
  };
}
