/** The stages of the pipeline as functions from one stage's type to the next. `pipeline.ts` names them in order. */
import type { Family } from "../catalogue/family.js";
import type { Product } from "../catalogue/product.js";
import type { ChannelSetup } from "./channel-setup.js";
import { repeatedIds } from "./check/repeated-ids.js";
import { checker, type Provenance } from "./check/check.js";
import { fill } from "./fill/fill.js";
import { filledGroup } from "./fill/filled-group.js";
import { productOf, type Listing, type Outcome, type PlacedProduct, type PricedProduct } from "./listing.js";
import { place } from "./place.js";
import type { Plans } from "./plan.js";
import { price } from "./price/price.js";
import { byGroup, regroup } from "./regroup.js";
import { leftOutBecause } from "./select/select.js";
import { varyAll, type VariedFamily } from "./vary.js";

/** A family on its way: what its products are by now, and what became of those that go no further. */
export interface OnTheWay<T> {
  readonly family: Family;
  readonly going: readonly T[];
  readonly settled: readonly Outcome[];
}

/** One step of the pipeline, from what held before it to what holds behind it. */
export type Stage<From, To> = (from: From) => To;

/** Products that the channel is to have; the others are settled. */
export const selecting =
  (setup: ChannelSetup): Stage<Family, OnTheWay<Product>> =>
  (family) => {
    const [going, settled]: [Product[], Outcome[]] = [[], []];
    for (const product of family.membersOn(setup.channel)) {
      const because = leftOutBecause(product, setup);
      if (because === undefined) going.push(product);
      else settled.push({ kind: "left-out", product, listing: undefined, findings: [because] });
    }
    return { family, going, settled };
  };

/** Outcomes in the order of the family's members, whichever stage settled them. */
function inOrder(
  outcomes: readonly Outcome[],
  sorted: number,
  members: readonly Product[],
): readonly Outcome[] {
  if (sorted === 0 || sorted === outcomes.length) return outcomes;
  const places = new Map(members.map(({ sku }, at) => [sku, at]));
  const placeOf = (outcome: Outcome): number => places.get(productOf(outcome).sku) ?? 0;
  return [...outcomes].sort((a, b) => placeOf(a) - placeOf(b));
}

/** Products with their category there; those that have none are settled. */
export const placing =
  (setup: ChannelSetup, plans: Plans): Stage<OnTheWay<Product>, OnTheWay<PlacedProduct>> =>
  ({ family, going, settled }) => {
    const [placed, out]: [PlacedProduct[], Outcome[]] = [[], [...settled]];
    for (const product of going) {
      const found = place(product, setup, plans);
      if (found.kind === "placed") placed.push(found.placed);
      else out.push({ kind: "unplaced", product, findings: [found.because] });
    }
    return { family, going: placed, settled: inOrder(out, settled.length, family.membersOn(setup.channel)) };
  };

/** Products as all channels see them. */
const bySku = (products: readonly Product[]): ReadonlyMap<string, Product> =>
  new Map(products.map((product) => [product.sku, product]));

/** With the prices and the stock that the channel is to see. */
export const pricing =
  (setup: ChannelSetup): Stage<OnTheWay<PlacedProduct>, OnTheWay<PricedProduct>> =>
  ({ family, going, settled }) => {
    const isOwn = family.membersOn(setup.channel) !== family.members;
    const base = isOwn ? bySku(family.members) : undefined;
    const baseOf = (product: Product): Product | undefined =>
      base === undefined ? product : base.get(product.sku);
    return { family, settled, going: going.map((placed) => price(placed, baseOf(placed.product), setup)) };
  };

/** In the groups that the channel is to see. */
export const regrouping =
  (setup: ChannelSetup): Stage<OnTheWay<PricedProduct>, OnTheWay<readonly PricedProduct[]>> =>
  ({ family, going, settled }) => ({
    family,
    settled,
    going: byGroup(regroup(going, setup), ({ product }) => product),
  });

/** Each of a group's products with its fields filled; `see` is shown each. */
export const filling =
  (
    setup: ChannelSetup,
    see: (listing: Listing) => void,
  ): Stage<OnTheWay<readonly PricedProduct[]>, OnTheWay<readonly Listing[]>> =>
  ({ family, going, settled }) => ({
    family,
    settled,
    going: going.map((group) => {
      const filled = filledGroup(group, family, setup);
      const listings = group.map((one) => fill(one, setup, filled));
      listings.forEach(see);
      return listings;
    }),
  });

/** Groups with what they vary by, beside the titles of the family's other groups. */
export const varying =
  ({ definition }: ChannelSetup): Stage<OnTheWay<readonly Listing[]>, OnTheWay<VariedFamily>> =>
  ({ family, going, settled }) => ({ family, settled, going: varyAll(going, definition) });

/** Every product's outcome: those that were settled on the way, and the others by the channel's rules. */
export function checking(
  setup: ChannelSetup,
  provenance: Provenance,
): Stage<OnTheWay<VariedFamily>, readonly Outcome[]> {
  // Checks that remember what came before go on from family to family.
  const check = checker(setup, provenance, [repeatedIds(setup)]);
  return ({ going, settled }) => [...settled, ...going.flatMap(check)];
}
