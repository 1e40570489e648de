/**
 * A product as a view on its records: values are typed when they are first read. The types say how far it came: a
 * {@link ChannelProduct} can be neither placed nor priced again.
 */
import type { Sku } from "../ids.js";
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
  unread(slot: number): UnreadCell | undefined;
  /** Whether any cell of it could not be read; most products have none. */
  readonly hasUnread: boolean;
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

/** What the layers of a catalogue come to for one product, by slot. "" is no opinion, a clear mark takes what lies below away. */
export interface Opinions {
  text(slot: number): string | undefined;
  origin(slot: number): Origin | undefined;
  unread(slot: number): UnreadCell | undefined;
  readonly hasUnread: boolean;
}

class CatalogueProduct implements Product {
  readonly group: string | undefined;
  private typed: MaybeBlank[] | undefined;

  constructor(
    readonly sku: Sku,
    readonly attributes: AttributeIndex,
    private readonly opinions: Opinions,
  ) {
    const { group } = attributes.known;
    this.group = group === undefined ? undefined : this.text(group);
  }

  get exists(): boolean {
    const { sku } = this.attributes.known;
    return sku !== undefined && (this.opinions.text(sku) ?? "") !== "";
  }

  get hasUnread(): boolean {
    return this.opinions.hasUnread;
  }

  text(slot: number): string | undefined {
    // A product has its SKU whichever layers speak of it.
    if (slot === this.attributes.known.sku) return this.sku;
    const found = this.opinions.text(slot);
    return found === "" || found === CLEARED ? undefined : found;
  }

  value(slot: number): MaybeBlank {
    const known = this.typed?.[slot];
    if (known !== undefined) return known;
    const written = this.text(slot);
    if (written === undefined) return undefined;
    const value = this.attributes.typed(slot, written);
    // A text that stands for itself is found as quickly again; lists and numbers are made once for all channels.
    if (value !== written) (this.typed ??= [])[slot] = value;
    return value;
  }

  origin(slot: number): Origin | undefined {
    return this.opinions.origin(slot);
  }

  unread(slot: number): UnreadCell | undefined {
    return this.opinions.unread(slot);
  }
}

/** A product of what the layers come to. */
export const productOf = (sku: Sku, attributes: AttributeIndex, opinions: Opinions): Product =>
  new CatalogueProduct(sku, attributes, opinions);

/** Builds a product from texts and origins by slot; the arrays are taken over, not copied. */
export function product(
  sku: Sku,
  attributes: AttributeIndex,
  texts: readonly (string | undefined)[],
  origins: readonly (Origin | undefined)[],
  unread: readonly (UnreadCell | undefined)[] = [],
): Product {
  return productOf(sku, attributes, {
    text: (slot) => texts[slot],
    origin: (slot) => origins[slot],
    unread: (slot) => unread[slot],
    hasUnread: unread.length > 0,
  });
}

/** Stands over a value that is blank on purpose. */
const BLANK = Symbol("blank");

class OverlaidProduct implements ProductView {
  readonly sku: Sku;
  readonly group: string | undefined;
  private readonly own: (Exclude<MaybeBlank, undefined> | typeof BLANK | undefined)[] = [];

  constructor(
    private readonly of: ProductView,
    readonly attributes: AttributeIndex,
    values: ReadonlyMap<number, MaybeBlank>,
    { group }: Pick<ProductView, "group">,
  ) {
    this.sku = of.sku;
    this.group = group;
    for (const [slot, value] of values) this.own[slot] = value ?? BLANK;
  }

  get exists(): boolean {
    return this.of.exists;
  }

  get hasUnread(): boolean {
    return this.of.hasUnread;
  }

  text(slot: number): string | undefined {
    const own = this.own[slot];
    if (own === undefined) return this.of.text(slot);
    return own === BLANK ? undefined : canonicalText(own);
  }

  value(slot: number): MaybeBlank {
    const own = this.own[slot];
    if (own === undefined) return this.of.value(slot);
    return own === BLANK ? undefined : own;
  }

  origin(slot: number): Origin | undefined {
    return this.of.origin(slot);
  }

  unread(slot: number): UnreadCell | undefined {
    return this.of.unread(slot);
  }
}

/** A product with some values in the place of its own: what one channel is to see of it. */
export function productWith(
  of: ProductView,
  attributes: AttributeIndex,
  values: ReadonlyMap<number, MaybeBlank>,
  grouping: Pick<ProductView, "group"> = of,
): ProductView {
  return new OverlaidProduct(of, attributes, values, grouping);
}

/** A product's value by attribute name, for code outside hot paths. */
export function valueOf(of: ProductView, attribute: string): MaybeBlank {
  const slot = of.attributes.slot(attribute);
  return slot === undefined ? undefined : of.value(slot);
}

/** An attribute's canonical text; undefined where blank. */
export function textOf(of: ProductView, attribute: string): string | undefined {
  const slot = of.attributes.slot(attribute);
  return slot === undefined ? undefined : of.text(slot);
}
