import type { Product } from "./product.js";

/** Products that come to channels together: a group's members in catalogue order, or one product sold on its own. */
export interface Family {
  /** Rises in catalogue order; it stays as long as the family does. */
  readonly number: number;
  readonly group: string | undefined;
  /** The group's own record, with what its members share; undefined where it has none. */
  readonly record: Product | undefined;
  readonly members: readonly Product[];
  /** The members as one channel is to see them, with the layers that are meant for it alone. */
  membersOn(channel: string): readonly Product[];
}
