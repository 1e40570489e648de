import type { Diagnostic } from "../../diagnostics/diagnostic.js";
import type { Place } from "../../diagnostics/place.js";
import type { Family } from "../family.js";
import type { Product } from "../product.js";
import type { SkuList } from "./sku-list.js";

/** What a check of one product beside all others is given of each family. */
export interface BesideFamily {
  readonly family: Family;
  /** The family's first member, which speaks for it. */
  readonly first: Product;
  /** Its number in `skus`. */
  readonly number: number;
  readonly skus: SkuList;
  placeOf(product: Product, attribute: string): Place | undefined;
}

/** Looks at products beside those of other families, in one pass and flat memory. */
export interface BesideCheck {
  /** Takes a family; gives what shows at once. */
  take(family: BesideFamily): readonly Diagnostic[];
  /** What shows only when all were seen. */
  end(): readonly Diagnostic[];
}
