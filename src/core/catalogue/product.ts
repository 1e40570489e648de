import { itemsOf } from "./list-text.js";
import type { Sku } from "../ids.js";
import { readValue } from "../values/read.js";
import { canonicalText } from "../values/show.js";
import type { MaybeBlank } from "../values/value.js";
import type { AttributeIndex } from "./attribute-index.js";
import { CLEARED, type Origin } from "./record.js";

/** A cell that gave no value, since what stood in it could not be read or is impossible. */
export interface UnreadCell {
  readonly written: string;
  readonly origin: Origin;
}

/** What is to be read of a product: canonical text and origin by attribute slot; values are typed when first asked for. */
export interface ProductView {
  readonly sku: Sku;
  /** The group's own name, or undefined for a product that is sold on its own. */
  readonly group: string | undefined;
  readonly attributes: AttributeIndex;
  /** Whether a file or edit that holds still names its SKU; values without it are left over from what was undone. */
  readonly exists: boolean;
  text(slot: number): string | undefined;
  value(slot: number): MaybeBlank;
  origin(slot: number): Origin | undefined;
  /** The cell that would give the attribute's value, were it readable; where there is none, or the view knows of none, undefined. */
  readonly unread?: (slot: number) => UnreadCell | undefined;
}

/** A product as the catalogue has it, merged from its layers; `for` is there for the compiler alone. */
export interface Product extends ProductView {
  readonly for?: "catalogue";
}

/**
 * A product as one channel is to see it: with the channel's layers, its prices by the channel's rules, its share of the
 * stock. It can be filled and checked, and not be placed or priced again.
 */
export interface ChannelProduct extends ProductView {
  readonly for?: "channel";
}

/** A text that does not read as its kind, as older stores kept them, is no value: no channel may ever be given it. */
const typed = (attributes: AttributeIndex, slot: number, text: string): MaybeBlank => {
  const { kind = "text", list = false } = attributes.kinds[slot] ?? {};
  const one = (part: string): MaybeBlank => {
    if (kind === "text" || kind === "html" || kind === "url") return part;
    const reading = readValue(kind, part);
    return "value" in reading ? reading.value : undefined;
  };
  if (!list) return one(text);
  const values = itemsOf(text).flatMap((item) => one(item) ?? []);
  return values.length === 0 ? undefined : values;
};

/** Builds a product from texts and origins by slot; both arrays are taken over, not copied. */
export const product = (
  sku: Sku,
  attributes: AttributeIndex,
  texts: readonly (string | undefined)[],
  origins: readonly (Origin | undefined)[],
  unread: readonly (UnreadCell | undefined)[] = [],
): Product => {
  const values: MaybeBlank[] = [];
  const skuSlot = attributes.slot("sku");
  const text = (slot: number): string | undefined => {
    // A product has its SKU whichever layers speak of it.
    if (slot === skuSlot) return sku;
    const found = texts[slot];
    return found === "" || found === CLEARED ? undefined : found;
  };
  const groupSlot = attributes.slot("group");
  return {
    sku,
    attributes,
    get exists() {
      return skuSlot !== undefined && (texts[skuSlot] ?? "") !== "";
    },
    group: groupSlot === undefined ? undefined : text(groupSlot),
    text,
    origin: (slot) => origins[slot],
    unread: (slot) => unread[slot],
    value(slot) {
      const known = values[slot];
      if (known !== undefined) return known;
      const written = text(slot);
      return written === undefined ? undefined : (values[slot] = typed(attributes, slot, written));
    },
  };
};

/** A product with some values in the place of its own: what one channel is to see of it. */
export const productWith = (
  of: ProductView,
  attributes: AttributeIndex,
  values: ReadonlyMap<number, MaybeBlank>,
): ProductView => ({
  ...of,
  attributes,
  exists: of.exists,
  text(slot) {
    if (!values.has(slot)) return of.text(slot);
    const value = values.get(slot);
    return value === undefined ? undefined : canonicalText(value);
  },
  value: (slot) => (values.has(slot) ? values.get(slot) : of.value(slot)),
});

/** A product's value by attribute name, for code outside hot paths. */
export const valueOf = (of: ProductView, attribute: string): MaybeBlank => {
  const slot = of.attributes.slot(attribute);
  return slot === undefined ? undefined : of.value(slot);
};

export const textOf = (of: ProductView, attribute: string): string | undefined => {
  const slot = of.attributes.slot(attribute);
  return slot === undefined ? undefined : of.text(slot);
};
