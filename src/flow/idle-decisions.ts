/** A channel's decisions about what the catalogue does not have. Leans on the store for the products that rows name. */
import type { Diagnostic } from "../core/diagnostics/diagnostic.js";
import type { ChannelSetup } from "../core/listing/channel-setup.js";
import { idlePlacements } from "../core/placement/idle-placements.js";
import type { Store } from "../store/store.js";

/** Placements that are about nothing; `categories` are all that products are in. */
export const idleDecisions = (
  store: Store,
  { placements, channel }: Pick<ChannelSetup, "placements" | "channel">,
  categories: ReadonlySet<string>,
): Promise<readonly Diagnostic[]> =>
  idlePlacements(placements, channel, {
    categories,
    async missing(skus) {
      const found = await Promise.all(skus.map((sku) => store.product(sku)));
      return skus.filter((_, at) => found[at] === undefined);
    },
  });
