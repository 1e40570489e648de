import { openMarksIn } from "../../../src/core/catalogue/proposal/sample-marks.js";
import type { DecimalMark } from "../../../src/core/values/number.js";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readFraction, split } from "../../../src/core/values/compound.js";
import { beforeDate, hasLostLetters, isFormulaFault } from "../../../src/core/values/damage.js";
import { repairEncoding } from "../../../src/core/values/garbled.js";
import { readDate } from "../../../src/core/values/date.js";
import { decimal, decimalText } from "../../../src/core/values/decimal.js";
import { checkDigit, gtin14, isRestricted, readGtin } from "../../../src/core/values/gtin.js";
import { readIsbn } from "../../../src/core/values/isbn.js";
import { convert, measure } from "../../../src/core/values/measure.js";
import { readValue, type ReadingDefaults } from "../../../src/core/values/read.js";
import { canonicalText } from "../../../src/core/values/show.js";
import { cleanText, isTidy } from "../../../src/core/values/text.js";
import { unitOf, type Unit } from "../../../src/core/values/units.js";
import type { Kind } from "../../../src/core/values/value.js";
import { readYesNo } from "../../../src/core/values/yes-no.js";

const unit = (code: string): Unit => {
  const found = unitOf(code);
  if (found === undefined) throw new Error(`no unit ${code}`);
  return found;
};

const amount = (text: string) => {
  const found = decimal(text);
  if (found === undefined) throw new Error(`no number ${text}`);
  return found;
};

const reading = (kind: Kind, text: string, defaults?: ReadingDefaults): string => {
  const read = readValue(kind, text, defaults);
  if ("problem" in read) return read.problem;
  return canonicalText(read.value) + (read.repaired === undefined ? "" : ` (${read.repaired})`);
};

const gtins = fc
  .tuple(fc.constantFrom(7, 11, 12, 13), fc.bigInt({ min: 1n, max: 10n ** 13n - 1n }))
  .map(([length, number]) => {
    const digits = number.toString().padStart(length, "0").slice(-length);
    return digits + String(checkDigit(digits));
  });

describe("barcodes that a spreadsheet had", () => {
  it("when any right GTIN is read, then it is taken as it stands", () => {
    fc.assert(
      fc.property(gtins, (gtin) => {
        expect(readGtin(gtin)).toEqual({ digits: gtin });
      }),
    );
  });

  it("when one digit of any GTIN is changed, then it is not taken", () => {
    fc.assert(
      fc.property(gtins, fc.nat(13), fc.integer({ min: 1, max: 9 }), (gtin, at, add) => {
        const index = at % gtin.length;
        const digit = (Number(gtin[index]) + add) % 10;
        const wrong = gtin.slice(0, index) + String(digit) + gtin.slice(index + 1);
        expect(readGtin(wrong)).toEqual({ problem: "gtin-check-digit" });
      }),
    );
  });

  it("when zeros before a GTIN-12 were lost, then the check digit proves them and they come back", () => {
    const short = fc.integer({ min: 1_000_000, max: 9_999_999_999 }).map((number) => {
      const digits = String(number).padStart(11, "0");
      return digits + String(checkDigit(digits));
    });
    fc.assert(
      fc.property(short, (gtin) => {
        const without = gtin.replace(/^0+/, "");
        const read = readGtin(without);
        if (without.length >= 9 && without.length <= 11)
          expect(read).toEqual({ digits: gtin, repaired: "leading-zeros" });
        else if ("digits" in read) expect(gtin14(read.digits)).toBe(gtin14(gtin));
      }),
    );
  });

  it.each([
    ["9.52400000101600E+12", "gtin-scientific"],
    ["9.524000001016E+12", "9524000001016 (scientific)"],
    ["9,524000001016E12", "9524000001016 (scientific)"],
    ["9.52400E+12", "gtin-scientific"],
    ["9524000001016.0", "9524000001016 (decimal-point)"],
    ["952-4000-001016", "9524000001016"],
    ["95240000010I6", "gtin-characters"],
    ["95240000010161", "gtin-check-digit"],
    ["123456", "gtin-length"],
  ])("when %s is read as a GTIN, then it is %s", (text, expected) => {
    expect(reading("gtin", text)).toBe(expected);
  });

  it.each([
    ["0200000000002", true],
    ["2000000000008", true],
    ["0412345678903", true],
    ["9524000001016", false],
    ["20000004", true],
    ["95240005", false],
  ])("when %s is asked for, then that it is for use within walls only is %s", (digits, expected) => {
    expect(isRestricted(digits)).toBe(expected);
  });
});

describe("book numbers", () => {
  it.each([
    ["979-9-0000-0001-5", "gtin-check-digit"],
    ["0-306-40615-2", "9780306406157"],
    ["0306406152", "9780306406157"],
    ["080442957X", "9780804429573"],
    ["080442957x", "9780804429573"],
    ["0306406153", "gtin-check-digit"],
    ["9780306406157", "9780306406157"],
  ])("when %s is read, then it is %s", (text, expected) => {
    const read = readIsbn(text);
    expect("digits" in read ? read.digits : read.problem).toBe(expected);
  });
});

describe("letters and dates that were lost on the way", () => {
  it("when UTF-8 was read as Windows-1252, then the text comes back as it was", () => {
    const letters = fc.string({
      unit: fc.constantFrom(..."abc äöüßéèñçåøž–’€“”…"),
      minLength: 1,
      maxLength: 20,
    });
    const garbled = (text: string): string => new TextDecoder("windows-1252").decode(Buffer.from(text));
    fc.assert(
      fc.property(letters, (text) => {
        const bytes = Buffer.from(text);
        // Bytes that Windows-1252 has no letter for are lost in a spreadsheet, too.
        fc.pre(![0x81, 0x8d, 0x8f, 0x90, 0x9d, 0xa0].some((byte) => bytes.includes(byte)));
        expect(repairEncoding(garbled(text)) ?? garbled(text)).toBe(text);
      }),
    );
  });

  it.each(["Café", "Müller & Söhne", "naïve", "Ça va", "plain"])(
    "when %s is right, then nothing is repaired",
    (text) => {
      expect(repairEncoding(text)).toBeUndefined();
    },
  );

  it("when a letter is the sign for a lost one, then that is seen", () => {
    expect([hasLostLetters("M\ufffdller"), hasLostLetters("Müller")]).toEqual([true, false]);
  });

  it.each([
    ["10-Dec", "10-12"],
    ["Dec-10", "10-12"],
    ["12. Okt", "10/12"],
    ["2026-12-10", "12-10"],
    ["2026-03-04 00:00:00", "3/4"],
  ])("when a size became %s, then %s is among what it can have been", (text, expected) => {
    expect(beforeDate(text)).toContain(expected);
  });

  it.each(["10-12", "XL", "10 Decimal", "12 months", "2026"])(
    "when %s is read, then it is no date",
    (text) => {
      expect(beforeDate(text)).toEqual([]);
    },
  );

  it.each([
    ["#N/A", true],
    ["#ref!", true],
    ["#10 screw", false],
    ["N/A", false],
  ])("when a cell says %s, then a formula failed there: %s", (text, expected) => {
    expect(isFormulaFault(text)).toBe(expected);
  });
});

describe("measures in two units", () => {
  it.each([
    ["5 lb 3 oz", "83 oz"],
    ["5lb 3.5oz", "83.5 oz"],
    ["5' 9\"", "69 in"],
    ["1 kg 250 g", "1250 g"],
    ["18 1/8 in", "18.125 in"],
    ['18 1/8"', "18.125 in"],
    ["½ in", "0.5 in"],
    ["2½ in", "2.5 in"],
    ["10”", "10 in (quotes)"],
    ["3 oz 5 lb", "not-a-measure"],
    ["about 3 kg", "not-a-measure"],
    ["1/0 in", "not-a-measure"],
  ])("when %s is read, then it is %s", (text, expected) => {
    expect(reading("measure", text)).toBe(expected);
  });

  it("when any weight is split into pounds and ounces, then the rest is below a pound and the sum is the weight", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 10_000_000 }), fc.nat(2), (thousandths, decimals) => {
        const ounces = measure(amount(String(thousandths)).div(1000), unit("oz"));
        const parts = split(ounces, unit("lb"), unit("oz"), decimals);
        if (parts === undefined) throw new Error("not split");
        expect(parts.rest.amount.lessThan(16)).toBe(true);
        expect(parts.whole.amount.isInteger()).toBe(true);
        const sum = parts.whole.amount.times(16).plus(parts.rest.amount);
        expect(sum.equals(ounces.amount.toDecimalPlaces(decimals))).toBe(true);
      }),
    );
  });

  it("when a rest rounds up to a whole larger unit, then it is carried", () => {
    const parts = split(measure(amount("31.97"), unit("oz")), unit("lb"), unit("oz"), 1);
    expect([parts?.whole, parts?.rest].map((part) => canonicalText(part))).toEqual(["2 lb", "0 oz"]);
    const feet = split(measure(amount("1.9999"), unit("ft")), unit("ft"), unit("in"), 0);
    expect([feet?.whole, feet?.rest].map((part) => canonicalText(part))).toEqual(["2 ft", "0 in"]);
  });

  it("when units are of other dimensions, then nothing is split", () => {
    expect(split(measure(amount("1"), unit("kg")), unit("ft"), unit("in"), 0)).toBeUndefined();
  });

  it("when a length is converted there and back, then not a digit is lost", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 10 ** 9 }), (number) => {
        const inches = measure(amount(String(number)).div(64), unit("in"));
        const there = convert(inches, unit("mm"));
        const back = there === undefined ? undefined : convert(there, unit("in"));
        expect(back?.amount.equals(inches.amount)).toBe(true);
      }),
    );
  });

  it.each([
    ["3/4", "0.75"],
    ["1 1/64", "1.015625"],
    ["¾", "0.75"],
    ["7⅝", "7.625"],
  ])("when the fraction %s is read, then it is exactly %s", (text, expected) => {
    const value = readFraction(text);
    expect(value === undefined ? "" : decimalText(value)).toBe(expected);
  });
});

describe("days", () => {
  it.each([
    ["2026-03-04", undefined, "2026-03-04"],
    ["2026-03-04T10:15:00Z", undefined, "2026-03-04"],
    ["2026/3/4", undefined, "2026-03-04"],
    ["04.03.2026", undefined, "2026-03-04"],
    ["04.03.2026", "mdy", "2026-03-04"],
    ["03.25.2026", "mdy", "2026-03-25"],
    ["03.25.2026", undefined, "2026-03-25"],
    ["04-03-2026", undefined, ""],
    ["04/03/2026", undefined, ""],
    ["04/03/2026", "dmy", "2026-03-04"],
    ["04/03/2026", "mdy", "2026-04-03"],
    ["25/03/2026", undefined, "2026-03-25"],
    ["03/25/2026", undefined, "2026-03-25"],
    ["5 March 2026", undefined, "2026-03-05"],
    ["29/02/2026", undefined, ""],
    ["29/02/2028", undefined, "2028-02-29"],
    ["31.11.2026", undefined, ""],
  ] as const)("when %s is read in the order %s, then it is the day %s", (text, order, expected) => {
    expect(readDate(text, order)?.iso ?? "").toBe(expected);
  });
});

describe("yes and no", () => {
  it.each(["Yes", "Y", "true", "1", "x", "JA", "oui", "sí", "✓"])(
    "when a cell says %s, then it is yes",
    (text) => {
      expect(readYesNo(text)).toBe(true);
    },
  );
  it.each(["no", "N", "FALSE", "0", "nein", "non", "✗"])("when a cell says %s, then it is no", (text) => {
    expect(readYesNo(text)).toBe(false);
  });
  it.each(["maybe", "", "yess"])("when a cell says %j, then it is neither", (text) => {
    expect(readYesNo(text)).toBeUndefined();
  });
});

describe("what spreadsheets show of a failed formula", () => {
  it.each([
    "#N/V",
    "#NV",
    "#N/D",
    "#BEZUG!",
    "#¡REF!",
    "#VALEUR!",
    "#WAARDE!",
    "#RIF!",
    "#ADR!",
    "#DZIEL/0!",
  ])("when a cell shows %s, then it is a fault in any case, and no text that begins so is", (shown) => {
    expect([
      isFormulaFault(shown),
      isFormulaFault(shown.toLowerCase()),
      isFormulaFault(`${shown} 5`),
    ]).toEqual([true, true, false]);
  });
  it.each(["#1 seller", "#blue", "N/A", "Err:5", "#"])("when it shows %s, then it is none", (shown) =>
    expect(isFormulaFault(shown)).toBe(false),
  );
  it("when it shows a numbered fault, then it is one", () => expect(isFormulaFault("Err:502")).toBe(true));
});

describe("signs of which nothing is seen", () => {
  const unseen = fc.constantFrom("\u00ad", "\u200b", "\u200d", "\u200e", "\u2060", "\ufeff");

  it("when they stand anywhere in a text of European letters, then it is the text without them", () => {
    const text = fc.string({ unit: fc.constantFrom(..."aé ßЖω1-."), minLength: 1 }).map((one) => `x${one}x`);
    fc.assert(
      fc.property(text, fc.array(fc.tuple(fc.nat(), unseen), { maxLength: 4 }), (plain, signs) => {
        let spoiled = plain;
        for (const [at, sign] of signs) {
          const place = at % (spoiled.length + 1);
          spoiled = spoiled.slice(0, place) + sign + spoiled.slice(place);
        }
        expect(cleanText(spoiled)).toBe(plain);
      }),
    );
  });

  it.each(["👩\u200d🌾 at work", "❤\ufe0f\u200d🔥", "می\u200cخواهم", "क्\u200dष"])(
    "when a script or a picture is written with one, then it stays: %s",
    (text) => expect(cleanText(text)).toBe(text),
  );
});

describe("numbers with another mark than the file's", () => {
  const mark = fc.constantFrom<DecimalMark>(".", ",");
  const other = (one: DecimalMark): DecimalMark => (one === "." ? "," : ".");

  it("when all that it can be is one number, then it is read and told; three digits behind one mark are not", () => {
    fc.assert(
      fc.property(
        mark,
        fc.integer({ min: 1, max: 999 }),
        fc.integer({ min: 1, max: 4 }),
        (own, whole, places) => {
          const digits = "1234".slice(0, places);
          const defaults = { decimalMark: own, currency: "EUR", openMarks: ",." } as const;
          const found = readValue("decimal", `${whole}${other(own)}${digits}`, defaults);
          if (places === 3) expect(found).toEqual({ problem: "two-ways-number" });
          else expect(found).toMatchObject({ repaired: "decimal-mark" });
        },
      ),
    );
  });

  it.each([
    ["1.249,50", ".", "1249.5"],
    ["1'249,50", ".", "1249.5"],
    ["1’249.50", ".", "1249.5"],
    ["0,080", ".", "0.08"],
    ["0,08", ".", "0.08"],
    ["1.2.3", ".", "not-a-number"],
    ["24.900000000000002", ".", "24.9"],
    ["12.40000000000001", ".", "12.4"],
    ["0.333333333333333333", ".", "0.333333333333333333"],
  ] as const)("when %s is read under the mark %s, then it comes to %s", (text, own, expected) => {
    const found = readValue("decimal", text, { decimalMark: own });
    expect("problem" in found ? found.problem : canonicalText(found.value)).toBe(expected);
  });

  it.each<readonly [readonly string[], "." | "," | undefined, string]>([
    // Prices with pence, and one that has three digits: no other has.
    [["12.50", "9.90", "1.399"], ".", "."],
    // Kilograms to the gram are usual here.
    [["0.340", "1.250", "2.125"], ".", ""],
    // Thousands are set apart in this column, so that one more is no wonder.
    [["1,249.50", "12.50", "1,172"], ".", "."],
    // They are not: others of four digits stand without a mark.
    [["1249.50", "12.50", "1,172"], ".", ".,"],
    [["12,50", "14.04", "1.257"], ",", ",."],
    [["1.257", "3.400"], undefined, ",."],
  ])("when a column has %j under the mark %s, then the marks %j are open", (cells, own, expected) => {
    expect(openMarksIn(cells, { mark: own, isStated: false, areTyped: false })).toBe(expected);
  });
});

describe("tidy texts", () => {
  it("when any text is cleaned, then it is tidy, and cleaning again changes nothing", () => {
    const text = fc.string({
      unit: fc.constantFrom(
        "a",
        " ",
        "\u00a0",
        "\t",
        "\n",
        "\r",
        "\u0000",
        "'",
        "=",
        "é",
        "\u2003",
        "\ufeff",
      ),
    });
    fc.assert(
      fc.property(text, (given) => {
        const cleaned = cleanText(given);
        expect(cleanText(cleaned)).toBe(cleaned);
        if (isTidy(given)) expect(cleaned).toBe(given);
      }),
    );
  });

  it("when any text is read as any kind, then it is a value or a stated problem, in time", () => {
    const kinds = [
      "integer",
      "decimal",
      "money",
      "measure",
      "date",
      "yes-no",
      "url",
      "gtin",
      "isbn",
    ] as const;
    const hostile = fc.string({
      unit: fc.constantFrom(..."0123456789.,'-+eE xX/½\"″ kglb£€:"),
      maxLength: 200,
    });
    fc.assert(
      fc.property(fc.constantFrom(...kinds), hostile, (kind, text) => {
        const read = readValue(kind, text, {
          decimalMark: ",",
          currency: "EUR",
          unit: "kg",
          dateOrder: "mdy",
        });
        if ("problem" in read) expect(read.problem).toMatch(/^[a-z-]+$/);
        else expect(reading(kind, canonicalText(read.value))).not.toMatch(/^not-|^gtin-/);
      }),
      { numRuns: 500 },
    );
  });
});
