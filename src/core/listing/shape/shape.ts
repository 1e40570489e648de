/** Listings in the shape of the channel's group model: the rows of its files, before any layout. */
import { groupFieldOf } from "../../channel/group-model.js";
import type { Family } from "../../catalogue/family.js";
import { fieldNamed } from "../../channel/definition.js";
import type { Field } from "../../channel/field.js";
import { asSku } from "../../ids.js";
import type { ChannelSetup } from "../channel-setup.js";
import type { FileFamily } from "./file-family.js";
import { listingIn } from "../fill/fill.js";
import { sharedOf } from "../fill/fill-scope.js";
import { groupScope, groupSku } from "../fill/filled-group.js";
import { groupModels } from "./group-models/group-models.js";
import { isHeld, productOf, type Listing, type Outcome } from "../listing.js";
import { byGroup } from "../regroup.js";

/** The group's own listing: what its members have in common, under a SKU made for it. */
function groupListing(
  members: readonly [Listing, ...Listing[]],
  family: Family,
  setup: ChannelSetup,
): Listing {
  const products = members.map(({ product }) => product);
  const shared = sharedOf(family, family.membersOn(setup.channel), products);
  const { scope, group } = groupScope(members, members[0].plan, shared, family, setup);
  return listingIn(scope, group);
}

/** Whether the channel has a listing as a member of a group. */
function wasMember({ product }: Listing, { live }: ChannelSetup): boolean {
  const before = live?.(product.sku);
  return before !== undefined && before.group !== undefined && before.group === product.group;
}

/** The member that led before still does: the channel knows the others by it. */
function leaderOf(listings: readonly Listing[], setup: ChannelSetup, groupField: Field | undefined): string {
  const led = listings.find(
    (listing) =>
      groupField !== undefined &&
      wasMember(listing, setup) &&
      setup.live?.(listing.product.sku)?.values[groupField.code] === undefined,
  );
  return (led ?? listings[0])?.product.sku ?? "";
}

/** Arranges the ready listings of a family as the channel's group model asks: one for each of its groups there. */
export function shape(
  outcomes: readonly Outcome[],
  family: Family,
  setup: ChannelSetup,
): readonly FileFamily[] {
  const { definition } = setup;
  const { groups } = definition;
  const groupField = fieldNamed(definition, groupFieldOf(groups) ?? "");
  return byGroup(outcomes, productOf).flatMap((own): readonly FileFamily[] => {
    const listings = own.flatMap((outcome) => (outcome.kind === "ready" ? [outcome.listing] : []));
    const [first] = listings;
    if (first === undefined) return [];
    // Members that are held today come tomorrow: a group stays one as long as several are meant for the channel.
    const going = listings.length + own.filter(isHeld).length;
    const isGroup =
      first.product.group !== undefined &&
      (going > 1 ||
        (groupField !== undefined &&
          listings.some((listing) => isSentAsMember(listing, family, setup, groupField))));
    const shaped = groupModels[groups.model]({
      listings,
      isGroup,
      definition,
      groupField,
      // Held members are of the group, too: it is to read the same tomorrow, when they go.
      groupListing: () =>
        groupListing([first, ...listingsOf(own).filter((one) => one !== first)], family, setup),
      leader: leaderOf(listings, setup, groupField),
    });
    return [shaped];
  });
}

const listingsOf = (outcomes: readonly Outcome[]): readonly Listing[] =>
  outcomes.flatMap((outcome) =>
    outcome.kind === "ready" || outcome.kind === "held" ? [outcome.listing] : [],
  );

/** A group that shrank to one stays a group for a channel that has the group's own row, or knows its last member by it. */
function isSentAsMember(listing: Listing, family: Family, setup: ChannelSetup, groupField: Field): boolean {
  const { group, sku } = listing.product;
  if (setup.live?.(asSku(groupSku(group ?? "", family.members)))?.isGroup === true) return true;
  return wasMember(listing, setup) && setup.live?.(sku)?.values[groupField.code] !== undefined;
}
