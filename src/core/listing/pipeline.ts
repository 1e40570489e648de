import type { Family } from "../catalogue/family.js";
import type { ChannelSetup } from "./channel-setup.js";
import { check, type Provenance } from "./check.js";
import { fill } from "./fill.js";
import type { Listing, Outcome, PricedProduct } from "./listing.js";
import { place } from "./place.js";
import { plansOf } from "./plan.js";
import { price } from "./price.js";
import { leftOutBecause } from "./select.js";
import { vary } from "./vary.js";

/** Turns one family of products into what becomes of each on one channel. */
export type Pipeline = (family: Family) => readonly Outcome[];

/** select → place → price → fill → vary → check, with the rules of each category resolved once. `see` is shown each listing as it is filled. */
export const pipelineFor = (
  setup: ChannelSetup,
  provenance: Provenance,
  see: (listing: Listing) => void = () => undefined,
): Pipeline => {
  const plans = plansOf(setup);
  return (family) => {
    const members = family.membersOn(setup.channel);
    const outcomes: Outcome[] = [];
    const priced: PricedProduct[] = [];
    for (const product of members) {
      const because = leftOutBecause(product, setup);
      if (because !== undefined) {
        outcomes.push({ kind: "left-out", product, because });
        continue;
      }
      const result = place(product, setup, plans);
      if (result.kind === "placed") priced.push(price(result.placed, baseOf(product.sku, family), setup));
      else outcomes.push({ kind: "held", product, because: [result.because] });
    }
    const listings = priced.map((one) => fill(one, setup, { record: family.record, members }));
    listings.forEach(see);
    outcomes.push(...check(vary(listings, setup.definition), setup, provenance));
    return outcomes;
  };
};

/** The product as all channels see it. */
const baseOf = (sku: string, { members }: Family) => members.find((member) => member.sku === sku);
