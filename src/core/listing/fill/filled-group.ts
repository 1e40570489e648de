/** Fields that a channel takes from the group: filled once, for all members. */
import type { Family } from "../../catalogue/family.js";
import { hasGroupsOwn } from "../../channel/group-model.js";
import type { ChannelSetup } from "../channel-setup.js";
import { sharedOf, type FilledGroup, type FillScope, type SharedByGroup } from "./fill-scope.js";
import { scopeFor } from "./fill.js";
import { groupView, type GroupView } from "./group-view.js";
import type { PricedProduct } from "../listing.js";
import type { PlannedCategory } from "../plan.js";

/** The SKU of a group's own row: the group's name, unless a product has it already. */
export const groupSku = (group: string, members: readonly { readonly sku: string }[]): string =>
  members.some(({ sku }) => sku === group) ? `${group}-ALL` : group;

/** The group itself, to be filled in any plan of its members. */
export function groupScope(
  members: readonly [PricedProduct, ...PricedProduct[]],
  plan: PlannedCategory,
  shared: SharedByGroup,
  family: Pick<Family, "members">,
  setup: ChannelSetup,
): { readonly scope: FillScope; readonly group: PricedProduct } {
  const [first, ...others] = members;
  const sku = groupSku(first.product.group ?? "", family.members);
  const view: GroupView = groupView([first.product, ...others.map(({ product }) => product)], sku);
  const group = { product: view.product, plan, notes: [], axes: first.axes };
  return { scope: scopeFor(group, setup, shared, undefined, view), group };
}

/** Prepares the products of one group for their fills. */
export function filledGroup(
  members: readonly PricedProduct[],
  family: Family,
  setup: ChannelSetup,
): FilledGroup {
  const products = members.map(({ product }) => product);
  const shared = sharedOf(family, family.membersOn(setup.channel), products);
  const [first, second, ...others] = members;
  // Elsewhere each member's row says all of its own; checks tell where members differ in what is the group's.
  if (!hasGroupsOwn(setup.definition.groups) || first === undefined || second === undefined)
    return { shared, fields: undefined };
  const scopes = new Map<PlannedCategory, FillScope>();
  return {
    shared,
    fields: {
      scopeIn(plan) {
        const known = scopes.get(plan);
        if (known !== undefined) return known;
        const { scope } = groupScope([first, second, ...others], plan, shared, family, setup);
        scopes.set(plan, scope);
        return scope;
      },
    },
  };
}
