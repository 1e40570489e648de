import type { Sku } from "../ids.js";
import type { AttributeIndex } from "./attribute-index.js";
import { product, type Product, type UnreadCell } from "./product.js";
import {
  isUnread,
  RETRACTED,
  SAME,
  takesBack,
  writtenIn,
  type Origin,
  type PartialRecord,
} from "./record.js";

interface Opinions {
  readonly texts: (string | undefined)[];
  readonly origins: (Origin | undefined)[];
  /** Cells above the text of their slot that could not be read; most products have none. */
  unread: (UnreadCell | undefined)[] | undefined;
}

const noOpinions = (): Opinions => ({ texts: [], origins: [], unread: undefined });

/** Lays a record over opinions; says whether it takes any back. */
const lay = ({ slots, texts, origin }: PartialRecord, over: Opinions): boolean => {
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
};

/** Each layer on its own first, so that what it takes back uncovers what lies below it. */
const mergeByLayer = (records: readonly PartialRecord[]): Opinions => {
  const merged = noOpinions();
  let own = noOpinions();
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
    own = noOpinions();
  };
  records.forEach((record, index) => {
    if (index > 0 && records[index - 1]?.layer !== record.layer) close();
    lay(record, own);
  });
  close();
  return merged;
};

/**
 * Merges partial records into one product: each attribute comes from the last record that has an opinion.
 * Records come in rising order of layer, and within a layer in the order of their revisions.
 */
export const merge = (sku: Sku, attributes: AttributeIndex, records: readonly PartialRecord[]): Product => {
  const merged = noOpinions();
  let retracts = false;
  for (const record of records) retracts = lay(record, merged) || retracts;
  const { texts, origins, unread } = retracts ? mergeByLayer(records) : merged;
  return product(sku, attributes, texts, origins, unread);
};
