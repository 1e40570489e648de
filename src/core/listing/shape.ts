import type { Family } from "../catalogue/family.js";
import { productWith, textOf } from "../catalogue/product.js";
import { LIST_SEPARATOR } from "../catalogue/record.js";
import { fieldNamed } from "../channel/definition.js";
import { asSku } from "../ids.js";
import type { MaybeBlank } from "../values/value.js";
import type { ChannelSetup } from "./channel-setup.js";
import type { FileFamily } from "./file-family.js";
import { fill } from "./fill.js";
import { sharedOf } from "./fill-scope.js";
import { groupModels } from "./group-models/group-models.js";
import { isHeld, type Listing, type Outcome } from "./listing.js";

/** The SKU of a group's own row: the group's name, unless a product has it already. */
export const groupSku = (group: string, members: readonly { readonly sku: string }[]): string =>
  members.some(({ sku }) => sku === group) ? `${group}-ALL` : group;

/** The group's own listing: filled like its first member's, without what members differ in. */
const groupListing = (first: Listing, family: Family, setup: ChannelSetup): Listing => {
  const { attributes } = setup;
  const axes = textOf(first.product, "varies_by")?.split(LIST_SEPARATOR) ?? [];
  const sku = groupSku(first.product.group ?? "", family.members);
  const values = new Map<number, MaybeBlank>();
  for (const axis of axes) {
    const slot = attributes.slot(axis);
    if (slot !== undefined) values.set(slot, undefined);
  }
  const skuSlot = attributes.slot("sku");
  if (skuSlot !== undefined) values.set(skuSlot, sku);
  const product = { ...productWith(first.product, attributes, values), sku: asSku(sku) };
  return fill(
    { product, plan: first.plan, notes: [] },
    setup,
    sharedOf(family, family.membersOn(setup.channel)),
  );
};

/** Arranges a family's ready listings as the channel's group model asks; undefined where none is ready. */
export const shape = (
  outcomes: readonly Outcome[],
  family: Family,
  setup: ChannelSetup,
): FileFamily | undefined => {
  const listings = outcomes.flatMap((outcome) => (outcome.kind === "ready" ? [outcome.listing] : []));
  const [first] = listings;
  if (first === undefined) return undefined;
  // Members that are held today come tomorrow: a group stays one as long as several are meant for the channel.
  const going = listings.length + outcomes.filter(isHeld).length;
  const { definition } = setup;
  const { groups } = definition;
  return groupModels[groups.model]({
    listings,
    isGroup: first.product.group !== undefined && going > 1,
    definition,
    groupField: groups.model === "separate" ? undefined : fieldNamed(definition, groups.groupField),
    groupListing: () => groupListing(first, family, setup),
    leader: first.product.sku,
  });
};
