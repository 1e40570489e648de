import type { ChannelDefinition } from "../../../channel/definition.js";
import type { Field } from "../../../channel/field.js";
import type { FileFamily, FileRow, RowKind } from "../file-family.js";
import type { Listing } from "../../listing.js";

/** A family's ready listings, with what a model needs to shape them. */
export interface ToShape {
  readonly listings: readonly Listing[];
  /** Whether the channel is to see them as one group. */
  readonly isGroup: boolean;
  readonly definition: ChannelDefinition;
  /** The field by which members show their group; undefined where they stand alone. */
  readonly groupField: Field | undefined;
  /** The group's own listing under a SKU made for it: its title and texts without what members differ in. */
  groupListing(): Listing;
  /** The SKU of the member that leads. */
  readonly leader: string;
}

/** How a channel shows products that vary together. */
export type ShapeFamily = (family: ToShape) => FileFamily;

/** A row that shows what `shows` lets through. */
export const row = (kind: RowKind, listing: Listing, shows: (field: Field) => boolean): FileRow => ({
  kind,
  sku: listing.product.sku,
  listing,
  category: listing.plan.rules.category,
  value: (field) => (shows(field) ? listing.value(field.slot) : undefined),
});

/** Each listing on its own; a group's reference would point nowhere. */
export const singles = ({ listings, groupField }: ToShape): FileFamily => ({
  group: undefined,
  members: listings.map((listing) => row("single", listing, (field) => field !== groupField)),
});
