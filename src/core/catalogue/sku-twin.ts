import { seenCode } from "./hidden-signs.js";

/**
 * Two SKUs with one such key are most likely meant to be one: they differ by case, spaces, kinds of dash, signs that are not seen, or zeros before
 * a number, which spreadsheets and hurried hands change.
 */
export function skuTwinKey(sku: string): string {
  return seenCode(sku)
    .toLowerCase()
    .replace(/[\s\u00a0]+/g, "")
    .replace(/[‐-―−]/g, "-")
    .replace(/(?<!\d)0+(?=\d)/g, "");
}
