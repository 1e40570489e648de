/** Decisions of a person: our category and all below it go to one of the channel's. */
import { selfAndAbove, pathParts, pathText } from "../values/category-path.js";
import type { Category, CategoryTree, RetiredCategory } from "../channel/category-tree.js";
import type { Place } from "../diagnostics/place.js";

/** One decision of a person (or one confirmed): our category and all below it go to the channel's category. */
export interface Placement {
  readonly ourCategory: string;
  /** Set for a product that stands apart from its category. */
  readonly sku: string;
  /** Where it goes; or the code that the channel has retired since it was decided. */
  readonly to:
    | { readonly kind: "category"; readonly category: Category }
    | ({ readonly kind: "retired" } & RetiredCategory);
  readonly place: Place;
}

/** Finds where something of ours goes. */
export interface Placements {
  readonly size: number;
  /** All that a person decided, in the order of the file. */
  readonly rows: readonly Placement[];
  /** A product's own decision. */
  ofProduct(sku: string): Placement | undefined;
  /** The nearest decision for a product: its own, then its category's, then those above it. */
  find(sku: string, ourCategory: string | undefined): Placement | undefined;
}

/** Where a channel has one category and no other, everything goes there, and nobody has to say so. */
function onlyPlace({ all }: CategoryTree): Placement | undefined {
  const [category] = all;
  return category === undefined || all.length > 1 || !category.isOpen
    ? undefined
    : { ourCategory: "", sku: "", to: { kind: "category", category }, place: { file: "categories.csv" } };
}

/** Makes decisions ready to be asked. */
export function placementsOf(rows: readonly Placement[], tree?: CategoryTree): Placements {
  const only = tree === undefined ? undefined : onlyPlace(tree);
  const bySku = new Map(rows.filter(({ sku }) => sku !== "").map((row) => [row.sku, row]));
  const byCategory = new Map(
    rows.filter(({ sku }) => sku === "").map((row) => [pathText(pathParts(row.ourCategory)), row]),
  );
  const resolved = new Map<string, Placement | undefined>();
  const nearest = (ourCategory: string): Placement | undefined => {
    if (!resolved.has(ourCategory)) {
      const at = selfAndAbove(ourCategory).find((path) => byCategory.has(path));
      resolved.set(ourCategory, at === undefined ? undefined : byCategory.get(at));
    }
    return resolved.get(ourCategory);
  };
  return {
    size: rows.length,
    rows,
    ofProduct: (sku) => bySku.get(sku),
    find: (sku, ourCategory) =>
      bySku.get(sku) ?? (ourCategory === undefined ? undefined : nearest(ourCategory)) ?? only,
  };
}
