/** Which product a row is of, by SKU or key; several or none is said, never guessed. */
import type Database from "better-sqlite3";
import { textOf, type Product } from "../../core/catalogue/product.js";
import { asSku, type Sku } from "../../core/ids.js";
import type { CatalogueReader } from "./catalogue-reader.js";
import type { MetBefore } from "./met-before.js";
import { keyForm, type ProductKeys } from "./product-keys.js";
import { isSaid } from "./revision-columns.js";
import type { MendedKey, RecordFate } from "../store.js";

/** A product as the store knows it. */
export interface KnownProduct {
  readonly id: number;
  /** The SKU; for a group's own record the group's name. */
  readonly sku: string;
  readonly family: number;
  readonly isGroup: boolean;
}

/** A known product, and the key that found it. */
export interface Match {
  readonly known: KnownProduct;
  readonly key: string;
  /** The key as the product has it, where the row's had lost the zeros before it. */
  readonly mended?: MendedKey;
}

/** Why no product was found. */
export type NoMatch = Extract<RecordFate, { fate: "unmatched" | "ambiguous" | "disagree" }>;

/** Finds the product of a row. */
export interface ProductMatcher {
  /** The product of an SKU that the store has ever seen, whether it is there now or not. */
  bySku(sku: string): KnownProduct | undefined;
  byId(id: number): KnownProduct | undefined;
  /** A group's own record. */
  group(name: string): KnownProduct | undefined;
  /** Keys are tried in order and the first that finds a product decides; keys that find different ones decide nothing. */
  match(keys: readonly string[], valueOf: (key: string) => string | undefined): Match | NoMatch;
  /** Other products that have a barcode. */
  othersWithGtin(gtin: string | undefined, product: number): readonly Sku[];
}

/** A product's text by attribute, its SKU included. */
export function productText(product: Product | undefined, attribute: string): string | undefined {
  if (product === undefined) return undefined;
  return attribute === "sku" ? product.sku : textOf(product, attribute);
}

interface ProductRow extends Omit<KnownProduct, "isGroup"> {
  readonly is_group: number;
}

const knownAs = (row: ProductRow | undefined): KnownProduct | undefined =>
  row === undefined
    ? undefined
    : { id: row.id, sku: row.sku, family: row.family, isGroup: row.is_group === 1 };

const SHOWN = 5;
// As long as the longest number of the trade.
const LONGEST_KEY = 14;

/** Whether a key of digits begins with a zero anywhere, which a spreadsheet would take from it; asked once a key. */
function zeroedKeys(database: Database.Database): (key: string) => boolean {
  const found = new Map<string, boolean>();
  const look = (key: string): boolean =>
    (key === "sku"
      ? database.prepare("SELECT 1 FROM product WHERE sku GLOB '0[0-9]*' AND is_group = 0 LIMIT 1").get()
      : database
          .prepare(
            "SELECT 1 FROM key_value WHERE attribute = ? AND typeof(value) = 'text' AND value GLOB '0[0-9]*' LIMIT 1",
          )
          .get(key)) !== undefined;
  return (key) => {
    const known = found.get(key) ?? look(key);
    found.set(key, known);
    return known;
  };
}

/** A match with the value that found it. */
interface FoundMatch extends Match {
  readonly value: string;
}

/** Why what a key finds is no answer: it finds several products, or none of those that another key found. */
function apartFrom(
  before: FoundMatch | undefined,
  found: readonly KnownProduct[],
  { key, value }: { readonly key: string; readonly value: string },
): NoMatch | undefined {
  const [first] = found;
  if (before === undefined)
    return found.length > 1
      ? { fate: "ambiguous", key, value, skus: found.slice(0, SHOWN).map(({ sku }) => asSku(sku)) }
      : undefined;
  if (first === undefined || found.some(({ id }) => id === before.known.id)) return undefined;
  const one = { key: before.key, value: before.value, sku: asSku(before.known.sku) };
  return { fate: "disagree", keys: [one, { key, value, sku: asSku(first.sku) }] };
}

/** Begins to match. */
export function productMatcher(
  database: Database.Database,
  reader: CatalogueReader,
  keys: ProductKeys,
  met: MetBefore,
  /** Whether a product of the table may not be there any more: its deliveries were undone, or it was dropped. */
  mayBeGone: () => boolean,
): ProductMatcher {
  const named = database.prepare<[string, number], ProductRow>(
    "SELECT id, sku, family, is_group FROM product WHERE sku = ? AND is_group = ?",
  );
  const find = (name: string, kind: "product" | "group"): ProductRow | undefined =>
    met.mayHold(kind, name) ? named.get(name, kind === "group" ? 1 : 0) : undefined;
  const findById = database.prepare<[number], ProductRow>(
    "SELECT id, sku, family, is_group FROM product WHERE id = ?",
  );
  /** The index holds what ever was; only what a product says today counts. */
  const holders = (key: string, value: string): readonly number[] => {
    const wanted = keyForm(key, value);
    return keys.candidates(key, value).filter((candidate) => {
      const text = productText(reader.productById(candidate), key);
      return text !== undefined && keyForm(key, text) === wanted;
    });
  };
  const bySku = (sku: string): KnownProduct | undefined => {
    const known = knownAs(find(sku, "product"));
    const isGone = known !== undefined && mayBeGone() && reader.productById(known.id) === undefined;
    return isGone ? undefined : known;
  };
  const foundBy = (key: string, value: string): readonly KnownProduct[] => {
    const found = key === "sku" ? [bySku(value)] : holders(key, value).map((id) => knownAs(findById.get(id)));
    return found.filter((known) => known !== undefined);
  };
  const hasZeroed = zeroedKeys(database);
  /** Products whose key is this number with zeros before it. */
  const foundWithZeros = (key: string, value: string): readonly Match[] => {
    if (!/^[1-9]\d{0,12}$/.test(value) || !hasZeroed(key)) return [];
    const found: Match[] = [];
    for (let length = value.length + 1; length <= LONGEST_KEY; length++) {
      const now = value.padStart(length, "0");
      for (const known of foundBy(key, now)) found.push({ known, key, mended: { key, value, now } });
    }
    return found;
  };
  return {
    bySku: (sku) => knownAs(find(sku, "product")),
    byId: (id) => knownAs(findById.get(id)),
    group: (name) => knownAs(find(name, "group")),
    match(names, valueOf) {
      let tried: { readonly key: string; readonly value: string } | undefined;
      let match: FoundMatch | undefined;
      for (const key of names) {
        const value = valueOf(key);
        if (!isSaid(value)) continue;
        tried ??= { key, value };
        const exact = foundBy(key, value);
        const zeroed = exact.length === 0 && match === undefined ? foundWithZeros(key, value) : [];
        const [mended, second] = zeroed;
        if (second !== undefined)
          return {
            fate: "ambiguous",
            key,
            value,
            skus: zeroed.slice(0, SHOWN).map(({ known }) => asSku(known.sku)),
            butForZeros: true,
          };
        const found = mended === undefined ? exact : [mended.known];
        const [first] = found;
        if (first === undefined) continue;
        const apart = apartFrom(match, found, { key, value });
        if (apart !== undefined) return apart;
        match ??= { ...(mended ?? { known: first, key }), value };
      }
      return match ?? { fate: "unmatched", key: tried?.key ?? "", value: tried?.value ?? "" };
    },
    othersWithGtin(gtin, product) {
      if (!isSaid(gtin)) return [];
      return holders("gtin", gtin)
        .filter((other) => other !== product)
        .slice(0, SHOWN)
        .map((other) => asSku(findById.get(other)?.sku ?? ""));
    },
  };
}
