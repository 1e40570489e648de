/**
 * The merge: partial records in the order of their layers become one product. It picks texts by slot and types nothing;
 * an unread cell is no opinion, a clear word is one.
 */
import type { Sku } from "../ids.js";
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

/** Lays a record over opinions; says whether it takes any back. */
function lay({ slots, texts, origin }: PartialRecord, over: Laid): boolean {
  let retracts = false;
  for (let i = 0; i < texts.length; i++) {
    const text = texts[i];
    const slot = slots[i] ?? -1;
    if (text === undefined || text === "" || text === SAME || slot < 0) continue;
    const isNone = isUnread(text);
    const goes = takesBack(text);
    if (goes) retracts = true;
    if (isNone) (over.unread ??= [])[slot] = { written: writtenIn(text), origin };
    else if (over.unread?.[slot] !== undefined) over.unread[slot] = undefined;
    if (isNone && !goes) continue;
    over.texts[slot] = goes ? RETRACTED : text;
    over.origins[slot] = origin;
  }
  return retracts;
}

/** Each layer on its own first, so that what it takes back uncovers what lies below it. */
function mergeByLayer(records: readonly PartialRecord[]): Laid {
  const merged = nothingLaid();
  let own = nothingLaid();
  const close = (): void => {
    own.texts.forEach((text, slot) => {
      if (text === undefined || text === RETRACTED) return;
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
    lay(record, own);
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
  ) {}

  text(slot: number): string | undefined {
    for (let i = this.records.length - 1; i >= 0; i--) {
      const text = this.textIn(i, slot);
      if (text !== undefined && text !== "" && text !== SAME) return text;
    }
    return undefined;
  }

  origin(slot: number): Origin | undefined {
    for (let i = this.records.length - 1; i >= 0; i--) {
      const text = this.textIn(i, slot);
      if (text !== undefined && text !== "" && text !== SAME) return this.records[i]?.origin;
    }
    return undefined;
  }

  private textIn(record: number, slot: number): string | undefined {
    const at = this.places[record]?.[slot];
    return at === undefined || at < 0 ? undefined : this.records[record]?.texts[at];
  }

  unread(): undefined {
    return undefined;
  }
}

function plainRecords(records: readonly PartialRecord[]): Opinions | undefined {
  const places: (readonly number[])[] = [];
  for (const { isPlain, slots } of records) {
    const own = isPlain === true ? placesOf(slots) : undefined;
    if (own === undefined) return undefined;
    places.push(own);
  }
  return new PlainRecords(records, places);
}

/**
 * Merges partial records into one product: each attribute comes from the last record that has an opinion.
 * Records come in rising order of layer, and within a layer in the order of their revisions.
 */
export function merge(sku: Sku, attributes: AttributeIndex, records: readonly PartialRecord[]): Product {
  const plain = plainRecords(records);
  if (plain !== undefined) return productOf(sku, attributes, plain);
  const merged = nothingLaid();
  let retracts = false;
  for (const record of records) retracts = lay(record, merged) || retracts;
  const { texts, origins, unread } = retracts ? mergeByLayer(records) : merged;
  return product(sku, attributes, texts, origins, unread);
}
