/**
 * The product as the channel sees it: prices by its rules, within its bounds, with its share of the stock. Comes before
 * filling, so that no fill sees another price.
 */
import { productWith, type ChannelProduct, type Product, type ProductView } from "../../catalogue/product.js";
import { diagnostic, type Diagnostic, type Severity } from "../../diagnostics/diagnostic.js";
import { calculate, order } from "../../language/operations.js";
import type { ReadyProgram } from "../../language/program.js";
import { troubleCode } from "../../diagnostics/trouble-code.js";
import { factsOf, type Troubles } from "../../language/trouble.js";
import { isDecimal, whole } from "../../values/decimal.js";
import { money, payable } from "../../values/money.js";
import { shownText } from "../../values/show.js";
import { isDate, isMoney, type MaybeBlank, type Money } from "../../values/value.js";
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
    watchChange(repricing, prices);
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
  const { today } = repricing.setup;
  const [from, until] = [current(repricing, "sale_from"), current(repricing, "sale_until")];
  const isOver = isDate(until) && until.iso < today.iso;
  const isAhead = isDate(from) && from.iso > today.iso;
  if (isOver || (sales === "running" && isAhead))
    for (const attribute of ["sale_price", "sale_from", "sale_until"]) put(repricing, attribute, undefined);
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
    for (const attribute of bounded) {
      const own = current(repricing, attribute);
      const found = isMoney(own) ? order(own, bound) : undefined;
      if (found === undefined || !breaks(found)) continue;
      const moved = policy.outside === "move";
      if (moved) put(repricing, attribute, bound);
      repricing.findings.push(
        diagnostic(
          code,
          { attribute, price: shownText(own), bound: shownText(bound), moved },
          where(repricing, program.source.place),
          moved ? "advice" : "error",
        ),
      );
    }
  }
}

function percentApart(before: Money, after: Money): number {
  const apart = calculate(
    "/",
    money(after.amount.minus(before.amount).abs().times(100), after.currency),
    before,
  );
  return isDecimal(apart) ? apart.toNumber() : 0;
}

function watchChange(repricing: Repricing, { greatestChange }: PricePolicy): void {
  const { setup, product } = repricing;
  if (greatestChange === undefined || setup.lastPrice === undefined) return;
  const [before, after] = [setup.lastPrice(product.sku), current(repricing, "price")];
  if (before === undefined || !isMoney(after) || before.currency !== after.currency) return;
  const percent = percentApart(before, after);
  if (percent > greatestChange)
    repricing.findings.push(
      diagnostic(
        "price-jump",
        {
          before: shownText(before),
          after: shownText(after),
          percent: Math.round(percent),
          limit: greatestChange,
          file: setup.files.policy,
        },
        where(repricing),
      ),
    );
}

function applyStock(repricing: Repricing, { heldBack, share, atMost }: StockPolicy): void {
  const quantity = current(repricing, "quantity");
  if (!isDecimal(quantity)) return;
  const left = quantity.minus(heldBack);
  const free = left.isNegative() ? whole(0) : left.times(share).div(100).floor();
  put(repricing, "quantity", atMost === undefined || free.lte(atMost) ? free : whole(atMost));
}
