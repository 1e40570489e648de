/** SKUs that differ by no more than case, spaces or zeros. */
import type Database from "better-sqlite3";
import { asSku, type Sku } from "../../core/ids.js";
import { skuTwinKey } from "../../core/catalogue/sku-twin.js";

const SHOWN = 1000;

/** A number for a text, spread over 32 bits (FNV-1a). */
function hashOf(text: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return (hash >>> 0) + 1;
}

/** Numbers in open addressing: a million cost 8 MB. */
function numberSet(expected: number): { add(hash: number): boolean } {
  const slots = new Uint32Array(1 << Math.ceil(Math.log2(Math.max(16, expected * 2))));
  const mask = slots.length - 1;
  return {
    add(hash) {
      let at = hash & mask;
      while (slots[at] !== 0 && slots[at] !== hash) at = (at + 1) & mask;
      if (slots[at] === hash) return true;
      slots[at] = hash;
      return false;
    },
  };
}

/**
 * Pairs of SKUs that differ by no more than case, spaces or leading zeros, of which at least one is newer than a product and
 * both are there still.
 * Two passes over the SKUs alone: the first finds which keys come twice by their hashes, the second looks at those.
 */
export function skuTwins(
  database: Database.Database,
  newerThan: number,
  isThere: (product: number) => boolean,
): readonly (readonly [Sku, Sku])[] {
  const count = database.prepare("SELECT count(*) FROM product").pluck().get() as number;
  const all = database
    .prepare<[], [number, string]>("SELECT id, sku FROM product WHERE is_group = 0 ORDER BY id")
    .raw();
  const seen = numberSet(count);
  const twice = new Set<number>();
  for (const [, sku] of all.iterate()) {
    const hash = hashOf(skuTwinKey(sku));
    if (seen.add(hash) && twice.size < SHOWN * 100) twice.add(hash);
  }
  if (twice.size === 0) return [];
  const first = new Map<string, { readonly id: number; readonly sku: string }>();
  const pairs: (readonly [Sku, Sku])[] = [];
  for (const [id, sku] of all.iterate()) {
    const key = skuTwinKey(sku);
    if (!twice.has(hashOf(key))) continue;
    const other = first.get(key);
    if (other === undefined) first.set(key, { id, sku });
    else if (id > newerThan && pairs.length < SHOWN && isThere(id) && isThere(other.id))
      pairs.push([asSku(sku), asSku(other.sku)]);
  }
  return pairs;
}
