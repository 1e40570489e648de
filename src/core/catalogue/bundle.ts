/**
 * Bundles: products made of others. What a bundle does not state itself follows from its parts; parts may be bundles,
 * and circles end.
 */
import { asSku, type Sku } from "../ids.js";
import { whole, type Decimal } from "../values/decimal.js";
import { canonicalText } from "../values/show.js";
import { isDecimal } from "../values/decimal.js";
import { isList, isMeasure, isMoney, type MaybeBlank } from "../values/value.js";
import { calculate } from "../language/operations.js";
import { Cannot } from "../language/trouble.js";
import { itemsOf } from "./list-text.js";
import { product, textOf, valueOf, type Product } from "./product.js";
import { COMPUTED_REVISION, type Origin } from "./record.js";

/** One part of a bundle: so many of a product. */
export interface Part {
  readonly sku: Sku;
  readonly count: number;
}

const countFirst = /^(\d{1,6})\s*[x×*]\s*(\S.*)$/i;
const countLast = /^(.*\S)\s*(?:\s[x×]|[×*:])\s*(\d{1,6})$/i;

/** A part as shops write it: `BC-1401`, `2 x BC-1401`, `BC-1401 x 2`, `BC-1401:2`. What is a SKU as it stands is that. */
export function readPart(text: string, isKnown: (sku: Sku) => boolean = () => false): Part {
  const itself = asSku(text.trim());
  const [first, last] = [countFirst.exec(text), countLast.exec(text)];
  if ((first === null && last === null) || isKnown(itself)) return { sku: itself, count: 1 };
  if (first !== null) return { sku: asSku((first[2] ?? "").trim()), count: Number(first[1]) };
  return { sku: asSku((last?.[1] ?? "").trim()), count: Number(last?.[2]) };
}

/** The SKUs that a bundle may name as its parts; of a product that is none, nothing. */
export function partsNamed(bundle: Product): readonly string[] {
  const written = textOf(bundle, "bundle_of");
  return written === undefined ? [] : itemsOf(written).flatMap((part) => [part.trim(), readPart(part).sku]);
}

type FindProduct = (sku: Sku) => Product | undefined;

/** The parts that a bundle names; one that is named twice is needed twice. */
function partsOf(bundle: Product, find: FindProduct): readonly Part[] {
  const value = valueOf(bundle, "bundle_of");
  const named = value === undefined ? [] : isList(value) ? value : [value];
  return named.map((part) => readPart(canonicalText(part), (sku) => find(sku) !== undefined));
}

const DEPTH_LIMIT = 5;
// Bundles of bundles of bundles: what names more things than this is no set that anybody packs.
const PARTS_LIMIT = 10_000;
const summed = ["weight", "package_weight", "cost"] as const;
const computedOrigin: Origin = { revision: COMPUTED_REVISION, row: 0 };

/** Parts whose weights or costs cannot be added up give none. */
const orBlank = (value: MaybeBlank | Cannot): MaybeBlank => (value instanceof Cannot ? undefined : value);

/** What a bundle comes to, worked out from its parts and theirs. */
class Sum {
  private readonly needed = new Map<Sku, { count: number; readonly stock: Decimal }>();
  private named = 0;

  constructor(private readonly find: FindProduct) {}

  /** Counts what so many of a bundle take of the things that have a stock of their own. */
  private need(bundle: Product, times: number, above: readonly Sku[]): void {
    for (const { sku, count } of partsOf(bundle, this.find)) {
      const part = this.part(sku, above);
      const states = part === undefined ? undefined : valueOf(part, "quantity");
      const isOpen = part !== undefined && states === undefined && valueOf(part, "bundle_of") !== undefined;
      if (isOpen) this.need(part, times * count, [...above, sku]);
      else {
        const known = this.needed.get(sku);
        const taken = times * count;
        if (known !== undefined) known.count += taken;
        else this.needed.set(sku, { count: taken, stock: isDecimal(states) ? states : whole(0) });
      }
    }
  }

  private part(sku: Sku, above: readonly Sku[]): Product | undefined {
    const isEnd = above.length > DEPTH_LIMIT || above.includes(sku) || ++this.named > PARTS_LIMIT;
    return isEnd ? undefined : this.find(sku);
  }

  /** How many of a bundle its parts allow, each counted for all the places where it stands. */
  stock(bundle: Product): Decimal {
    this.need(bundle, 1, [bundle.sku]);
    const possible = [...this.needed.values()].map(({ count, stock }) =>
      count > 0 && stock.gt(0) ? stock.div(count).floor() : whole(0),
    );
    return possible.reduce((least, own) => (own.lessThan(least) ? own : least), possible[0] ?? whole(0));
  }

  /** What a bundle states, or else the sum over its parts; blank where one of them has none. */
  total(attribute: string, bundle: Product, above: readonly Sku[] = [bundle.sku]): MaybeBlank {
    const stated = valueOf(bundle, attribute);
    const parts = stated === undefined ? partsOf(bundle, this.find) : [];
    const amounts = parts.map(({ sku, count }): MaybeBlank => {
      const part = this.part(sku, above);
      const own = part === undefined ? undefined : this.total(attribute, part, [...above, sku]);
      return orBlank(calculate("*", own, whole(count)));
    });
    const [first = stated, ...others] = amounts;
    return others.reduce((total, own) => orBlank(calculate("+", total, own)), first);
  }
}

/**
 * A bundle with what follows from its parts where it states none of its own: its stock is what they allow, its weights
 * and cost their sums. A product that is no bundle comes back as it is.
 */
export function withParts(bundle: Product, find: FindProduct): Product {
  const { attributes } = bundle;
  if (valueOf(bundle, "bundle_of") === undefined) return bundle;
  const texts = attributes.names.map((_, slot) => bundle.text(slot));
  const origins = attributes.names.map((_, slot) => bundle.origin(slot));
  const set = (attribute: string, value: MaybeBlank): void => {
    const slot = attributes.slot(attribute);
    if (slot === undefined || value === undefined) return;
    texts[slot] = canonicalText(value);
    origins[slot] = computedOrigin;
  };
  if (valueOf(bundle, "quantity") === undefined) set("quantity", new Sum(find).stock(bundle));
  for (const attribute of summed) {
    const value =
      valueOf(bundle, attribute) === undefined ? new Sum(find).total(attribute, bundle) : undefined;
    if (isMeasure(value) || isMoney(value)) set(attribute, value);
  }
  return product(
    bundle.sku,
    attributes,
    texts,
    origins,
    attributes.names.map((_, slot) => bundle.unread(slot)),
  );
}
