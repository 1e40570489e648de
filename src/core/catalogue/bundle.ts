import { asSku, type Sku } from "../ids.js";
import { whole, type Decimal } from "../values/decimal.js";
import { canonicalText } from "../values/show.js";
import { isDecimal } from "../values/decimal.js";
import { isList, isMeasure, isMoney, type MaybeBlank } from "../values/value.js";
import { calculate } from "../language/operations.js";
import { Cannot } from "../language/trouble.js";
import { product, valueOf, type Product } from "./product.js";
import { COMPUTED_REVISION, type Origin } from "./record.js";

/** One part of a bundle: so many of a product. */
export interface Part {
  readonly sku: Sku;
  readonly count: number;
}

const countFirst = /^(\d{1,6})\s*[x×*]\s*(\S.*)$/i;
const countLast = /^(.*\S)\s*(?:\s[x×]|[×*:])\s*(\d{1,6})$/i;

/** A part as shops write it: `BC-1401`, `2 x BC-1401`, `BC-1401 x 2`, `BC-1401:2`. */
export const readPart = (text: string): Part => {
  const [first, last] = [countFirst.exec(text), countLast.exec(text)];
  if (first !== null) return { sku: asSku((first[2] ?? "").trim()), count: Number(first[1]) };
  if (last !== null) return { sku: asSku((last[1] ?? "").trim()), count: Number(last[2]) };
  return { sku: asSku(text.trim()), count: 1 };
};

export const partsOf = (bundle: Product): readonly Part[] => {
  const value = valueOf(bundle, "bundle_of");
  if (value === undefined) return [];
  return (isList(value) ? value : [value]).map((part) => readPart(canonicalText(part)));
};

const DEPTH_LIMIT = 5;
const summed = ["weight", "package_weight", "cost"] as const;
const computedOrigin: Origin = { revision: COMPUTED_REVISION, row: 0 };

const stock = (parts: readonly (Part & { readonly product: Product | undefined })[]): Decimal => {
  const possible = parts.map(({ product: part, count }) => {
    const quantity = part === undefined ? undefined : valueOf(part, "quantity");
    return isDecimal(quantity) && count > 0 ? quantity.div(count).floor() : whole(0);
  });
  return possible.reduce((least, own) => (own.lessThan(least) ? own : least), possible[0] ?? whole(0));
};

/** Parts whose weights or costs cannot be added up give none. */
const orBlank = (value: MaybeBlank | Cannot): MaybeBlank => (value instanceof Cannot ? undefined : value);

const sum = (
  attribute: string,
  parts: readonly (Part & { readonly product: Product | undefined })[],
): MaybeBlank => {
  const amounts = parts.map(({ product: part, count }) =>
    part === undefined ? undefined : orBlank(calculate("*", valueOf(part, attribute), whole(count))),
  );
  return amounts.reduce((total, own) => orBlank(calculate("+", total, own)));
};

/**
 * A bundle with what follows from its parts: its stock is what they allow, its weights and cost their sums where it
 * states none. A product that is no bundle comes back as it is.
 */
export const withParts = (bundle: Product, find: (sku: Sku) => Product | undefined, depth = 0): Product => {
  const { attributes } = bundle;
  const parts = partsOf(bundle);
  if (parts.length === 0) return bundle;
  const found = parts.map((part) => {
    const own = depth < DEPTH_LIMIT && part.sku !== bundle.sku ? find(part.sku) : undefined;
    return { ...part, product: own === undefined ? undefined : withParts(own, find, depth + 1) };
  });
  const texts = attributes.names.map((_, slot) => bundle.text(slot));
  const origins = attributes.names.map((_, slot) => bundle.origin(slot));
  const set = (attribute: string, value: MaybeBlank): void => {
    const slot = attributes.slot(attribute);
    if (slot === undefined || value === undefined) return;
    texts[slot] = canonicalText(value);
    origins[slot] = computedOrigin;
  };
  set("quantity", stock(found));
  for (const attribute of summed) {
    const value = valueOf(bundle, attribute) === undefined ? sum(attribute, found) : undefined;
    if (isMeasure(value) || isMoney(value)) set(attribute, value);
  }
  return product(bundle.sku, attributes, texts, origins);
};
