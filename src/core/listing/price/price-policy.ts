import type { Money } from "../../values/value.js";
import type { ReadyProgram } from "../../language/program.js";

/** Which of the catalogue's sales a channel is told of. */
export const saleWishes = ["all", "coming", "running"] as const;

export type SaleWish = (typeof saleWishes)[number];

/** A rule that makes a channel's price from the catalogue's attributes. */
export interface PriceRule {
  readonly attribute: string;
  readonly slot: number;
  readonly program: ReadyProgram;
}

/** How a channel's prices come from the catalogue's. */
export interface PricePolicy {
  readonly rules: readonly PriceRule[];
  readonly lowest: ReadyProgram | undefined;
  readonly highest: ReadyProgram | undefined;
  /** A price outside its bounds holds the product, or moves to the bound. */
  readonly outside: "hold" | "move";
  readonly sales: SaleWish;
  /** Percent by which a price may differ from the last that was sent, unless a person confirms it. */
  readonly greatestChange: number | undefined;
  /** An amount in another currency by the shop's rates; undefined where there is no rate. */
  exchange(amount: Money, currency: string): Money | undefined;
}

/** How a channel's stock comes from the catalogue's. */
export interface StockPolicy {
  readonly heldBack: number;
  /** Percent of what is left that this channel may sell. */
  readonly share: number;
  readonly atMost: number | undefined;
}
