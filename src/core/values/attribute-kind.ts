import type { Kind } from "./value.js";

/** What is known of an attribute: its kind, and whether it holds several values. */
export interface AttributeKind {
  readonly kind: Kind;
  readonly list: boolean;
  /** Values that it can have; any where it is left out. */
  readonly permitted?: readonly string[];
}

/** The kind of an attribute by its name, with a language or currency or without. */
export type KindOf = (attribute: string) => AttributeKind;
