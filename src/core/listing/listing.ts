import type { Product } from "../catalogue/product.js";
import type { CategoryField } from "../channel/category-rules.js";
import type { Diagnostic } from "../diagnostics/diagnostic.js";
import type { ReadingProblem } from "../values/read.js";
import type { MaybeBlank } from "../values/value.js";
import type { PlannedCategory } from "./plan.js";

/** A product with its category on the channel. */
export interface PlacedProduct {
  readonly product: Product;
  readonly plan: PlannedCategory;
}

/** A value that the fill gave and the field cannot take as it is. */
export interface FillProblem {
  readonly field: CategoryField;
  readonly written: string;
  readonly problem: ReadingProblem | "unknown-value";
}

/** A placed product with each of its category's fields filled, as far as the catalogue knows. */
export interface Listing extends PlacedProduct {
  /** By field slot. */
  value(slot: number): MaybeBlank;
  readonly problems: readonly FillProblem[];
}

/** What became of a product on a channel. Warnings travel with a ready listing. */
export type Outcome =
  | { readonly kind: "ready"; readonly listing: Listing; readonly findings: readonly Diagnostic[] }
  | { readonly kind: "held"; readonly product: Product; readonly because: readonly Diagnostic[] }
  | { readonly kind: "left-out"; readonly product: Product };
