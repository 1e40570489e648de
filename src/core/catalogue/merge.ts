/**
 * The merge: partial records in the order of their layers become one product. It picks texts by slot and types nothing;
 * an unread cell is no opinion, a clear word is one.
 */
import type { Sku } from "../ids.js";
import type { AttributeKind } from "../values/attribute-kind.js";
import type { AttributeIndex } from "./attribute-index.js";
import { product, productOf, type Opinions, type Product, type UnreadCell } from "./product.js";
import {
  isUnread,
  RETRACTED,
  SAME,
  takesBack,
  writtenIn,
  type Origin,
  type PartialRecord,
} from "./record.js";

interface Laid {
  readonly texts: (string | undefined)[];
  readonly origins: (Origin | undefined)[];
  /** Cells above the text of their slot that could not be read; most products have none. */
  unread: (UnreadCell | undefined)[] | undefined;
}

const nothingLaid = (): Laid => ({ texts: [], origins: [], unread: undefined });

/** Whether a text is another one that a spreadsheet took the zeros from which it began with. */
export function hasLostZeros(text: string, of: string): boolean {
  const lost = of.length - text.length;
  if (lost <= 0 || of.charCodeAt(0) !== 48 || !of.endsWith(text)) return false;
  return /^[1-9]\d*$/.test(text) && /^0+$/.test(of.slice(0, lost));
}

const isPlainText = ({ kind, list }: AttributeKind): boolean => kind === "text" && !list;

function beginsWithDigit(text: string): boolean {
  const code = text.charCodeAt(0);
  return code >= 49 && code <= 57;
}

/** Whether what lies below a text stays, since the text is that without its zeros. What a person wrote by hand is meant so. */
const keepsZeros = (
  { isByHand }: PartialRecord,
  kind: AttributeKind | undefined,
  text: string,
  below: string | undefined,
): boolean =>
  below !== undefined &&
  isByHand !== true &&
  beginsWithDigit(text) &&
  kind !== undefined &&
  isPlainText(kind) &&
  hasLostZeros(text, below);

/** Lays a record over opinions of its layer. */
function lay(record: PartialRecord, over: Laid, kinds: readonly AttributeKind[]): void {
  const { slots, texts, origin } = record;
  for (let i = 0; i < texts.length; i++) {
    const text = texts[i];
    const slot = slots[i] ?? -1;
    if (text === undefined || text === "" || text === SAME || slot < 0) continue;
    const isNone = isUnread(text);
    const goes = takesBack(text);
    if (isNone) (over.unread ??= [])[slot] = { written: writtenIn(text), origin };
    else if (over.unread?.[slot] !== undefined) over.unread[slot] = undefined;
    if ((isNone && !goes) || keepsZeros(record, kinds[slot], text, over.texts[slot])) continue;
    over.texts[slot] = goes ? RETRACTED : text;
    over.origins[slot] = origin;
  }
}

/** Each layer on its own first, so that what it takes back uncovers what lies below it. */
function mergeByLayer(records: readonly PartialRecord[], kinds: readonly AttributeKind[]): Laid {
  const merged = nothingLaid();
  let own = nothingLaid();
  const ofRevision = new Map(records.map((record) => [record.origin, record]));
  const close = (): void => {
    own.texts.forEach((text, slot) => {
      if (text === undefined || text === RETRACTED) return;
      const origin = own.origins[slot];
      const from = origin === undefined ? undefined : ofRevision.get(origin);
      if (from !== undefined && keepsZeros(from, kinds[slot], text, merged.texts[slot])) return;
      merged.texts[slot] = text;
      merged.origins[slot] = own.origins[slot];
      if (merged.unread !== undefined) merged.unread[slot] = undefined;
    });
    own.unread?.forEach((cell, slot) => {
      if (cell !== undefined) (merged.unread ??= [])[slot] = cell;
    });
    own = nothingLaid();
  };
  records.forEach((record, index) => {
    if (index > 0 && records[index - 1]?.layer !== record.layer) close();
    lay(record, own, kinds);
  });
  close();
  return merged;
}

/** Where each slot's text stands in the records of one revision; undefined where a slot has two. */
function placesIn(slots: readonly number[]): readonly number[] | undefined {
  const places: number[] = [];
  for (const [at, slot] of slots.entries()) {
    if (slot < 0) continue;
    if (places[slot] !== undefined) return undefined;
    places[slot] = at;
  }
  // Without holes, so that a look-up stays one.
  return Array.from(places, (at: number | undefined) => at ?? -1);
}

interface KnownPlaces {
  /** A revision's columns may grow while its records come. */
  readonly count: number;
  readonly places: readonly number[] | undefined;
}

const knownPlaces = new WeakMap<readonly number[], KnownPlaces>();

function placesOf(slots: readonly number[]): readonly number[] | undefined {
  const known = knownPlaces.get(slots);
  if (known?.count === slots.length) return known.places;
  const places = placesIn(slots);
  knownPlaces.set(slots, { count: slots.length, places });
  return places;
}

/** Records that take nothing back are not merged: whoever asks for a slot goes down them until one has an opinion. */
class PlainRecords implements Opinions {
  readonly hasUnread = false;

  constructor(
    private readonly records: readonly PartialRecord[],
    private readonly places: readonly (readonly number[])[],
    private readonly kinds: readonly AttributeKind[],
  ) {}

  text(slot: number): string | undefined {
    const at = this.saying(slot);
    return at < 0 ? undefined : this.textIn(at, slot);
  }

  origin(slot: number): Origin | undefined {
    return this.records[this.saying(slot)]?.origin;
  }

  /** The record that says what holds; -1 for none. */
  private saying(slot: number): number {
    const top = this.opinionBelow(slot, this.records.length);
    const isDigits = top > 0 && beginsWithDigit(this.textIn(top, slot) ?? "");
    return isDigits ? this.withZeros(slot, top) : top;
  }

  /** The last opinion of those below a place; -1 for none. */
  private opinionBelow(slot: number, below: number): number {
    for (let i = below - 1; i >= 0; i--) {
      const text = this.textIn(i, slot);
      if (text !== undefined && text !== "" && text !== SAME) return i;
    }
    return -1;
  }

  /** A number, or the same with its zeros: as its own layer had it before, or as what lies below the layer says. */
  private withZeros(slot: number, top: number): number {
    const layer = this.records[top]?.layer;
    let found = top;
    let at = this.opinionBelow(slot, top);
    // Each of the layer's own is held against the one before it.
    const ofLayer: number[] = [top];
    for (; at >= 0 && this.records[at]?.layer === layer; at = this.opinionBelow(slot, at)) ofLayer.push(at);
    for (const [index, one] of ofLayer.reverse().entries())
      found = index === 0 ? one : this.isKept(slot, one, found) ? found : one;
    if (at < 0) return found;
    const below = this.withZeros(slot, at);
    return this.isKept(slot, found, below) ? below : found;
  }

  private isKept(slot: number, over: number, below: number): boolean {
    const record = this.records[over];
    const text = this.textIn(over, slot);
    if (record === undefined || text === undefined) return false;
    return keepsZeros(record, this.kinds[slot], text, this.textIn(below, slot));
  }

  private textIn(record: number, slot: number): string | undefined {
    const at = this.places[record]?.[slot];
    return at === undefined || at < 0 ? undefined : this.records[record]?.texts[at];
  }

  unread(): undefined {
    return undefined;
  }
}

function plainRecords(
  records: readonly PartialRecord[],
  kinds: readonly AttributeKind[],
): Opinions | undefined {
  const places: (readonly number[])[] = [];
  for (const { isPlain, slots } of records) {
    const own = isPlain === true ? placesOf(slots) : undefined;
    if (own === undefined) return undefined;
    places.push(own);
  }
  return new PlainRecords(records, places, kinds);
}

/**
 * Merges partial records into one product: each attribute comes from the last record that has an opinion. A number that
 * lost the zeros of the one below it is no other opinion, unless a person wrote it.
 * Records come in rising order of layer, and within a layer in the order of their revisions.
 */
export function merge(sku: Sku, attributes: AttributeIndex, records: readonly PartialRecord[]): Product {
  const { kinds } = attributes;
  const plain = plainRecords(records, kinds);
  if (plain !== undefined) return productOf(sku, attributes, plain);
  const { texts, origins, unread } = mergeByLayer(records, kinds);
  return product(sku, attributes, texts, origins, unread);
}
