/** Rows of listings, as ledger and books keep them. */
import { listingKept } from "../../core/listing/live-text.js";
import type { LedgerEntry } from "../ledger.js";

/** A listing as the ledger and the books keep it. */
export interface ListingRow {
  readonly sku: string;
  readonly is_group: number;
  readonly withdrawn: number;
  readonly grp: string | null;
  readonly content: string;
  readonly purpose: string;
  readonly at: string;
}

/** Columns of a listing's row. */
export const listingColumns = "sku, is_group, withdrawn, grp, content, purpose, at";

/** So many rows are read at once. */
export const READ_BATCH = 1000;

/** A row as an entry. */
export const entryOf = ({
  sku,
  content,
  grp,
  is_group,
  withdrawn,
  purpose,
  at,
}: ListingRow): LedgerEntry => ({
  sku,
  purpose,
  at,
  listing: listingKept({
    text: content,
    group: grp ?? undefined,
    isGroup: is_group === 1,
    withdrawn: withdrawn === 1,
  }),
});

/** Reads rows in order of their SKUs, {@link READ_BATCH} at a time, so that the connection is free between them. */
export async function* inOrder<Row extends { readonly sku: string }, T>(
  next: (after: string) => readonly Row[],
  one: (row: Row) => T,
): AsyncGenerator<readonly T[]> {
  for (let after = ""; ;) {
    const rows = next(after);
    if (rows.length > 0) yield rows.map(one);
    const last = rows.at(-1);
    if (last === undefined || rows.length < READ_BATCH) return;
    after = last.sku;
  }
}
