/** What revisions changed: products, and families that products left. */
import type Database from "better-sqlite3";
import { seenProducts } from "./seen-products.js";

/** What a revision changes: products, and families that a product left. */
export interface Touched {
  product(id: number): void;
  family(number: number): void;
  /** Adds what another revision changed; where that is not known, neither is this. */
  revision(database: Database.Database, id: number): void;
  keep(database: Database.Database, revision: number): void;
}

type TouchedRow = [touched: Buffer | null, parted: string];

const find = (database: Database.Database) =>
  database.prepare<[number], TouchedRow>("SELECT touched, parted FROM revision WHERE id = ?").raw();

/** Begins with none. */
export function touchedProducts(): Touched {
  const products = seenProducts();
  const parted = new Set<number>();
  let isKnown = true;
  return {
    product: (id) => void products.note(id),
    family: (number) => void parted.add(number),
    revision(database, id) {
      const [bits, families] = find(database).get(id) ?? [null, "[]"];
      if (bits === null) isKnown = false;
      else for (const product of productsIn(bits)) products.note(product);
      for (const family of JSON.parse(families) as number[]) parted.add(family);
    },
    keep(database, revision) {
      const bits = isKnown ? (products.bytes() ?? Buffer.alloc(0)) : null;
      database
        .prepare("UPDATE revision SET touched = ?, parted = ? WHERE id = ?")
        .run(bits, JSON.stringify([...parted]), revision);
    },
  };
}

function* productsIn(bits: Uint8Array): Generator<number> {
  for (const [at, byte] of bits.entries())
    for (let bit = 0; byte >> bit !== 0; bit++) if (((byte >> bit) & 1) === 1) yield at * 8 + bit;
}

/** The products that revisions changed; undefined where that is not known. */
export function productsTouched(
  database: Database.Database,
  revisions: readonly number[],
): { has(product: number): boolean } | undefined {
  const products = seenProducts();
  const rows = find(database);
  for (const id of revisions) {
    const [bits] = rows.get(id) ?? [null];
    if (bits === null) return undefined;
    for (const product of productsIn(bits)) products.note(product);
  }
  return products;
}

/** The families whose products revisions changed, in catalogue order; undefined where that is not known, or they are too many. */
export function familiesTouched(
  database: Database.Database,
  revisions: readonly number[],
  mostProducts: number,
): readonly number[] | undefined {
  const familyOf = database.prepare<[number], number>("SELECT family FROM product WHERE id = ?").pluck();
  const families = new Set<number>();
  const rows = find(database);
  let products = 0;
  for (const id of revisions) {
    const [bits, parted] = rows.get(id) ?? [null, "[]"];
    if (bits === null) return undefined;
    for (const product of productsIn(bits)) {
      if (++products > mostProducts) return undefined;
      const family = familyOf.get(product);
      if (family !== undefined) families.add(family);
    }
    for (const family of JSON.parse(parted) as number[]) families.add(family);
  }
  return [...families].sort((a, b) => a - b);
}
