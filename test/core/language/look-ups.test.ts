import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { lookUpTable } from "../../../src/core/language/look-up-table.js";
import { decimal, whole } from "../../../src/core/values/decimal.js";
import { ratesOf } from "../../../src/core/values/rates.js";
import { readValue } from "../../../src/core/values/read.js";
import { shownText } from "../../../src/core/values/show.js";
import type { Value } from "../../../src/core/values/value.js";

const day = (iso: string) => ({ kind: "date", iso }) as const;

const valueOf = (kind: "measure" | "money", text: string): Value => {
  const reading = readValue(kind, text);
  if (!("value" in reading) || reading.value === undefined) throw new Error(`${text} is no ${kind}`);
  return reading.value;
};

const rate = (text: string) => decimal(text) ?? whole(0);

describe("bands that are asked for one after the other", () => {
  const rows = [
    ["DE", "GB", "1 kg", "6.50 EUR"],
    ["", "GB", "1 kg", "4.00 EUR"],
    ["", "", "1 kg", "3.20 EUR"],
  ];
  const table = () => lookUpTable("parcels", ["from", "to", "up_to", "cost"], rows);
  const keys = fc.array(fc.constantFrom("", "DE", "GB"), { maxLength: 2 });

  it("when any were asked for before, then the next is found as if none had been", () => {
    const kilo = valueOf("measure", "1 kg");
    const cost = (asked: ReturnType<typeof table>, key: readonly string[]): string =>
      shownText(asked.band(kilo, key)?.cells[3]) ?? "none";
    fc.assert(
      fc.property(fc.array(keys, { minLength: 1, maxLength: 6 }), (all) => {
        const used = table();
        for (const one of all) expect(cost(used, one)).toBe(cost(table(), one));
      }),
      { examples: [[[[], [""], [], ["", ""], [""]]]] },
    );
  });
});

describe("the user's own tables", () => {
  const colours = lookUpTable(
    "colours",
    ["our", "german", "number"],
    [
      ["Moss green", "moosgrün", "6"],
      ["Café crème", "milchkaffee", "8"],
      ["moss green", "moosgrün, klein", "9"],
    ],
  );

  it.each([
    ["Moss green", "moosgrün"],
    ["moss green", "moosgrün, klein"],
    ["MOSS  GREEN", "moosgrün"],
    ["cafe creme", "milchkaffee"],
  ])(
    "when %s is looked for, then the row with just that counts, or the first where case, accents and spaces do not matter",
    (key, expected) => {
      expect(colours.row([key])?.cells[1]).toBe(expected);
    },
  );

  it("when no row has the key, then none is found", () => {
    expect(colours.row(["oak"])).toBeUndefined();
  });

  it("when a column holds numbers only, then its cells are numbers", () => {
    expect(colours.column("number")).toMatchObject({ index: 2, kind: "number" });
    expect(colours.column("german")).toMatchObject({ index: 1, kind: "text" });
    expect(colours.column("french")).toBeUndefined();
  });

  it("when a table is asked by two keys, then both columns must have them", () => {
    const table = lookUpTable(
      "classes",
      ["country", "size", "class"],
      [
        ["GB", "small", "A"],
        ["GB", "large", "B"],
        ["DE", "small", "C"],
      ],
    );
    expect(table.row(["gb", "large"])?.cells[2]).toBe("B");
    expect(table.row(["DE", "large"])).toBeUndefined();
  });
});

describe("bands", () => {
  const parcels = lookUpTable(
    "parcels",
    ["country", "up_to", "cost"],
    [
      ["DE", "1 kg", "6.50 EUR"],
      ["", "500 g", "1.80 GBP"],
      ["", "", "5.40 GBP"],
    ],
  );
  const cost = (weight: string, country: string): string =>
    shownText(parcels.band(valueOf("measure", weight), [country])?.cells[2]);

  it.each([
    ["1 kg", "DE", "6.50 EUR"],
    ["1000 g", "DE", "6.50 EUR"],
    ["1001 g", "DE", "5.40 GBP"],
    ["500 g", "GB", "1.80 GBP"],
    ["0.501 kg", "GB", "5.40 GBP"],
    ["2 lb", "GB", "5.40 GBP"],
  ])("when %s goes to %s, then the first row whose limit holds it is taken", (weight, country, expected) => {
    expect(cost(weight, country)).toBe(expected);
  });

  it("when limits share a dimension and costs do not share a currency, then that is known", () => {
    expect(parcels.column("up_to")).toMatchObject({ kind: "measure", dimension: "mass" });
    expect(parcels.column("cost")?.currency).toBeUndefined();
  });

  it("when a value is of another kind than the limits, then it is in none but the open band", () => {
    const closed = lookUpTable("closed", ["up_to", "class"], [["1 kg", "A"]]);
    expect(closed.band(valueOf("measure", "5 cm"), [])).toBeUndefined();
    expect(closed.band(whole(0), [])).toBeUndefined();
  });

  it("when any limits in order are asked for any number, then the band is the first that is not below it", () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 0, max: 1000 }), { minLength: 1, maxLength: 20 }),
        fc.integer({ min: -5, max: 1005 }),
        (limits, asked) => {
          const sorted = [...limits].sort((a, b) => a - b);
          const table = lookUpTable(
            "any",
            ["up_to", "row"],
            sorted.map((limit, row) => [String(limit), `r${row}`]),
          );
          const expected = sorted.findIndex((limit) => asked <= limit);
          expect(table.band(whole(asked), [])?.cells[1]).toBe(expected < 0 ? undefined : `r${expected}`);
        },
      ),
    );
  });
});

describe("exchange rates", () => {
  const rates = ratesOf([
    { day: "2026-02-01", from: "GBP", to: "EUR", rate: rate("1.20") },
    { day: "2026-01-01", from: "GBP", to: "EUR", rate: rate("1.25") },
    { day: "2026-03-01", from: "EUR", to: "GBP", rate: rate("0.80") },
    { day: "2026-01-01", from: "GBP", to: "NOK", rate: rate("13.5") },
  ]);
  const found = (from: string, to: string, iso: string): string => {
    const known = rates.find(from, to, day(iso));
    return known?.times.div(known.by).toFixed() ?? "none";
  };

  it.each([
    ["GBP", "EUR", "2026-01-15", "1.25"],
    ["GBP", "EUR", "2026-02-01", "1.2"],
    ["GBP", "EUR", "2025-12-31", "none"],
    // Stated the other way round since then: the later day counts.
    ["GBP", "EUR", "2026-03-02", "1.25"],
    ["EUR", "GBP", "2026-01-15", "0.8"],
    ["NOK", "GBP", "2026-01-15", "0.07407407407407407407407407407407407407407"],
    ["GBP", "GBP", "1999-01-01", "1"],
    ["EUR", "NOK", "2026-03-02", "none"],
  ])("when %s in %s is asked for on %s, then it is %s", (from, to, iso, expected) => {
    expect(found(from, to, iso)).toBe(expected);
  });
});
