import type { Family } from "../catalogue/family.js";
import { productWith, textOf } from "../catalogue/product.js";
import { LIST_SEPARATOR } from "../catalogue/record.js";
import { fieldNamed } from "../channel/definition.js";
import type { Field } from "../channel/field.js";
import { asSku } from "../ids.js";
import type { MaybeBlank } from "../values/value.js";
import type { ChannelSetup } from "./channel-setup.js";
import type { FileFamily } from "./file-family.js";
import { fill } from "./fill.js";
import { sharedOf } from "./fill-scope.js";
import { groupModels } from "./group-models/group-models.js";
import { isHeld, productOf, type Listing, type Outcome } from "./listing.js";
import { byGroup } from "./regroup.js";

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

/** Whether the channel has a listing as a member of a group. */
const wasMember = ({ product }: Listing, { live }: ChannelSetup): boolean => {
  const before = live?.(product.sku);
  return before !== undefined && before.group !== undefined && before.group === product.group;
};

/** The member that led before still does: the channel knows the others by it. */
const leaderOf = (
  listings: readonly Listing[],
  setup: ChannelSetup,
  groupField: Field | undefined,
): string => {
  const led = listings.find(
    (listing) =>
      groupField !== undefined &&
      wasMember(listing, setup) &&
      setup.live?.(listing.product.sku)?.values[groupField.code] === undefined,
  );
  return (led ?? listings[0])?.product.sku ?? "";
};

/** Arranges the ready listings of a family as the channel's group model asks: one for each of its groups there. */
export const shape = (
  outcomes: readonly Outcome[],
  family: Family,
  setup: ChannelSetup,
): readonly FileFamily[] => {
  const { definition } = setup;
  const { groups } = definition;
  const groupField = groups.model === "separate" ? undefined : fieldNamed(definition, groups.groupField);
  return byGroup(outcomes, productOf).flatMap((own): readonly FileFamily[] => {
    const listings = own.flatMap((outcome) => (outcome.kind === "ready" ? [outcome.listing] : []));
    const [first] = listings;
    if (first === undefined) return [];
    // Members that are held today come tomorrow: a group stays one as long as several are meant for the channel.
    const going = listings.length + own.filter(isHeld).length;
    const isGroup =
      first.product.group !== undefined &&
      (going > 1 ||
        (groupField !== undefined && listings.some((listing) => isSentAsMember(listing, setup, groupField))));
    const shaped = groupModels[groups.model]({
      ...{ listings, isGroup, definition, groupField },
      groupListing: () => groupListing(first, family, setup),
      leader: leaderOf(listings, setup, groupField),
    });
    return [shaped];
  });
};

/** A group that shrank to one stays a group for a channel that knows its last member by it. */
const isSentAsMember = (listing: Listing, setup: ChannelSetup, groupField: Field): boolean =>
  wasMember(listing, setup) && setup.live?.(listing.product.sku)?.values[groupField.code] !== undefined;
