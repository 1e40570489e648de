import type { Family } from "../catalogue/family.js";
import type { ChannelSetup } from "./channel-setup.js";
import { check, type Provenance } from "./check.js";
import { fill } from "./fill.js";
import type { Outcome, PlacedProduct } from "./listing.js";
import { place } from "./place.js";
import { plansOf } from "./plan.js";
import { select } from "./select.js";
import { vary } from "./vary.js";

/** Turns one family of products into what becomes of each on one channel. */
export type Pipeline = (family: Family) => readonly Outcome[];

/** select → place → fill → vary → check, with the rules of each category resolved once. */
export const pipelineFor = (setup: ChannelSetup, provenance: Provenance): Pipeline => {
  const plans = plansOf(setup);
  return (family) => {
    const members = family.membersOn(setup.channel);
    const outcomes: Outcome[] = [];
    const ready: PlacedProduct[] = [];
    for (const product of members) {
      if (!select(product, setup)) {
        outcomes.push({ kind: "left-out", product });
        continue;
      }
      const result = place(product, setup, plans);
      if (result.kind === "placed") ready.push(result.placed);
      else outcomes.push({ kind: "held", product, because: [result.because] });
    }
    const listings = ready.map((placed) => fill(placed, setup));
    outcomes.push(...check(vary(listings, setup.definition), setup, provenance));
    return outcomes;
  };
};
