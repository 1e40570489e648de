import { groupFieldOf } from "../channel/group-model.js";
import type { ChannelDefinition } from "../channel/definition.js";
import { ownOf } from "../own.js";
import type { LiveListing } from "./live-listing.js";

/** What a channel calls a listing of ours, by what it was sent: a group's own row may have none but its group's. */
export function referenceOf(
  sku: string,
  { values, isGroup }: Pick<LiveListing, "values" | "isGroup">,
  { identifiedBy, groups }: Pick<ChannelDefinition, "identifiedBy" | "groups">,
): string {
  const own = ownOf(values, identifiedBy);
  if (own !== undefined) return own;
  return (isGroup === true ? ownOf(values, groupFieldOf(groups) ?? "") : undefined) ?? sku;
}
