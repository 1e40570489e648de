import { asSku, type Sku } from "../../ids.js";

/** SKUs by number, as bytes in one piece of memory: a million take some 16 MB. */
export interface SkuList {
  /** Adds a SKU and gives its number. */
  add(sku: Sku): number;
  at(number: number): Sku;
}

const encoder = new TextEncoder();
const decoder = new TextDecoder();

/** An empty list of SKUs. */
export function skuList(): SkuList {
  let bytes = new Uint8Array(1 << 12);
  let ends = new Uint32Array(1 << 8);
  let count = 0;
  return {
    add(sku) {
      const start = count === 0 ? 0 : (ends[count - 1] ?? 0);
      if (start + sku.length * 3 > bytes.length) {
        const wider = new Uint8Array(Math.max(bytes.length * 2, start + sku.length * 3));
        wider.set(bytes);
        bytes = wider;
      }
      if (count === ends.length) {
        const longer = new Uint32Array(ends.length * 2);
        longer.set(ends);
        ends = longer;
      }
      ends[count] = start + encoder.encodeInto(sku, bytes.subarray(start)).written;
      return count++;
    },
    at: (number) =>
      asSku(decoder.decode(bytes.subarray(number === 0 ? 0 : (ends[number - 1] ?? 0), ends[number]))),
  };
}
