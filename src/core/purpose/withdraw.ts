import type { ChannelDefinition } from "../channel/definition.js";
import type { FileFamily } from "../listing/shape/file-family.js";
import { liveValue, type LiveListing } from "../listing/live-listing.js";

/** The row that ends a listing: what tells the channel which one it is, as it was sent. */
export const withdrawal = (sku: string, live: LiveListing, { tree }: ChannelDefinition): FileFamily => ({
  group: undefined,
  members: [
    {
      kind: "single",
      sku,
      listing: undefined,
      category: tree.find(live.category),
      value: (field) => liveValue(live, field),
    },
  ],
});
