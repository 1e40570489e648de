import { fold } from "../values/text.js";
import { gtin14 } from "../values/gtin.js";
import { textOf, type Product } from "./product.js";

interface Identity {
  readonly gtin: string | undefined;
  readonly name: string | undefined;
}

const words = (name: string): ReadonlySet<string> =>
  new Set(
    fold(name)
      .split(" ")
      .filter((word) => word.length > 2),
  );

/**
 * Whether what comes under a known SKU is another product: another barcode, and a name that has no word in common with
 * the one before. A corrected barcode alone, or a new name alone, is a change.
 */
export function isAnotherProduct(was: Identity, now: Identity): boolean {
  if (was.gtin === undefined || now.gtin === undefined || was.name === undefined || now.name === undefined)
    return false;
  if (gtin14(was.gtin) === gtin14(now.gtin) || now.name === "") return false;
  const before = words(was.name);
  return before.size > 0 && ![...words(now.name)].some((word) => before.has(word));
}

/** What an SKU stood for and what comes under it, where that is another product; undefined where it is the same. */
export function anotherProduct(
  was: Product,
  now: Identity,
): { readonly was: string; readonly now: string } | undefined {
  const before = { gtin: textOf(was, "gtin"), name: textOf(was, "name") };
  return isAnotherProduct(before, now) ? { was: before.name ?? "", now: now.name ?? "" } : undefined;
}
