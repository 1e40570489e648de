/**
 * Decisions that place nothing: no product stands in the category that they name, or has the SKU. A row for a shelf that was
 * renamed, or mistyped, does nothing and looks like a decision. Leans on the paths of categories.
 */
import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import { pathParts, pathText, selfAndAbove } from "../values/category-path.js";
import { nearest } from "../values/nearest.js";
import type { Placements } from "./placements.js";

/** What of the catalogue placements can be about. */
export interface PlacedWhat {
  /** All categories that products are in, as the catalogue writes them. */
  readonly categories: Iterable<string>;
  /** Of these SKUs those that no product has. */
  missing(skus: readonly string[]): Promise<readonly string[]>;
}

/** Tells each decision that is about nothing, in the order of the file. */
export async function idlePlacements(
  { rows }: Placements,
  channel: string,
  { categories, missing }: PlacedWhat,
): Promise<readonly Diagnostic[]> {
  if (rows.length === 0) return [];
  const known = new Set([...categories].flatMap(selfAndAbove));
  // Decisions may come before the products.
  if (known.size === 0) return [];
  const gone = new Set(await missing(rows.flatMap(({ sku }) => (sku === "" ? [] : [sku]))));
  return rows.flatMap(({ ourCategory, sku, place }) => {
    const path = pathText(pathParts(ourCategory));
    if (sku === "" ? known.has(path) : !gone.has(sku)) return [];
    const facts = { ourCategory, sku, nearest: sku === "" ? nearest(path, known) : [] };
    return [diagnostic("idle-placement", facts, { channel, place }, "warning")];
  });
}
