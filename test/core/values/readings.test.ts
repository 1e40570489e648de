import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readDate } from "../../../src/core/values/date.js";
import { decimal, whole } from "../../../src/core/values/decimal.js";
import { readGtin } from "../../../src/core/values/gtin.js";
import { readIsbn } from "../../../src/core/values/isbn.js";
import { convert, measure } from "../../../src/core/values/measure.js";
import { order } from "../../../src/core/language/operations.js";
import { readValue, type ReadingDefaults } from "../../../src/core/values/read.js";
import { canonicalText } from "../../../src/core/values/show.js";
import { unitCodes, unitOf, type Unit } from "../../../src/core/values/units.js";
import { isMeasure, type Kind } from "../../../src/core/values/value.js";
import { isWebAddress } from "../../../src/core/values/web-address.js";

const read = (kind: Kind, text: string, defaults: ReadingDefaults = {}): string => {
  const reading = readValue(kind, text, defaults);
  return "value" in reading ? canonicalText(reading.value) : reading.problem;
};

describe("amounts with signs around them", () => {
  it.each([
    ["$12.50 CAD", "USD", "12.50 CAD"],
    ["$12.50", "CAD", "12.50 CAD"],
    ["$12.50", "GBP", "which-currency"],
    ["€12.50 GBP", "GBP", "two-currencies"],
    ["¥1200", "CNY", "1200.00 CNY"],
    ["¥1200", "JPY", "1200 JPY"],
    ["¥1200", "EUR", "which-currency"],
    ["12 kr", "NOK", "12.00 NOK"],
    ["12 kr", "EUR", "which-currency"],
    ["£5", "EUR", "5.00 GBP"],
    ["£5", "FKP", "5.00 FKP"],
    ["5 ☂", "EUR", "no-currency"],
  ])("when %s stands where %s is usual, then it is %s", (text, currency, expected) => {
    expect(read("money", text, { currency })).toBe(expected);
  });
});

describe("measures in several parts", () => {
  it.each([
    ["1/2 in", "0.5 in"],
    ["3/8 in", "0.375 in"],
    ["1 1/2 in", "1.5 in"],
    ["1-1/2 in", "1.5 in"],
    ["5 lb 3 oz", "83 oz"],
    ["5 lb, 3 oz", "83 oz"],
    ["1 kg 250 g", "1250 g"],
    ["10 cm, 20 cm", "not-a-measure"],
    ["10 cm 20 cm", "not-a-measure"],
    ["10 mm 2 cm", "not-a-measure"],
    ["5.5 lb 3 oz", "not-a-measure"],
    ["1 m 250 cm", "not-a-measure"],
  ])("when %s is read, then it is %s", (text, expected) => {
    expect(read("measure", text)).toBe(expected);
  });
});

describe("what reads as something impossible", () => {
  it.each([
    ["integer", "50 %", "not-a-number"],
    ["decimal", "50 %", "50"],
    ["gtin", "0000000000000", "gtin-zeros"],
    ["gtin", "0", "gtin-zeros"],
    ["isbn", "9524000001016", "isbn-prefix"],
    ["isbn", "4006381333931", "isbn-prefix"],
    ["isbn", "9780306406157", "9780306406157"],
    ["date", "0999-12-31", "not-a-date"],
    ["date", "1 marble 2026", "not-a-date"],
    ["date", "5 decent 2026", "not-a-date"],
    ["date", "1. März 2026", "2026-03-01"],
    ["date", "15 sept 2026", "2026-09-15"],
    ["date", "12/11/2026", "two-ways-date"],
    ["date", "13.11.2026", "2026-11-13"],
    ["url", "https://x.example/a.jpg,https://x.example/b.jpg", "not-a-url"],
    ["url", "https://x.example/my <hive>.jpg", "not-a-url"],
    ["url", "https://x.example/a.jpg|b.jpg", "not-a-url"],
    [
      "url",
      "https://x.example/a,b.jpg?from=https://y.example/",
      "https://x.example/a,b.jpg?from=https://y.example/",
    ],
  ] as const)("when a %s is written %s, then it is %s", (kind, text, expected) => {
    expect(read(kind, text)).toBe(expected);
  });

  it("when zeros stand for a barcode or a book's number, however many, then there is none", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 14 }), (count) => {
        expect("problem" in readGtin("0".repeat(count))).toBe(true);
        expect("problem" in readIsbn("0".repeat(Math.max(count, 11)))).toBe(true);
      }),
    );
  });

  it("when a number reads with thousands or with decimals and nothing tells which, then it is no number", () => {
    const open = { openMarks: ",.", currency: "EUR", unit: "kg" } as const;
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 999 }),
        fc.integer({ min: 0, max: 999 }),
        fc.constantFrom(".", ","),
        fc.constantFrom<Kind>("money", "measure", "decimal", "integer"),
        (before, after, mark, kind) => {
          const text = `${before}${mark}${String(after).padStart(3, "0")}`;
          expect(read(kind, text, open)).toBe("two-ways-number");
        },
      ),
    );
    expect(read("money", "1399.00", open)).toBe("1399.00 EUR");
    expect(read("measure", "0.250", open)).toBe("0.25 kg");
  });

  it("when a day is read, then its year has four digits", () => {
    expect([readDate("1000-01-01")?.iso, readDate("0001-01-01"), readDate("10000-01-01")]).toEqual([
      "1000-01-01",
      undefined,
      undefined,
    ]);
  });
});

describe("web addresses", () => {
  const part = fc.stringMatching(/^[a-z0-9]{1,8}$/);
  it("when any host and path of plain signs are put together, then it is one; with a blank or a second one in it, none", () => {
    fc.assert(
      fc.property(part, part, fc.array(part, { maxLength: 4 }), (name, end, path) => {
        const address = `https://${name}.example/${path.join("/")}${end}.jpg`;
        expect(isWebAddress(address)).toBe(true);
        for (const mark of [" ", "|", "\n", ";https://", ",https://"])
          expect(isWebAddress(`${address}${mark}${name}.example`)).toBe(false);
      }),
    );
  });
});

describe("units there and back", () => {
  const units = unitCodes().flatMap((code) => unitOf(code) ?? []);
  const byDimension = new Map<string, Unit[]>();
  for (const unit of units)
    byDimension.set(unit.dimension, [...(byDimension.get(unit.dimension) ?? []), unit]);
  const pair = fc
    .constantFrom(...byDimension.values())
    .chain((all) => fc.tuple(fc.constantFrom(...all), fc.constantFrom(...all)));
  const amount = fc
    .integer({ min: 1, max: 99_999_999 })
    .map((number) => decimal(String(number))?.div(1000) ?? whole(1));

  it("when a measure is converted and back, then it is the same measure, also through its text", () => {
    fc.assert(
      fc.property(pair, amount, ([from, to], number) => {
        const first = measure(number, from);
        const there = convert(first, to);
        const back = there === undefined ? undefined : convert(there, from);
        expect(order(first, back)).toBe(0);
        // Amounts of less than a millionth of the other unit are nothing that is sold.
        if (there === undefined || there.amount.lt("0.00000001")) return;
        const reading = readValue("measure", canonicalText(there));
        expect("value" in reading && isMeasure(reading.value) ? order(first, reading.value) : "unread").toBe(
          0,
        );
      }),
      { numRuns: 1000 },
    );
  });

  it("when two measures differ in what counts, then they are not the same", () => {
    const [a, b] = ["1 kg", "1.0000001 kg"].map((text) => readValue("measure", text));
    expect(
      a !== undefined && b !== undefined && "value" in a && "value" in b ? order(a.value, b.value) : 0,
    ).toBe(-1);
  });
});
