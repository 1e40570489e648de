/** Where products stand on channels. */
import type { Family } from "../../core/catalogue/family.js";
import type { Outcome, Listing } from "../../core/listing/listing.js";
import { productOf } from "../../core/listing/listing.js";
import { pipelineFor } from "../../core/listing/pipeline.js";
import type { Provenance } from "../../core/listing/check/check.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";

/** Where a product stands on a channel. */
export interface ChannelStanding {
  readonly outcome: Outcome;
  /** Undefined where it was left out or has no category there. */
  readonly listing: Listing | undefined;
}

/** What became of products on several channels, by channel and SKU. */
export type Standings = ReadonlyMap<string, ReadonlyMap<string, ChannelStanding>>;

/** Runs families through channels; what is found stays in `standings`. */
export function standingsOf(channels: readonly WorkspaceChannel[], provenance: Provenance) {
  const standings = new Map<string, Map<string, ChannelStanding>>();
  const runs = channels.map(({ setup, recall }) => {
    const own = new Map<string, ChannelStanding>();
    standings.set(setup.channel, own);
    let listings: Listing[] = [];
    const pipeline = pipelineFor(setup, provenance, (listing) => listings.push(listing));
    return async (family: Family): Promise<void> => {
      await recall([family]);
      listings = [];
      for (const outcome of pipeline(family)) {
        const { sku } = productOf(outcome);
        own.set(sku, { outcome, listing: listings.find((one) => one.product.sku === sku) });
      }
    };
  });
  return {
    standings: standings as Standings,
    async add(family: Family): Promise<void> {
      for (const run of runs) await run(family);
    },
  };
}
