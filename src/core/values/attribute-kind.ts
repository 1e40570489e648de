import type { Kind } from "./value.js";

/** What is known of an attribute: its kind, and whether it holds several values. */
export interface AttributeKind {
  readonly kind: Kind;
  readonly list: boolean;
}
