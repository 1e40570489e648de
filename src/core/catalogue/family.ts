import type { Product } from "./product.js";

/** Products that come to channels together: a group's members in catalogue order, or one product sold on its own. */
export interface Family {
  readonly group: string | undefined;
  readonly members: readonly Product[];
}
