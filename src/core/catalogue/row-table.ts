import { hashRow, type RowHash } from "./row-hash.js";

/** Rows by their hashes, as plain columns: a million take 16 MB. */
export interface KeptRows {
  readonly firsts: Float64Array<ArrayBuffer>;
  readonly seconds: Uint32Array<ArrayBuffer>;
  /** The number of each row's product. */
  readonly products: Uint32Array<ArrayBuffer>;
}

/** Rows of which is known what product they are of. */
export class RowTable {
  private slots: Uint32Array;
  private readonly hash: RowHash = { first: 0, second: 0 };

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

  /** The place of a row with just these cells; undefined where there is none. */
  find(cells: readonly string[]): number | undefined {
    const { hash, rows, slots } = this;
    hashRow(cells, hash);
    for (let slot = hash.first % slots.length; slots[slot] !== 0; slot = (slot + 1) % slots.length) {
      const at = (slots[slot] ?? 0) - 1;
      if (rows.firsts[at] === hash.first && rows.seconds[at] === hash.second) return at;
    }
    return undefined;
  }

  productAt(place: number): number {
    return this.rows.products[place] ?? 0;
  }

  hashAt(place: number): RowHash {
    return { first: this.rows.firsts[place] ?? 0, second: this.rows.seconds[place] ?? 0 };
  }
}

/** Gathers rows for a {@link RowTable}. */
export class RowGatherer {
  private rows: KeptRows = {
    firsts: new Float64Array(1024),
    seconds: new Uint32Array(1024),
    products: new Uint32Array(1024),
  };
  private count = 0;
  private readonly hash: RowHash = { first: 0, second: 0 };

  add(cells: readonly string[], product: number): void {
    hashRow(cells, this.hash);
    this.addHash(this.hash, product);
  }

  addHash({ first, second }: RowHash, product: number): void {
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
