import type Database from "better-sqlite3";
import type { AttributeIndex } from "../core/catalogue/attribute-index.js";
import type { Family } from "../core/catalogue/family.js";
import { merge } from "../core/catalogue/merge.js";
import type { Product } from "../core/catalogue/product.js";
import type { PartialRecord } from "../core/catalogue/record.js";
import { asSku } from "../core/ids.js";
import type { Revision } from "./revisions.js";
import { REVISIONS_PER_PRODUCT } from "./schema.js";
import { TEXT_SEPARATOR } from "./texts.js";

const FAMILIES_PER_BATCH = 500;

/** product id, SKU, family, record id, row, texts */
type ScanRow = [number, string, number, number, number, string];

const scanColumns = "p.id, p.sku, p.family, r.id, r.row, r.texts";
const joined = `product p JOIN record r ON r.id >= p.id * ${REVISIONS_PER_PRODUCT} AND r.id < (p.id + 1) * ${REVISIONS_PER_PRODUCT}`;

export interface CatalogueReader {
  families(): AsyncGenerator<readonly Family[]>;
  product(sku: string): Product | undefined;
}

export const catalogueReader = (
  database: Database.Database,
  attributes: AttributeIndex,
  revisions: ReadonlyMap<number, Revision>,
  layerOrder: readonly string[],
): CatalogueReader => {
  // A layer that the manifest no longer names counts as lowest: its values show only where no other layer speaks.
  const rank = new Map([...revisions.values()].map(({ id, layer }) => [id, layerOrder.indexOf(layer)]));
  const partial = ([, , , recordId, row, texts]: ScanRow): PartialRecord => {
    const revision = recordId % REVISIONS_PER_PRODUCT;
    return {
      origin: { revision, row },
      slots: revisions.get(revision)?.slots ?? [],
      texts: texts.split(TEXT_SEPARATOR),
    };
  };
  const byLayer = (a: PartialRecord, b: PartialRecord): number =>
    (rank.get(a.origin.revision) ?? -1) - (rank.get(b.origin.revision) ?? -1) ||
    a.origin.revision - b.origin.revision;
  const merged = (rows: readonly ScanRow[]): Product => {
    const records = rows.map(partial);
    return merge(asSku(rows[0]?.[1] ?? ""), attributes, records.length > 1 ? records.sort(byLayer) : records);
  };

  async function* families(): AsyncGenerator<readonly Family[]> {
    const scan = database.prepare(`SELECT ${scanColumns} FROM ${joined} ORDER BY p.family, p.id, r.id`).raw();
    let batch: Family[] = [];
    let members: Product[] = [];
    let rows: ScanRow[] = [];
    const endProduct = (): void => {
      if (rows.length > 0) members.push(merged(rows));
      rows = [];
    };
    const endFamily = (): void => {
      endProduct();
      if (members.length > 0) batch.push({ group: members[0]?.group, members });
      members = [];
    };
    for (const row of scan.iterate() as IterableIterator<ScanRow>) {
      const previous = rows[0];
      if (previous !== undefined && previous[2] !== row[2]) endFamily();
      else if (previous !== undefined && previous[0] !== row[0]) endProduct();
      if (batch.length >= FAMILIES_PER_BATCH) {
        yield batch;
        batch = [];
      }
      rows.push(row);
    }
    endFamily();
    if (batch.length > 0) yield batch;
  }

  return {
    families,
    product(sku) {
      const rows = database
        .prepare(`SELECT ${scanColumns} FROM ${joined} WHERE p.sku = ? ORDER BY r.id`)
        .raw()
        .all(sku) as ScanRow[];
      return rows.length === 0 ? undefined : merged(rows);
    },
  };
};
