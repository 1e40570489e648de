/**
 * The product as the channel sees it: prices by its rules, within its bounds, with its share of the stock. Comes before
 * filling, so that no fill sees another price.
 */
import type { AttributeIndex } from "../../catalogue/attribute-index.js";
import { productWith, type ChannelProduct, type Product, type ProductView } from "../../catalogue/product.js";
import { diagnostic, type Diagnostic, type Severity } from "../../diagnostics/diagnostic.js";
import { order } from "../../language/operations.js";
import type { ReadyProgram } from "../../language/program.js";
import { troubleCode } from "../../diagnostics/trouble-code.js";
import { factsOf, type Troubles } from "../../language/trouble.js";
import { isDecimal, whole } from "../../values/decimal.js";
import { payable } from "../../values/money.js";
import { shownText } from "../../values/show.js";
import { isDate, isMoney, type MaybeBlank } from "../../values/value.js";
import type { PricePolicy, SaleWish, StockPolicy } from "./price-policy.js";
import type { ChannelSetup } from "../channel-setup.js";
import { axesOf } from "../demand.js";
import type { PlacedProduct, PricedProduct } from "../listing.js";

const nothingToSay: readonly Diagnostic[] = [];

interface Repricing {
  readonly setup: ChannelSetup;
  readonly product: Product;
  readonly values: Map<number, MaybeBlank>;
  readonly findings: Diagnostic[];
}

const bounded = ["price", "sale_price"] as const;

/** A sale of a catalogue: its reduced price in one currency, with the attributes of its days. */
interface SaleAttributes {
  readonly price: string;
  readonly from: readonly string[];
  readonly until: readonly string[];
}

/** The prices of a catalogue that a channel can be shown, in whatever currency. */
interface ShownPrices {
  readonly bounded: readonly string[];
  readonly sales: readonly SaleAttributes[];
}

const known = new WeakMap<AttributeIndex, ShownPrices>();

function shownPrices(attributes: AttributeIndex): ShownPrices {
  const found = known.get(attributes);
  if (found !== undefined) return found;
  const named = (base: string): readonly string[] =>
    attributes.names.filter((name) => name === base || name.startsWith(`${base}@`));
  // Days that are said for one currency hold for it, else those of all.
  const days = (base: string, mark: string): readonly string[] =>
    [`${base}${mark}`, base].filter(
      (name, at, all) => all.indexOf(name) === at && attributes.slot(name) !== undefined,
    );
  const made = {
    bounded: bounded.flatMap(named),
    sales: named("sale_price").map((price) => {
      const mark = price.slice("sale_price".length);
      return { price, from: days("sale_from", mark), until: days("sale_until", mark) };
    }),
  };
  known.set(attributes, made);
  return made;
}

const rounded = (value: MaybeBlank): MaybeBlank => (isMoney(value) ? payable(value) : value);

/** What was priced is another thing to the compiler than what was not. */
const asSeen = (product: ProductView): ChannelProduct => product;

/** The product as the channel is to see it: its prices by the channel's rules and bounds, its share of the stock. */
export function price(placed: PlacedProduct, base: Product | undefined, setup: ChannelSetup): PricedProduct {
  const { prices, stock, attributes } = setup;
  const axes = axesOf(placed);
  const { product, plan } = placed;
  if (prices === undefined && stock === undefined)
    return { product: asSeen(product), plan, axes, notes: nothingToSay };
  const repricing: Repricing = { setup, product, values: new Map(), findings: [] };
  if (prices !== undefined) {
    applyRules(repricing, prices, base);
    applySales(repricing, prices.sales);
    keepBounds(repricing, prices);
  }
  if (stock !== undefined) applyStock(repricing, stock);
  return {
    plan,
    axes,
    product: asSeen(productWith(product, attributes, repricing.values)),
    notes: repricing.findings,
  };
}

const where = ({ product, setup }: Repricing, place?: Diagnostic["place"]) => ({
  product: product.sku,
  channel: setup.channel,
  ...(place === undefined ? {} : { notes: [{ note: "rule", place } as const] }),
});

function current({ product, values, setup }: Repricing, attribute: string): MaybeBlank {
  const slot = setup.attributes.slot(attribute);
  if (slot === undefined) return undefined;
  return values.has(slot) ? values.get(slot) : product.value(slot);
}

function put({ values, setup }: Repricing, attribute: string, value: MaybeBlank): void {
  const slot = setup.attributes.slot(attribute);
  if (slot !== undefined) values.set(slot, value);
}

/** Runs a rule of the policy; what it cannot work out is told. */
function ruled(
  repricing: Repricing,
  label: string,
  program: ReadyProgram,
  severity: Severity = "error",
): MaybeBlank {
  const troubles: Troubles = [];
  const value = program.run(repricing.product, troubles);
  for (const trouble of troubles.map(factsOf))
    repricing.findings.push(
      diagnostic(troubleCode(trouble), { label, trouble }, where(repricing, program.source.place), severity),
    );
  return value;
}

function applyRules(repricing: Repricing, { rules }: PricePolicy, base: Product | undefined): void {
  const { product, values } = repricing;
  for (const { attribute, slot, program } of rules) {
    // A price that was given to this product for this channel alone is a person's own word: no rule changes it.
    const [own, common] = [product.origin(slot), base?.origin(slot)];
    const isOwn = own !== undefined && (own.revision !== common?.revision || own.row !== common.row);
    // A price beside the usual ones is missed only where a field asks for it, and that says so.
    const severity = bounded.some((name) => name === attribute) ? "error" : "warning";
    if (!isOwn) values.set(slot, rounded(ruled(repricing, attribute, program, severity)));
  }
}

function applySales(repricing: Repricing, sales: SaleWish): void {
  if (sales === "all") return;
  const { today, attributes } = repricing.setup;
  const first = (names: readonly string[]): MaybeBlank => {
    for (const name of names) {
      const value = current(repricing, name);
      if (value !== undefined) return value;
    }
    return undefined;
  };
  const gone = new Set<string>();
  for (const sale of shownPrices(attributes).sales) {
    const [from, until] = [first(sale.from), first(sale.until)];
    const isOver = isDate(until) && until.iso < today.iso;
    const isAhead = isDate(from) && from.iso > today.iso;
    if (isOver || (sales === "running" && isAhead))
      for (const name of [sale.price, ...sale.from, ...sale.until]) gone.add(name);
  }
  for (const name of gone) put(repricing, name, undefined);
}

function keepBounds(repricing: Repricing, policy: PricePolicy): void {
  const bounds = [
    { program: policy.lowest, code: "price-too-low", breaks: (found: number) => found < 0 },
    { program: policy.highest, code: "price-too-high", breaks: (found: number) => found > 0 },
  ] as const;
  for (const { program, code, breaks } of bounds) {
    if (program === undefined) continue;
    const bound = rounded(
      ruled(repricing, code === "price-too-low" ? "the lowest price" : "the highest price", program),
    );
    if (!isMoney(bound)) continue;
    for (const attribute of shownPrices(repricing.setup.attributes).bounded) {
      const own = current(repricing, attribute);
      if (!isMoney(own)) continue;
      const ownBound = own.currency === bound.currency ? bound : policy.exchange(bound, own.currency);
      // Where no rate is known, nothing says what the bound is there.
      if (ownBound === undefined) continue;
      const limit = payable(ownBound);
      const found = order(own, limit);
      if (found === undefined || !breaks(found)) continue;
      const moved = policy.outside === "move";
      if (moved) put(repricing, attribute, limit);
      repricing.findings.push(
        diagnostic(
          code,
          { attribute, price: shownText(own), bound: shownText(limit), moved },
          where(repricing, program.source.place),
          moved ? "advice" : "error",
        ),
      );
    }
  }
}

function applyStock(repricing: Repricing, { heldBack, share, atMost }: StockPolicy): void {
  const quantity = current(repricing, "quantity");
  if (!isDecimal(quantity)) return;
  const left = quantity.minus(heldBack);
  const free = left.isNegative() ? whole(0) : left.times(share).div(100).floor();
  put(repricing, "quantity", atMost === undefined || free.lte(atMost) ? free : whole(atMost));
}
