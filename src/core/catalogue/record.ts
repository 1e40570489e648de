/** A cell that says "none" on purpose: it clears what lower layers say. A blank cell says nothing. */
export const CLEARED = "\u0018";

/** Parts of a list value within one stored text. */
export const LIST_SEPARATOR = "\u001e";

/** Where a value entered: the revision that brought it, and the row of its file (header included, from 1). */
export interface Origin {
  readonly revision: number;
  readonly row: number;
}

/** One layer's opinion about one product: canonical texts by the attribute slots of its revision. "" is no opinion. */
export interface PartialRecord {
  readonly origin: Origin;
  /** Attribute slots of the texts, shared by all records of the revision. */
  readonly slots: readonly number[];
  readonly texts: readonly string[];
}
