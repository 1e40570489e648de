import { currencyPlaces, isCurrency } from "../../values/currencies.js";
import { isDecimal, whole, type Decimal } from "../../values/decimal.js";
import { money } from "../../values/money.js";
import { noRates } from "../../values/rates.js";
import { isDate, isMoney, type MaybeBlank, type Money } from "../../values/value.js";
import { exchanged } from "../exchanged.js";
import type { ExpressionFunction, KnownArgument } from "../function.js";
import type { Shape } from "../kind.js";
import { cannot, type Cannot } from "../trouble.js";
import type { TroubleFacts } from "../../diagnostics/trouble-facts.js";
import { asText, noRate, optional, parameter, payableOnly, within } from "./arguments.js";

const one = whole(1);
const hundred = whole(100);

/** A price changed by a share of so many percent, to what can be paid; a blank percent leaves it blank, with the reason. */
const byShare = (
  name: string,
  price: MaybeBlank,
  percent: MaybeBlank,
  change: (amount: Decimal, share: Decimal) => Decimal,
): MaybeBlank | Cannot =>
  isDecimal(percent)
    ? payableOnly(within(price, (amount) => change(amount, percent.div(hundred))))
    : noRate(name);

const foreseeCurrency =
  (name: string) =>
  (args: readonly KnownArgument[]): Shape | TroubleFacts | undefined => {
    const written = args[1]?.literal;
    if (typeof written !== "string") return undefined;
    return isCurrency(written)
      ? { kind: "money", currency: written }
      : { trouble: "wrong-argument", name, reason: `"${written}" is no currency code (ISO 4217)` };
  };

/** The smallest price with one of the endings that is not below a price: endings are what stands behind the point. */
function withEnding(price: Money, endings: readonly Decimal[]): Money {
  const base = price.amount.floor();
  const candidates = endings.flatMap((ending) => [base.plus(ending), base.plus(one).plus(ending)]);
  const fitting = candidates.filter((amount) => amount.gte(price.amount));
  const [first = price.amount, ...others] = fitting;
  return money(
    others.reduce((least, amount) => (amount.lt(least) ? amount : least), first),
    price.currency,
  );
}

/** An ending that prices of a currency can have: pence where it has pence. */
const isEnding = (ending: MaybeBlank, currency: string): ending is Decimal =>
  isDecimal(ending) && ending.gte(0) && ending.lt(1) && ending.decimalPlaces() <= currencyPlaces(currency);

/** Functions over prices. */
export const prices: readonly ExpressionFunction[] = [
  {
    name: "money",
    family: "money",
    summary: "A price from a number and a currency code.",
    parameters: [parameter("number", "number"), parameter("currency", "text")],
    result: "money",
    examples: [{ expression: 'money(12.5, "GBP")', gives: "12.50 GBP" }],
    foresee: foreseeCurrency("money"),
    apply([number, currency]) {
      if (!isDecimal(number)) return undefined;
      const code = asText(currency).toUpperCase();
      return isCurrency(code)
        ? money(number, code)
        : cannot({
            trouble: "wrong-argument",
            name: "money",
            reason: `"${code}" is no currency code (ISO 4217)`,
          });
    },
  },
  {
    name: "currency",
    family: "money",
    summary: "The currency code of a price.",
    parameters: [parameter("price", "money")],
    result: "text",
    examples: [{ expression: 'currency(money(12.5, "GBP"))', gives: "GBP" }],
    apply: ([price]) => (isMoney(price) ? price.currency : undefined),
  },
  {
    name: "exchange",
    family: "money",
    summary:
      "A price in another currency by the rate of a day from your table of rates; without a day, today's. For today, `price in EUR` says the same.",
    parameters: [parameter("price", "money"), parameter("currency", "text"), optional("day", "date")],
    result: "money",
    examples: [{ expression: 'exchange(money(10, "GBP"), "GBP")', gives: "10.00 GBP" }],
    foresee: foreseeCurrency("exchange"),
    apply: ([price, currency, day], { rates = noRates, today }) =>
      isMoney(price)
        ? exchanged(price, asText(currency).toUpperCase(), rates, isDate(day) ? day : today)
        : undefined,
  },
  {
    name: "with_tax",
    family: "money",
    summary:
      "A net price with the tax added, as so many percent, rounded to what can be paid in its currency.",
    parameters: [parameter("price", "money"), parameter("percent", "number")],
    result: "first",
    examples: [{ expression: 'with_tax(money(10, "GBP"), 20)', gives: "12.00 GBP" }],
    apply: ([price, percent]) =>
      byShare("with_tax", price, percent, (amount, share) => amount.times(one.plus(share))),
  },
  {
    name: "without_tax",
    family: "money",
    summary:
      "A gross price with the tax of so many percent taken out, rounded to what can be paid in its currency.",
    parameters: [parameter("price", "money"), parameter("percent", "number")],
    result: "first",
    examples: [{ expression: 'without_tax(money(12, "GBP"), 20)', gives: "10.00 GBP" }],
    apply: ([price, percent]) =>
      isDecimal(percent) && percent.eq(-100)
        ? cannot({ trouble: "divided-by-zero" })
        : byShare("without_tax", price, percent, (amount, share) => amount.div(one.plus(share))),
  },
  {
    name: "marked_up",
    family: "money",
    summary:
      "A price or cost with so many percent of itself added, rounded to what can be paid in its currency.",
    parameters: [parameter("price", "money"), parameter("percent", "number")],
    result: "first",
    examples: [{ expression: 'marked_up(money(8, "GBP"), 50)', gives: "12.00 GBP" }],
    apply: ([price, percent]) =>
      byShare("marked_up", price, percent, (amount, share) => amount.times(one.plus(share))),
  },
  {
    name: "with_margin",
    family: "money",
    summary:
      "The price at which so many percent of it are left above the cost, rounded to what can be paid in its currency.",
    parameters: [parameter("cost", "money"), parameter("percent", "number")],
    result: "first",
    examples: [{ expression: 'with_margin(money(6, "GBP"), 40)', gives: "10.00 GBP" }],
    apply: ([cost, percent]) =>
      isDecimal(percent) && percent.gte(hundred)
        ? cannot({ trouble: "wrong-argument", name: "with_margin", reason: "a margin is below 100 percent" })
        : byShare("with_margin", cost, percent, (amount, share) => amount.div(one.minus(share))),
  },
  {
    name: "price_ending",
    family: "money",
    summary:
      "The lowest price with this ending, such as 0.99, that is not below a price; of several endings the nearest.",
    parameters: [parameter("price", "money"), parameter("ending", "number")],
    repeats: true,
    result: "first",
    examples: [
      { expression: 'price_ending(money(12.4, "GBP"), 0.99)', gives: "12.99 GBP" },
      { expression: 'price_ending(money(12.4, "GBP"), 0.49, 0.99)', gives: "12.49 GBP" },
      { expression: 'price_ending(money(13, "GBP"), 0.95)', gives: "13.95 GBP" },
    ],
    apply([price, ...endings]) {
      if (!isMoney(price)) return undefined;
      const { currency } = price;
      const right = endings.filter((ending) => isEnding(ending, currency));
      const wrong = endings.findIndex((ending) => !isEnding(ending, currency));
      if (wrong < 0) return withEnding(price, right);
      const written = endings[wrong];
      return cannot({
        trouble: "wrong-argument",
        name: "price_ending",
        reason: `an ending is at least 0 and below 1, with as many decimals as ${currency} has, such as 0.99; this is ${written === undefined ? "blank" : asText(written)}`,
      });
    },
  },
  {
    name: "cash_step",
    family: "money",
    summary: "A price rounded to the nearest multiple of a step, such as 0.05: what can be paid in coins.",
    parameters: [parameter("price", "money"), parameter("step", "number")],
    result: "first",
    examples: [{ expression: 'cash_step(money(12.43, "EUR"), 0.05)', gives: "12.45 EUR" }],
    apply: ([price, step]) =>
      isDecimal(step) && step.gt(0)
        ? payableOnly(within(price, (amount) => amount.div(step).toDecimalPlaces(0).times(step)))
        : cannot({
            trouble: "wrong-argument",
            name: "cash_step",
            reason: "the step is above 0, such as 0.05",
          }),
  },
];
