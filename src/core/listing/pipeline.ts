import type { Family } from "../catalogue/family.js";
import type { Product } from "../catalogue/product.js";
import type { ChannelSetup } from "./channel-setup.js";
import { check, type Provenance } from "./check/check.js";
import { fill } from "./fill/fill.js";
import { filledGroup } from "./fill/filled-group.js";
import type { Listing, Outcome, PricedProduct } from "./listing.js";
import { idRegister } from "./check/id-register.js";
import { place } from "./place.js";
import { plansOf } from "./plans.js";
import { price } from "./price/price.js";
import { byGroup, regroup } from "./regroup.js";
import { leftOutBecause } from "./select/select.js";
import { titlesShown, vary } from "./vary.js";

/** Turns one family of products into what becomes of each on one channel. */
export type Pipeline = (family: Family) => readonly Outcome[];

/** select → place → price → regroup → fill → vary → check, with the rules of each category resolved once. `see` is shown each listing as it is filled. */
export const pipelineFor = (
  setup: ChannelSetup,
  provenance: Provenance,
  see: (listing: Listing) => void = () => undefined,
): Pipeline => {
  const plans = plansOf(setup);
  const remembering = [idRegister(setup)];
  return (family) => {
    const members = family.membersOn(setup.channel);
    const base = members === family.members ? undefined : bySku(family.members);
    const outcomes: Outcome[] = [];
    const priced: PricedProduct[] = [];
    for (const product of members) {
      const because = leftOutBecause(product, setup);
      if (because !== undefined) {
        outcomes.push({ kind: "left-out", product, findings: [because] });
        continue;
      }
      const result = place(product, setup, plans);
      if (result.kind === "placed")
        priced.push(price(result.placed, base === undefined ? product : base.get(product.sku), setup));
      else outcomes.push({ kind: "unplaced", product, findings: [result.because] });
    }
    const shown = titlesShown(setup.definition);
    const groups = byGroup(regroup(priced, setup), ({ product }) => product);
    for (const group of groups) {
      const filled = filledGroup(group, family, setup);
      const listings = group.map((one) => fill(one, setup, filled));
      listings.forEach(see);
      const varied = vary(listings, setup.definition, shown.seen);
      outcomes.push(...check(varied, setup, provenance, remembering));
      if (groups.length > 1) shown.note(listings);
    }
    return outcomes;
  };
};

/** Products as all channels see them. */
const bySku = (products: readonly Product[]): ReadonlyMap<string, Product> =>
  new Map(products.map((product) => [product.sku, product]));
