import type { Family } from "../../core/catalogue/family.js";

/** Which products a command is about. It is shown each batch of families, and then asked. */
export interface Choice {
  /** Whether every product is meant. */
  readonly isAll: boolean;
  look(families: readonly Family[]): Promise<void>;
  /** Of a product whose family was looked at; for one channel where what is meant can differ from channel to channel. */
  isMeant(product: { readonly sku: string }, channel?: string): boolean;
  /**
   * To be asked when all was looked at.
   * @throws Refusal where a name is nobody's, or no product is meant
   */
  refuseNothing(): void;
}

/** Every product. */
export const everything: Choice = {
  isAll: true,
  look: () => Promise.resolve(),
  isMeant: () => true,
  refuseNothing: () => undefined,
};
