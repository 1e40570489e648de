/** What tells a row's cells from all others, in 85 bits: of a million rows two fall together once in 10^13 files. */
export interface RowHash {
  /** 53 bits, and never 0. */
  first: number;
  /** 32 bits. */
  second: number;
}

// No character has this number, so that no cells run into each other.
const BETWEEN = 0x10000;

/** Hashes a row's cells as they stand in the file, into an object that the caller keeps. */
export function hashRow(cells: readonly string[], into: RowHash): void {
  let [a, b, c] = [0xdeadbeef, 0x41c6ce57, 0x811c9dc5];
  for (const cell of cells) {
    for (let i = 0; i < cell.length; i++) {
      const code = cell.charCodeAt(i);
      a = Math.imul(a ^ code, 2654435761);
      b = Math.imul(b ^ code, 1597334677);
      c = Math.imul(c ^ code, 0x01000193);
    }
    a = Math.imul(a ^ BETWEEN, 2654435761);
    b = Math.imul(b ^ BETWEEN, 1597334677);
    c = Math.imul(c ^ BETWEEN, 0x01000193);
  }
  a = Math.imul(a ^ (a >>> 16), 2246822507) ^ Math.imul(b ^ (b >>> 13), 3266489909);
  b = Math.imul(b ^ (b >>> 16), 2246822507) ^ Math.imul(a ^ (a >>> 13), 3266489909);
  into.first = 4294967296 * (2097151 & b) + (a >>> 0) + 1;
  into.second = (c ^ (c >>> 15)) >>> 0;
}
