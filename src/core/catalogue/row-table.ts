/**
 * Rows that came before, by their hashes, in flat memory: 16 bytes a row. By them an import passes what it has seen.
 */
import { hashRow, type RowHash } from "./row-hash.js";

/** Rows by their hashes, as plain columns: a million take 16 MB. */
export interface KeptRows {
  readonly firsts: Float64Array<ArrayBuffer>;
  readonly seconds: Uint32Array<ArrayBuffer>;
  /** The number of each row's product. */
  readonly products: Uint32Array<ArrayBuffer>;
}

/** A row that came just so before. */
export interface KnownRow {
  readonly product: number;
  readonly hash: RowHash;
}

/** Rows of which is known what product they are of. */
export class RowTable {
  private slots: Uint32Array;

  constructor(private readonly rows: KeptRows) {
    let size = 16;
    while (size < rows.firsts.length * 2) size *= 2;
    this.slots = new Uint32Array(size);
    for (const [at, first] of rows.firsts.entries()) {
      let slot = first % size;
      while (this.slots[slot] !== 0) slot = (slot + 1) % size;
      this.slots[slot] = at + 1;
    }
  }

  find(cells: readonly string[]): KnownRow | undefined {
    const { rows, slots } = this;
    const hash = { first: 0, second: 0 };
    hashRow(cells, hash);
    for (let slot = hash.first % slots.length; slots[slot] !== 0; slot = (slot + 1) % slots.length) {
      const at = (slots[slot] ?? 0) - 1;
      if (rows.firsts[at] === hash.first && rows.seconds[at] === hash.second)
        return { product: rows.products[at] ?? 0, hash };
    }
    return undefined;
  }
}

/** The rows of products that a condition holds for. */
export function rowsOf(rows: KeptRows, isWanted: (product: number) => boolean): KeptRows {
  const wanted = new RowGatherer();
  for (const [at, product] of rows.products.entries())
    if (isWanted(product))
      wanted.add({ first: rows.firsts[at] ?? 0, second: rows.seconds[at] ?? 0 }, product);
  return wanted.take();
}

/** Gathers rows for a {@link RowTable}. */
export class RowGatherer {
  private rows: KeptRows = {
    firsts: new Float64Array(1024),
    seconds: new Uint32Array(1024),
    products: new Uint32Array(1024),
  };
  private count = 0;

  add({ first, second }: RowHash, product: number): void {
    if (this.count === this.rows.firsts.length) this.rows = this.copied(this.count * 2);
    const { firsts, seconds, products } = this.rows;
    firsts[this.count] = first;
    seconds[this.count] = second;
    products[this.count++] = product;
  }

  take(): KeptRows {
    return this.copied(this.count);
  }

  private copied(size: number): KeptRows {
    const { firsts, seconds, products } = this.rows;
    const longer = {
      firsts: new Float64Array(size),
      seconds: new Uint32Array(size),
      products: new Uint32Array(size),
    };
    longer.firsts.set(firsts.subarray(0, size));
    longer.seconds.set(seconds.subarray(0, size));
    longer.products.set(products.subarray(0, size));
    return longer;
  }
}
