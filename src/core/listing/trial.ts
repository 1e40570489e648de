import type { Family } from "../catalogue/family.js";
import type { Product } from "../catalogue/product.js";
import type { Scope } from "../language/compiler.js";
import type { ChannelSetup } from "./channel-setup.js";
import { scopeFor } from "./fill/fill.js";
import type { FillScope } from "./fill/fill-scope.js";
import { filledGroup } from "./fill/filled-group.js";
import type { PricedProduct } from "./listing.js";
import { place } from "./place.js";
import type { Plans } from "./plan.js";
import { price } from "./price/price.js";
import { regroup } from "./regroup.js";

/** A family as the channel's fills see it: placed, priced and in the channel's groups, whether it is selected or not. */
const pricedFamily = (family: Family, setup: ChannelSetup, plans: Plans): readonly PricedProduct[] => {
  const base = new Map(family.members.map((member) => [member.sku, member]));
  const priced = family.membersOn(setup.channel).flatMap((product): readonly PricedProduct[] => {
    const placed = place(product, setup, plans);
    return placed.kind === "placed" ? [price(placed.placed, base.get(product.sku), setup)] : [];
  });
  return regroup(priced, setup);
};

/** What the fills of one product read, so that one of them can be tried or looked at; undefined where it has no category. */
export const fillTrial = (
  sku: string,
  family: Family,
  setup: ChannelSetup,
  plans: Plans,
): FillScope | undefined => {
  const priced = pricedFamily(family, setup, plans);
  const own = priced.find(({ product }) => product.sku === sku);
  if (own === undefined) return undefined;
  const group = priced.filter(
    (one) => one === own || (own.product.group !== undefined && one.product.group === own.product.group),
  );
  const { shared, fields } = filledGroup(group, family, setup);
  return scopeFor(own, setup, shared, fields);
};

/** What an expression tried on a product reads: the product as the channel's fills would see it, where it can be placed. */
export const trialScope = (product: Product, family: Family, setup: ChannelSetup, plans: Plans): Scope =>
  fillTrial(product.sku, family, setup, plans) ?? product;
