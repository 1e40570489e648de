import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { decimal, whole, type Decimal } from "../../../src/core/values/decimal.js";
import { ratesOf } from "../../../src/core/values/rates.js";
import { exchanged } from "../../../src/core/language/exchanged.js";
import { fixedText } from "../../../src/core/values/decimal.js";
import { measure } from "../../../src/core/values/measure.js";
import { money } from "../../../src/core/values/money.js";
import { unitOf } from "../../../src/core/values/units.js";
import { isDecimal, type Decimal as Exact } from "../../../src/core/values/decimal.js";
import { isMeasure, isMoney, type MaybeBlank } from "../../../src/core/values/value.js";
import { evaluate, shown } from "../../kit/evaluate.js";

const exact = (text: string): Exact => decimal(text) ?? whole(0);
const pence = fc.integer({ min: 1, max: 1_000_000 }).map((count) => exact((count / 100).toFixed(2)));
const gram = unitOf("g");
if (gram === undefined) throw new Error("no gram");

const amountOf = (value: MaybeBlank): Decimal => {
  if (isDecimal(value)) return value;
  if (isMoney(value) || isMeasure(value)) return value.amount;
  throw new Error(`no amount in ${String(value)}`);
};

const ofPrice = (expression: string, price: Exact): Decimal =>
  amountOf(evaluate(expression, { price: ["money", money(price, "GBP")] }));

describe("prices, whatever they are", () => {
  it.each([0.99, 0.95, 0.5, 0])(
    "when one is given the ending %d, then it has it and is not lower, nor a pound higher",
    (ending) => {
      fc.assert(
        fc.property(pence, (price) => {
          const ended = ofPrice(`price_ending(price, ${ending})`, price);
          expect(ended.minus(ending).isInteger()).toBe(true);
          expect(ended.greaterThanOrEqualTo(price)).toBe(true);
          expect(ended.minus(price).lessThan(1)).toBe(true);
        }),
      );
    },
  );

  it("when one may have several endings, then the nearest above is taken", () => {
    fc.assert(
      fc.property(pence, (price) => {
        const each = [0.49, 0.99].map((ending) => ofPrice(`price_ending(price, ${ending})`, price));
        const both = ofPrice("price_ending(price, 0.49, 0.99)", price);
        expect(each.some((one) => one.equals(both))).toBe(true);
        expect(each.every((one) => both.lessThanOrEqualTo(one))).toBe(true);
      }),
    );
  });

  it.each(["0.05", "0.5", "5"])(
    "when one is rounded to steps of %s, then it is such a step, and the nearest",
    (step) => {
      fc.assert(
        fc.property(pence, (price) => {
          const paid = ofPrice(`cash_step(price, ${step})`, price);
          expect(paid.modulo(step).isZero()).toBe(true);
          expect(paid.minus(price).abs().times(2).lessThanOrEqualTo(step)).toBe(true);
        }),
      );
    },
  );

  it("when tax is added and taken out again, then the price is the same to the penny", () => {
    fc.assert(
      fc.property(pence, fc.integer({ min: 0, max: 30 }), (price, percent) => {
        const back = ofPrice(`without_tax(with_tax(price, ${percent}), ${percent})`, price);
        expect(back.toFixed(2)).toBe(price.toFixed(2));
      }),
    );
  });

  it("when a margin is asked for, then so much of the price is left above the cost", () => {
    fc.assert(
      fc.property(pence, fc.integer({ min: 0, max: 90 }), (cost, percent) => {
        const price = ofPrice(`with_margin(price, ${percent})`, cost);
        const share = price.minus(cost).div(price).times(100);
        // Rounding to pence moves the share of a small price by more.
        expect(share.minus(percent).abs().lessThan(price.pow(-1).times(1.01))).toBe(true);
      }),
    );
  });

  it("when a bound is put below and above, then the price lies between", () => {
    fc.assert(
      fc.property(pence, (price) => {
        const kept = ofPrice('at_most(at_least(price, money(5, "GBP")), money(50, "GBP"))', price);
        expect(kept.greaterThanOrEqualTo(5) && kept.lessThanOrEqualTo(50)).toBe(true);
      }),
    );
  });
});

describe("measures in two units", () => {
  it("when any weight is parted into pounds and ounces, then both together are the weight, and no pound is left over", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 60_000 }), (grams) => {
        const given = { weight: ["measure", measure(whole(grams), gram)] } as const;
        const pounds = amountOf(evaluate('whole_in(weight, "lb", "oz", 1)', given));
        const ounces = amountOf(evaluate('rest_in(weight, "lb", "oz", 1)', given));
        const all = amountOf(evaluate("round(weight in oz, 1)", given));
        expect(pounds.isInteger()).toBe(true);
        expect(ounces.lessThan(16)).toBe(true);
        expect(pounds.times(16).plus(ounces).toFixed(1)).toBe(all.toFixed(1));
      }),
    );
  });

  it("when sides come in any order, then the longest and the girth are the same", () => {
    const side = fc.integer({ min: 1, max: 300 });
    fc.assert(
      fc.property(side, side, side, (...sides) => {
        const call = (name: string, [a, b, c]: readonly number[]): string =>
          shown(`${name}(measure(${a}, "cm"), measure(${b}, "cm"), measure(${c}, "cm")) in cm`);
        const [long = 0, middle = 0, short = 0] = [...sides].sort((a, b) => b - a);
        expect(call("longest_side", sides)).toBe(`${long} cm`);
        expect(call("girth", [short, long, middle])).toBe(`${2 * (middle + short)} cm`);
      }),
    );
  });
});

describe("days", () => {
  const day = fc
    .date({ min: new Date("1990-01-01"), max: new Date("2090-12-31"), noInvalidDate: true })
    .map((date) => date.toISOString().slice(0, 10));

  it("when days are added, then as many lie between", () => {
    fc.assert(
      fc.property(day, fc.integer({ min: -5000, max: 5000 }), (from, days) => {
        expect(shown(`days_between(date("${from}"), add_days(date("${from}"), ${days}))`)).toBe(String(days));
      }),
    );
  });

  it("when a day is written by a pattern, then it reads back as the same day", () => {
    fc.assert(
      fc.property(day, (iso) => {
        expect(shown(`date_text(date("${iso}"), "YYYY-MM-DD")`)).toBe(iso);
        const [, month, rest] = iso.split("-");
        expect(shown(`date_text(date("${iso}"), "DD.MM.")`)).toBe(`${rest}.${month}.`);
      }),
    );
  });

  it.each([
    ["2021-01-03", "2020-W53-7"],
    ["2024-12-30", "2025-W01-1"],
    ["2026-01-01", "2026-W01-4"],
  ])("when the day is %s, then its week is %s by ISO 8601", (iso, week) => {
    expect(shown(`date_text(date("${iso}"), "YYYY-Www-D")`)).toBe(week);
  });
});

describe("amounts that are divided once", () => {
  // Fractions of whole numbers: what a till would come to, half a penny up.
  const pence = (over: bigint, under: bigint): string => {
    const [whole, rest] = [over / under, over % under];
    const rounded = rest * 2n >= under ? whole + 1n : whole;
    return `${rounded / 100n}.${String(rounded % 100n).padStart(2, "0")}`;
  };

  it("when a price is converted by the inverse of a rate, then it is what the fraction comes to, to the penny", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 99_999 }),
        fc.integer({ min: 11, max: 999 }),
        (amount, tenths) => {
          const rates = ratesOf([
            {
              ...{ day: "2026-01-01", from: "EUR", to: "GBP" },
              rate: exact((tenths / 10).toFixed(1)),
            },
          ]);
          const price = money(exact((amount / 100).toFixed(2)), "GBP");
          const found = exchanged(price, "EUR", rates, { kind: "date", iso: "2026-03-01" });
          expect("amount" in found ? fixedText(found.amount, 2) : "none").toBe(
            pence(BigInt(amount) * 10n, BigInt(tenths)),
          );
        },
      ),
      { examples: [[15_435, 84]] },
    );
  });

  it("when a price is held against a content in another unit, then it is what the fraction comes to, to the penny", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 99_999 }), fc.integer({ min: 1, max: 999 }), (amount, ounces) => {
        const price = `money(${(amount / 100).toFixed(2)}, "GBP")`;
        // An ounce is 28.349523125 g.
        expect(shown(`price_per(${price}, measure(${ounces}, "oz"), "g", 100)`)).toBe(
          `${pence(BigInt(amount) * 100n * 10n ** 9n, BigInt(ounces) * 28_349_523_125n)} GBP`,
        );
      }),
    );
  });
});

describe("identifiers", () => {
  it("when a check digit is put behind any digits of a barcode, then it is one, and its long form too", () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[1-9]\d{11}$/), (digits) => {
        const barcode = shown(`with_check_digit("${digits}")`);
        expect(barcode).toMatch(new RegExp(`^${digits}\\d$`));
        expect(shown(`is_gtin("${barcode}")`)).toBe("yes");
        expect(shown(`gtin14("${barcode}")`)).toBe(`0${barcode}`);
        const wrong = barcode.slice(0, -1) + String((Number(barcode.at(-1)) + 1) % 10);
        expect(shown(`is_gtin("${wrong}")`)).toBe("no");
      }),
    );
  });

  it("when a book's number goes from ten digits to thirteen and back, then it is the same", () => {
    fc.assert(
      fc.property(fc.stringMatching(/^\d{9}$/), (digits) => {
        const thirteen = shown(`with_check_digit("978${digits}")`);
        const ten = shown(`isbn10("${thirteen}")`);
        expect(ten).toMatch(new RegExp(`^${digits}[\\dX]$`));
        expect(shown(`isbn13("${ten}")`)).toBe(thirteen);
      }),
    );
  });
});

describe("texts and lists", () => {
  const words = fc.array(fc.constantFrom("Moss", "moss", "green", "hive", "Größe", "a/b", "12"), {
    maxLength: 12,
  });
  const call = (expression: string, text: string): string => shown(expression, { text: ["text", text] });

  it.each(["without_repeats(text)", "slug(text)", "trim(text)", "digits(text)", "capitalized_words(text)"])(
    "when %s is done twice, then the second time changes nothing",
    (expression) => {
      fc.assert(
        fc.property(words, (all) => {
          const once = call(expression, all.join("  "));
          expect(call(expression, once)).toBe(once);
        }),
      );
    },
  );

  it("when a plain text becomes HTML, then its words come back, and nothing in it is a mark", () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom("wool", "&", "<", ">", '"', "felt", "1 < 2"), { minLength: 1 }),
        (all) => {
          const text = all.join(" ");
          const html = call("html(text)", text);
          expect(html.replace(/^<p>|<\/p>$/g, "")).not.toMatch(/[<>]/);
          expect(call("plain(text)", html)).toBe(text);
        },
      ),
    );
  });

  it("when a list is cut anywhere, then both parts are the list", () => {
    fc.assert(
      fc.property(words, fc.integer({ min: 0, max: 12 }), (all, count) => {
        const given = {
          list: ["list", all.length === 0 ? undefined : all],
          count: ["number", whole(count)],
        } as const;
        const taken = shown("count(take(list, count))", given);
        expect(Number(taken)).toBe(Math.min(all.length, count));
        expect(shown("count(list(first(list), rest(list)))", given)).toBe(String(all.length));
        expect(shown("count(unique(list))", given)).toBe(String(new Set(all).size));
        expect(shown('join(list, "/")', given)).toBe(all.join("/"));
      }),
    );
  });
});
