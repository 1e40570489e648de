/** The stage that finds a product's category on the channel: its own decision, its category's, or why there is none. */
import { textOf, type Product } from "../catalogue/product.js";
import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import { withNearest } from "../diagnostics/with-nearest.js";
import type { ChannelSetup } from "./channel-setup.js";
import type { PlacedProduct } from "./listing.js";
import type { Plans } from "./plan.js";

/** Where a product goes, or why nowhere. */
export type Placed =
  | { readonly kind: "placed"; readonly placed: PlacedProduct }
  | { readonly kind: "unplaced"; readonly product: Product; readonly because: Diagnostic };

/** Finds the product's category on the channel by the nearest placement. */
export function place(product: Product, setup: ChannelSetup, plans: Plans): Placed {
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
          withNearest({ ourCategory, placements: setup.files.placements }, () => plans.hints(ourCategory)),
          where,
        );
  return { kind: "unplaced", product, because };
}
