/**
 * Reads the catalogue: products by SKU or id, families one by one, in order or by number. Rows become opinions in
 * `scan-rows.ts` and are merged in `merged-families.ts`; here is which rows are asked for.
 */
import type Database from "better-sqlite3";
import type { AttributeIndex } from "../../core/catalogue/attribute-index.js";
import type { Family } from "../../core/catalogue/family.js";
import type { Product } from "../../core/catalogue/product.js";
import type { FamilyRange } from "../store.js";
import { mergedFamilies, merging } from "./merged-families.js";
import type { Revision } from "./revisions.js";
import { opinionReader, scanWhere, type ScanRow } from "./scan-rows.js";
import { FAMILIES_PER_PRODUCT } from "./schema.js";

// Rows come in one call for so many families: one call a row costs twice as much, and keeps the collector busy.
const FAMILIES_PER_QUERY = 100;

/** Reads products and families. */
export interface CatalogueReader {
  families(range?: FamilyRange): AsyncGenerator<readonly Family[]>;
  stretches(count: number, mostProducts: number, within?: FamilyRange): readonly FamilyRange[];
  /** The families of these numbers, as far as they have members. */
  familiesOf(ids: readonly number[]): AsyncGenerator<readonly Family[]>;
  product(sku: string, channel?: string): Product | undefined;
  familyOf(sku: string): Promise<Family | undefined>;
  productById(id: number, channel?: string): Product | undefined;
  /** The product as it last was, even when nothing says anything of it any more. */
  lastKnown(id: number): Product | undefined;
}

/** The rows of families: those of a range in catalogue order, or those of some numbers. */
function familyScan(database: Database.Database) {
  const byFamily = scanWhere<[number]>(database, "p.family = ? ORDER BY p.id, r.id");
  const between = scanWhere<[number, number]>(
    database,
    "p.family >= ? AND p.family < ? ORDER BY p.family, p.id, r.id",
  );
  const greatest = database.prepare<[], number | null>("SELECT max(family) FROM product").pluck();
  const whole = (): FamilyRange => ({ from: 0, until: (greatest.get() ?? -1) + 1 });
  return {
    whole,
    of: (family: number): readonly ScanRow[] => byFamily.all(family),
    *each(families: readonly number[]): Generator<ScanRow> {
      for (const family of families) yield* byFamily.all(family);
    },
    /** A family, which begins at a product, is never torn over two queries. */
    *inOrder(range: FamilyRange | undefined): Generator<ScanRow> {
      const { from, until } = range ?? whole();
      const step = FAMILIES_PER_QUERY * FAMILIES_PER_PRODUCT;
      for (let at = from; at < until; at += step) yield* between.all(at, Math.min(at + step, until));
    },
  };
}

/** A range in stretches: as many as are asked for, and more where one would hold too many products. */
function stretchesOf(
  { from: first, until: last }: FamilyRange,
  count: number,
  mostProducts: number,
): readonly FamilyRange[] {
  const products = Math.ceil((last - first) / FAMILIES_PER_PRODUCT / count);
  const step = Math.max(1, Math.min(products, mostProducts)) * FAMILIES_PER_PRODUCT;
  const ranges: FamilyRange[] = [];
  for (let from = first; from < last; from += step) ranges.push({ from, until: Math.min(from + step, last) });
  return ranges;
}

/** A reader over one connection, which sees what that sees. */
export function catalogueReader(
  database: Database.Database,
  attributes: AttributeIndex,
  revisions: ReadonlyMap<number, Revision>,
): CatalogueReader {
  const bySku = scanWhere<[string]>(database, "p.sku = ? AND p.is_group = 0");
  const byId = scanWhere<[number]>(database, "p.id = ?");
  const groupOf = scanWhere<[number]>(
    database,
    "p.family = (SELECT family FROM product WHERE id = ?) AND p.is_group = 1",
  );
  const scan = familyScan(database);
  const read = opinionReader(revisions);
  // A bundle's parts are read without parts of their own: `withParts` goes down itself, and knows when to stop.
  const merged = merging(attributes, (sku) => product(sku, undefined, false));
  const families = (rows: Iterable<ScanRow>): AsyncGenerator<readonly Family[]> =>
    mergedFamilies(rows, read, merged, attributes);
  const product = (sku: string, channel: string | undefined, withBundle: boolean): Product | undefined => {
    const rows = bySku.all(sku);
    const [first] = rows;
    if (first === undefined) return undefined;
    return merged(
      { sku: first[1], opinions: read.all(rows) },
      read.all(groupOf.all(first[0])),
      channel,
      withBundle,
    );
  };
  return {
    families: (range) => families(range?.only === undefined ? scan.inOrder(range) : scan.each(range.only)),
    stretches: (count, mostProducts, within = scan.whole()) => stretchesOf(within, count, mostProducts),
    familiesOf: (numbers) => families(scan.each(numbers)),
    product: (sku, channel) => product(sku, channel, true),
    async familyOf(sku) {
      const [first] = bySku.all(sku);
      if (first === undefined) return undefined;
      for await (const [family] of families(scan.of(first[2]))) return family;
      return undefined;
    },
    productById(id, channel) {
      const rows = byId.all(id);
      return merged(
        { sku: rows[0]?.[1] ?? "", opinions: read.all(rows) },
        read.all(groupOf.all(id)),
        channel,
      );
    },
    lastKnown(id) {
      const rows = byId.all(id);
      const opinions = read.everSaid(rows);
      return merged({ sku: rows[0]?.[1] ?? "", opinions }, read.everSaid(groupOf.all(id)), undefined, false);
    },
  };
}
