import type { ChannelDefinition } from "../channel/definition.js";
import type { FieldCode, Sku } from "../ids.js";
import { asSku } from "../ids.js";
import type { FileRow } from "../listing/shape/file-family.js";
import type { LiveListing } from "../listing/live-listing.js";
import { changedFields, textIn } from "./purpose.js";

/** One field that would read otherwise; "" for blank. */
export interface FieldChange {
  readonly field: FieldCode;
  readonly before: string;
  readonly after: string;
}

/** What a full file would do to one listing. */
export type Difference =
  | { readonly kind: "new"; readonly sku: Sku }
  | { readonly kind: "changed"; readonly sku: Sku; readonly changes: readonly FieldChange[] }
  | { readonly kind: "same"; readonly sku: Sku };

/** Holds a row of a full file against what is there. */
export function differenceOf(
  row: FileRow,
  before: LiveListing | undefined,
  definition: ChannelDefinition,
): Difference {
  const sku = asSku(row.sku);
  if (before === undefined) return { kind: "new", sku };
  const changes = changedFields(row, before, definition).map((field) => ({
    field: field.code,
    before: before.values[field.code] ?? "",
    after: textIn(row, field),
  }));
  return changes.length === 0 ? { kind: "same", sku } : { kind: "changed", sku, changes };
}
