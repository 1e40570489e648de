/** The rows of products and records, written. */
import type { RecordTexts } from "../../core/catalogue/stored-texts.js";
import { TEXT_SEPARATOR } from "../../core/catalogue/record.js";
import type Database from "better-sqlite3";
import type { MetBefore } from "./met-before.js";
import { REVISIONS_PER_PRODUCT } from "./schema.js";
import type { Touched } from "./touched.js";

/** The rows of products, and of what one revision says of them. */
export interface RecordRows {
  /** The last product that was there when the revision began. */
  readonly newest: number;
  /** The id of a product that is about to be added. The transaction alone adds products, so that none is asked for. */
  nextProduct(): number;
  addProduct(product: number, sku: string, isGroup: boolean, family: number): void;
  setFamily(product: number, family: number): void;
  addRecord(product: number, row: number, record: RecordTexts): void;
  /** Takes back all that the revision has said. */
  forget(): void;
}

/** Begins with a revision's rows. */
export function recordRows(
  database: Database.Database,
  met: MetBefore,
  revision: number,
  touched: Touched,
): RecordRows {
  const newest = database.prepare("SELECT coalesce(max(id), 0) FROM product").pluck().get() as number;
  let next = newest + 1;
  const product = database.prepare<[number, string, number, number]>(
    "INSERT INTO product (id, sku, is_group, family) VALUES (?, ?, ?, ?)",
  );
  const family = database.prepare<[number, number]>("UPDATE product SET family = ? WHERE id = ?");
  const record = database.prepare<[number, number, string]>(
    "INSERT INTO record (id, row, texts) VALUES (?, ?, ?)",
  );
  return {
    newest,
    nextProduct: () => next++,
    addProduct(id, sku, isGroup, own) {
      met.note(isGroup ? "group" : "product", sku);
      product.run(id, sku, isGroup ? 1 : 0, own);
    },
    setFamily: (id, own) => void family.run(own, id),
    addRecord(id, row, said) {
      touched.product(id);
      record.run(id * REVISIONS_PER_PRODUCT + revision, row, said.stored ?? said.texts.join(TEXT_SEPARATOR));
    },
    forget: () =>
      void database.prepare(`DELETE FROM record WHERE id % ${REVISIONS_PER_PRODUCT} = ?`).run(revision),
  };
}
