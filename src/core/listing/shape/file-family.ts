import type { Category } from "../../channel/category-tree.js";
import type { Field } from "../../channel/field.js";
import type { MaybeBlank } from "../../values/value.js";
import type { Listing } from "../listing.js";

/** What a row of a channel's file is: a product on its own, a group's own row, one of its members, or the one that leads them. */
export type RowKind = "single" | "group" | "member" | "leader";

/** One row or element of a channel's file. */
export interface FileRow {
  readonly kind: RowKind;
  /** Our SKU; for a group's own row the one that was made for it. */
  readonly sku: string;
  /** What it shows, as it was filled; undefined for one that only the ledger still knows. */
  readonly listing: Listing | undefined;
  /** Where it stands on the channel, as far as that is known. */
  readonly category: Category | undefined;
  /** What the row shows in a field: blank where the field belongs to another row of the group. */
  value(field: Field): MaybeBlank;
}

/** What comes of one family in a channel's file: it is never torn over two. */
export interface FileFamily {
  /** The group's own row, where the channel's model has one. */
  readonly group: FileRow | undefined;
  readonly members: readonly FileRow[];
}

/** All rows, the group's own first. */
export const rowsOf = ({ group, members }: FileFamily): readonly FileRow[] =>
  group === undefined ? members : [group, ...members];
