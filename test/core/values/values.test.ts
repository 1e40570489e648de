import { describe, expect, it } from "vitest";
import fc from "fast-check";
import { convert, measure } from "../../../src/core/values/measure.js";
import { decimal, decimalText } from "../../../src/core/values/decimal.js";
import { checkDigit, readGtin } from "../../../src/core/values/gtin.js";
import { plainText } from "../../../src/core/values/html.js";
import { readDate } from "../../../src/core/values/date.js";
import { readNumber } from "../../../src/core/values/number.js";
import { readValue, type ReadingDefaults } from "../../../src/core/values/read.js";
import { canonicalText } from "../../../src/core/values/show.js";
import { characterCount } from "../../../src/core/values/characters.js";
import { cleanText, fold } from "../../../src/core/values/text.js";
import { unitCodes, unitOf } from "../../../src/core/values/units.js";
import type { Kind } from "../../../src/core/values/value.js";

const read = (kind: Kind, text: string, defaults?: ReadingDefaults): string => {
  const reading = readValue(kind, text, defaults);
  return "value" in reading ? canonicalText(reading.value) : reading.problem;
};

describe("numbers", () => {
  it.each([
    ["1,149.00", ".", "1149"],
    ["1149", ".", "1149"],
    ["12,50", ",", "12.5"],
    ["1.149,00", ",", "1149"],
    ["1 149.5", ".", "1149.5"],
    [".5", ".", "0.5"],
    ["-3", ".", "-3"],
  ] as const)("when %s is read under the mark %s, then it is %s", (text, mark, expected) => {
    const value = readNumber(text, mark);
    expect(value === undefined ? undefined : decimalText(value)).toBe(expected);
  });

  it.each(["12,50", "1,14", "0x10", "1e5", "", "--1", "1.2.3"])(
    "when %s is no number under a point, then nothing is guessed",
    (text) => expect(readNumber(text, ".")).toBeUndefined(),
  );

  it("when any decimal is written canonically, then it reads back exactly", () => {
    fc.assert(
      fc.property(fc.bigInt({ min: -(10n ** 20n), max: 10n ** 20n }), fc.nat(12), (digits, places) => {
        const sign = digits < 0n ? "-" : "";
        const text = (digits < 0n ? -digits : digits).toString().padStart(places + 1, "0");
        const written =
          places === 0 ? sign + text : `${sign}${text.slice(0, -places)}.${text.slice(-places)}`;
        const value = decimal(written);
        expect(value === undefined ? "" : decimal(decimalText(value))?.equals(value)).toBe(true);
      }),
    );
  });
});

describe("money and measures", () => {
  it.each([
    ["£1,149.00", "1149.00 GBP"],
    ["12.5 EUR", "12.50 EUR"],
    ["€ 9", "9.00 EUR"],
    ["7.20", "7.20 GBP"],
    ["1.2345 USD", "1.2345 USD"],
    ["500 JPY", "500 JPY"],
    ["$5", "which-currency"],
    ["twelve", "not-money"],
  ])("when a price is written %s, then it is %s", (text, expected) => {
    expect(read("money", text, { currency: "GBP" })).toBe(expected);
  });

  it.each([
    ["1.7 lb", "1.7 lb"],
    ["250ml", "250 ml"],
    ["14.8", "14.8 kg"],
    ['12"', "12 in"],
    ["3 parsecs", "not-a-measure"],
  ])("when a measure is written %s, then it is %s", (text, expected) => {
    expect(read("measure", text, { unit: "kg" })).toBe(expected);
  });

  it("when pounds become kilograms, then the factor is exact", () => {
    const [lb, kg] = [unitOf("lb"), unitOf("kg")];
    const amount = decimal("1.7");
    if (lb === undefined || kg === undefined || amount === undefined) throw new Error("units are missing");
    expect(canonicalText(convert(measure(amount, lb), kg))).toBe("0.771107029 kg");
  });

  it("when a measure goes to another unit and back, then nothing is lost", () => {
    const units = unitCodes().map((code) => unitOf(code));
    fc.assert(
      fc.property(fc.constantFrom(...units), fc.constantFrom(...units), fc.nat(1_000_000), (a, b, count) => {
        const amount = decimal(String(count));
        if (a === undefined || b === undefined || amount === undefined || a.dimension !== b.dimension) return;
        const there = convert(measure(amount, a), b);
        const back = there === undefined ? undefined : convert(there, a);
        expect(back?.amount.toDecimalPlaces(20).equals(amount)).toBe(true);
      }),
    );
  });
});

describe("identifiers, dates, yes and no, web addresses", () => {
  it.each([
    ["9524000001016", "9524000001016"],
    ["9524 0000 01016", "9524000001016"],
    ["9524000001017", "gtin-check-digit"],
    ["9.52400E+12", "gtin-scientific"],
    ["95240000010", "gtin-length"],
    ["95240000010l6", "gtin-characters"],
  ])("when a barcode is %s, then it is %s", (text, expected) => expect(read("gtin", text)).toBe(expected));

  it("when one digit of a GTIN is wrong, then the check digit shows it", () => {
    const digits = fc.array(fc.nat(9), { minLength: 12, maxLength: 12 });
    fc.assert(
      fc.property(digits, fc.nat(12), fc.integer({ min: 1, max: 9 }), (own, at, shift) => {
        const body = own.join("");
        const good = body + checkDigit(body);
        const bad = [...good].map((digit, i) => (i === at ? (Number(digit) + shift) % 10 : digit)).join("");
        expect(readGtin(good)).toEqual({ digits: good });
        expect(readGtin(bad)).toEqual({ problem: "gtin-check-digit" });
      }),
    );
  });

  it("when a day does not exist, then it is no date", () => {
    expect(readDate("2024-02-29")?.iso).toBe("2024-02-29");
    expect(readDate("2026-02-29")).toBeUndefined();
    expect(read("date", "2026-04-31")).toBe("not-a-date");
  });

  it("when yes and no are written in many ways, then they are read; anything else is not", () => {
    expect([read("yes-no", "Y"), read("yes-no", "FALSE"), read("yes-no", "maybe")]).toEqual([
      "yes",
      "no",
      "not-yes-or-no",
    ]);
    expect(read("url", "www.example")).toBe("not-a-url");
    expect(read("integer", "1.5")).toBe("not-whole");
  });
});

describe("texts", () => {
  it("when a cell holds control characters, odd spaces and an apostrophe before a formula, then only its text stays", () => {
    expect(cleanText("\ufeff Double\u00a0Honey\u0007 ")).toBe("Double Honey");
    expect(cleanText("'=1+1")).toBe("=1+1");
    expect(cleanText("'tis")).toBe("'tis");
  });

  it("when any text is cleaned, then cleaning it again changes nothing", () => {
    fc.assert(
      fc.property(fc.string({ unit: "binary" }), (text) => cleanText(cleanText(text)) === cleanText(text)),
    );
  });

  it("when characters are counted, then an accent or a flag counts once", () => {
    expect(characterCount("cafe\u0301 🇬🇧")).toBe(6);
  });

  it("when texts differ in case, accents and punctuation, then they fold alike", () => {
    expect(fold("Forêt-GREEN")).toBe(fold("foret green"));
  });

  it("when HTML is hostile, then only its words stay", () => {
    expect(plainText("<p>Wool &amp; <b>felt</b></p><script>alert(1)</script><ul><li>one<li>two</ul>")).toBe(
      "Wool & felt\n\n- one\n- two",
    );
    expect(plainText("a < b")).toBe("a < b");
  });
});
