import type { Family } from "../catalogue/family.js";
import type { Product } from "../catalogue/product.js";
import type { Scope } from "../language/compiler.js";
import type { ChannelSetup } from "./channel-setup.js";
import { scopeFor } from "./fill.js";
import { sharedOf, type FillScope } from "./fill-scope.js";
import type { PricedProduct } from "./listing.js";
import { place } from "./place.js";
import type { Plans } from "./plan.js";
import { price } from "./price.js";

/** A placed product with what its fills read, so that one of them can be tried or looked at. */
export interface FillTrial {
  readonly priced: PricedProduct;
  readonly scope: FillScope;
}

/** Undefined where the product has no category on the channel. */
export const fillTrial = (
  product: Product,
  family: Family,
  setup: ChannelSetup,
  plans: Plans,
): FillTrial | undefined => {
  const placed = place(product, setup, plans);
  if (placed.kind === "unplaced") return undefined;
  const base = family.members.find(({ sku }) => sku === product.sku);
  const priced = price(placed.placed, base, setup);
  return { priced, scope: scopeFor(priced, setup, sharedOf(family, family.membersOn(setup.channel))) };
};

/** What an expression tried on a product reads: the product as the channel's fills would see it, where it can be placed. */
export const trialScope = (product: Product, family: Family, setup: ChannelSetup, plans: Plans): Scope =>
  fillTrial(product, family, setup, plans)?.scope ?? product;
