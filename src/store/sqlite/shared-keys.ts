import type Database from "better-sqlite3";
import type { Product } from "../../core/catalogue/product.js";
import { gtin14 } from "../../core/values/gtin.js";
import { textOf } from "../../core/catalogue/product.js";

const twice = `
  SELECT value, group_concat(product) FROM key_value WHERE attribute = 'gtin'
  GROUP BY value HAVING count(*) > 1`;

/**
 * Products that have a barcode in common, as all channels see them. The index also holds what products once had: a
 * barcode counts only where the merged products still have it.
 */
export function sharedBarcodes(
  database: Database.Database,
  productById: (id: number) => Product | undefined,
): readonly (readonly Product[])[] {
  return (database.prepare(twice).raw().all() as [number | string, string][]).flatMap(([value, ids]) => {
    const sharing = ids
      .split(",")
      .flatMap((id) => productById(Number(id)) ?? [])
      .filter((product) => {
        const gtin = textOf(product, "gtin");
        return gtin !== undefined && gtin14(gtin) === gtin14(String(value));
      });
    return sharing.length > 1 ? [sharing] : [];
  });
}
