import type { Family } from "../catalogue/family.js";
import type { Product } from "../catalogue/product.js";
import type { Scope } from "../language/compiler.js";
import type { ChannelSetup } from "./channel-setup.js";
import { scopeFor } from "./fill.js";
import { place } from "./place.js";
import type { Plans } from "./plan.js";
import { price } from "./price.js";

/** What an expression tried on a product reads: the product as the channel's fills would see it, where it can be placed. */
export const trialScope = (
  product: Product,
  family: Family,
  setup: ChannelSetup,
  plans: Plans,
): { readonly scope: Scope; readonly isPlaced: boolean } => {
  const placed = place(product, setup, plans);
  if (placed.kind === "unplaced") return { scope: product, isPlaced: false };
  const base = family.members.find(({ sku }) => sku === product.sku);
  const priced = price(placed.placed, base, setup);
  const members = family.membersOn(setup.channel);
  return { scope: scopeFor(priced, setup, { record: family.record, members }), isPlaced: true };
};
