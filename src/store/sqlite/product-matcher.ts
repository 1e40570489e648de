import type Database from "better-sqlite3";
import { textOf, type Product } from "../../core/catalogue/product.js";
import { asSku, type Sku } from "../../core/ids.js";
import type { CatalogueReader } from "./catalogue-reader.js";
import { keyForm, type ProductKeys } from "./product-keys.js";
import { isSaid } from "./revision-columns.js";
import type { RecordFate } from "../store.js";

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
}

export type NoMatch = Extract<RecordFate, { fate: "unmatched" | "ambiguous" }>;

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
export const productText = (product: Product | undefined, attribute: string): string | undefined => {
  if (product === undefined) return undefined;
  return attribute === "sku" ? product.sku : textOf(product, attribute);
};

interface ProductRow extends Omit<KnownProduct, "isGroup"> {
  readonly is_group: number;
}

const knownAs = (row: ProductRow | undefined): KnownProduct | undefined =>
  row === undefined
    ? undefined
    : { id: row.id, sku: row.sku, family: row.family, isGroup: row.is_group === 1 };

const SHOWN = 5;

export const productMatcher = (
  database: Database.Database,
  reader: CatalogueReader,
  keys: ProductKeys,
  /** Whether a product of the table may not be there any more: its deliveries were undone, or it was dropped. */
  mayBeGone: () => boolean,
): ProductMatcher => {
  const find = database.prepare<[string, number], ProductRow>(
    "SELECT id, sku, family, is_group FROM product WHERE sku = ? AND is_group = ?",
  );
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
    const known = knownAs(find.get(sku, 0));
    const isGone = known !== undefined && mayBeGone() && reader.productById(known.id) === undefined;
    return isGone ? undefined : known;
  };
  const foundBy = (key: string, value: string): readonly KnownProduct[] => {
    const found = key === "sku" ? [bySku(value)] : holders(key, value).map((id) => knownAs(findById.get(id)));
    return found.filter((known) => known !== undefined);
  };
  return {
    bySku: (sku) => knownAs(find.get(sku, 0)),
    byId: (id) => knownAs(findById.get(id)),
    group: (name) => knownAs(find.get(name, 1)),
    match(names, valueOf) {
      let tried: { readonly key: string; readonly value: string } | undefined;
      let match: Match | undefined;
      for (const key of names) {
        const value = valueOf(key);
        if (!isSaid(value)) continue;
        tried ??= { key, value };
        const found = foundBy(key, value);
        const [first] = found;
        if (first === undefined) continue;
        const before = match?.known;
        const several =
          before === undefined
            ? found.length > 1
              ? found
              : []
            : found.some(({ id }) => id === before.id)
              ? []
              : [before, ...found];
        if (several.length > 0)
          return {
            fate: "ambiguous",
            key,
            value,
            skus: several.slice(0, SHOWN).map(({ sku }) => asSku(sku)),
          };
        match ??= { known: first, key };
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
};
