import { textOf, type Product } from "../catalogue/product.js";
import { pathParts } from "../values/category-path.js";
import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import { nearest } from "../values/nearest.js";
import type { ChannelSetup } from "./channel-setup.js";
import type { PlacedProduct } from "./listing.js";
import type { Plans } from "./plan.js";

export type Placed =
  | { readonly kind: "placed"; readonly placed: PlacedProduct }
  | { readonly kind: "unplaced"; readonly product: Product; readonly because: Diagnostic };

/** The channel's categories whose last name is like our path's last: a hint, never a decision. */
const suggestions = (setup: ChannelSetup, ourCategory: string): readonly string[] => {
  const leaf = pathParts(ourCategory).at(-1) ?? "";
  const names = nearest(leaf, new Set(setup.definition.tree.all.map(({ name }) => name)));
  return names
    .flatMap((name) => setup.definition.tree.all.filter((c) => c.name === name).map(({ path }) => path))
    .slice(0, 3);
};

const unplacedHints = new WeakMap<ChannelSetup, Map<string, readonly string[]>>();

const hintsFor = (setup: ChannelSetup, ourCategory: string): readonly string[] => {
  const known = unplacedHints.get(setup) ?? new Map<string, readonly string[]>();
  unplacedHints.set(setup, known);
  const hints = known.get(ourCategory) ?? suggestions(setup, ourCategory);
  known.set(ourCategory, hints);
  return hints;
};

/** Finds the product's category on the channel by the nearest placement. */
export const place = (product: Product, setup: ChannelSetup, plans: Plans): Placed => {
  const ourCategory = textOf(product, "category");
  const placement = setup.placements.find(product.sku, ourCategory);
  const where = { product: product.sku, channel: setup.channel };
  if (placement?.to.kind === "category")
    return {
      kind: "placed",
      placed: { product, plan: plans.for(placement.to.category, ourCategory ?? "", product.sku) },
    };
  if (placement?.to.kind === "retired") {
    const { code, successor, since } = placement.to;
    const facts = { code, since, successor: successor?.path ?? "", successorCode: successor?.code ?? "" };
    return {
      kind: "unplaced",
      product,
      because: diagnostic("retired-category", facts, { ...where, place: placement.place }),
    };
  }
  const because =
    ourCategory === undefined
      ? diagnostic("no-category", {}, where)
      : diagnostic(
          "unplaced",
          { ourCategory, nearest: hintsFor(setup, ourCategory), placements: setup.files.placements },
          where,
        );
  return { kind: "unplaced", product, because };
};
