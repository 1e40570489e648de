import type { Family } from "../catalogue/family.js";
import type { ChannelSetup } from "./channel-setup.js";
import type { Provenance } from "./check/check.js";
import type { Listing, Outcome } from "./listing.js";
import { plansOf } from "./plans.js";
import { checking, filling, placing, pricing, regrouping, selecting, varying, type Stage } from "./stages.js";

/** Turns one family of products into what becomes of each on one channel. */
export type Pipeline = Stage<Family, readonly Outcome[]>;

/**
 * select → place → price → regroup → fill → vary → check, with the rules of each category resolved once. `see` is shown
 * each listing as it is filled. What becomes of a family in a file is {@link "./shape/shape.js"}'s.
 */
export function pipelineFor(
  setup: ChannelSetup,
  provenance: Provenance,
  see: (listing: Listing) => void = () => undefined,
): Pipeline {
  const plans = plansOf(setup);
  const select = selecting(setup);
  const place = placing(setup, plans);
  const price = pricing(setup);
  const regroup = regrouping(setup);
  const fill = filling(setup, see);
  const vary = varying(setup);
  const check = checking(setup, provenance);
  return (family) => check(vary(fill(regroup(price(place(select(family)))))));
}
