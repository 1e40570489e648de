import type { Family } from "../catalogue/family.js";
import type { Product } from "../catalogue/product.js";
import type { NameScope } from "../language/compiler.js";
import type { ChannelSetup } from "./channel-setup.js";
import { scopeFor } from "./fill/fill.js";
import type { FillScope } from "./fill/fill-scope.js";
import { filledGroup } from "./fill/filled-group.js";
import type { Plans } from "./plan.js";
import { placing, pricing, regrouping } from "./stages.js";

/**
 * What the fills of one product read, so that one of them can be tried or looked at, whether the product is selected or
 * not; undefined where it has no category.
 */
export function fillTrial(
  sku: string,
  family: Family,
  setup: ChannelSetup,
  plans: Plans,
): FillScope | undefined {
  const [place, price, regroup] = [placing(setup, plans), pricing(setup), regrouping(setup)];
  const all = { family, going: family.membersOn(setup.channel), settled: [] };
  const { going } = regroup(price(place(all)));
  for (const group of going) {
    const own = group.find(({ product }) => product.sku === sku);
    if (own === undefined) continue;
    const { shared, fields } = filledGroup(group, family, setup);
    return scopeFor(own, setup, shared, fields);
  }
  return undefined;
}

/** What an expression tried on a product reads: the product as the channel's fills would see it, where it can be placed. */
export const trialScope = (product: Product, family: Family, setup: ChannelSetup, plans: Plans): NameScope =>
  fillTrial(product.sku, family, setup, plans) ?? product;
