/** The types of the way: placed, priced, filled, and what became of it. Each says what holds from there on. */
import type { ChannelProduct, Product, ProductView } from "../catalogue/product.js";
import type { Diagnostic } from "../diagnostics/diagnostic.js";
import type { MaybeBlank } from "../values/value.js";
import type { FillProblem } from "./fill-problem.js";
import type { Filled } from "./fill/filled.js";
import type { PlannedCategory } from "./plan.js";

/** A product with its category on the channel. */
export interface PlacedProduct {
  readonly product: Product;
  readonly plan: PlannedCategory;
}

/** A placed product with the prices and the stock that this channel is to see, and what is to be said of them. */
export interface PricedProduct extends Omit<PlacedProduct, "product"> {
  readonly product: ChannelProduct;
  readonly notes: readonly Diagnostic[];
  /** The attributes that tell it from the others of its family, in whatever groups the channel sees them. */
  readonly axes: readonly string[];
}

/** A priced product with each of its category's fields filled, as far as the catalogue knows. */
export interface Listing extends PricedProduct {
  /** By field slot. */
  value(slot: number): MaybeBlank;
  /** The same with what was found of it. */
  filled(slot: number): Filled | undefined;
  readonly problems: readonly FillProblem[];
}

/** What became of a product on a channel. Warnings travel with a ready listing. */
export type Outcome =
  | { readonly kind: "ready"; readonly listing: Listing; readonly findings: readonly Diagnostic[] }
  /** A listing that the channel would refuse. */
  | { readonly kind: "held"; readonly listing: Listing; readonly findings: readonly Diagnostic[] }
  /** Held before it could be filled: the channel has no category for it yet. */
  | { readonly kind: "unplaced"; readonly product: Product; readonly findings: readonly Diagnostic[] }
  /** The channel is not to have it, and which of our own decisions says so; with its listing, where that was filled before. */
  | {
      readonly kind: "left-out";
      readonly product: ProductView;
      readonly listing: Listing | undefined;
      readonly findings: readonly Diagnostic[];
    };

/** The product that an outcome is about, as the channel sees it. */
export const productOf = (outcome: Outcome): ProductView =>
  outcome.kind === "ready" || outcome.kind === "held" ? outcome.listing.product : outcome.product;

/** Whether faults keep the product from a channel that it is meant for. */
export const isHeld = ({ kind }: Outcome): boolean => kind === "held" || kind === "unplaced";

/** What a product's fields came to, ready or not; undefined where it was never filled. */
export const listingOf = (outcome: Outcome): Listing | undefined =>
  outcome.kind === "unplaced" ? undefined : outcome.listing;
