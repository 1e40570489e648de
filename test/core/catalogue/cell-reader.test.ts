import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { cellReader, type CellDefaults, type CellNotes } from "../../../src/core/catalogue/cell-reader.js";
import { isProvedBy } from "../../../src/core/catalogue/item-reader.js";
import { MemoRoom } from "../../../src/core/text-memo.js";
import { joinList } from "../../../src/core/catalogue/list-cell.js";
import { CLEARED, isUnread, LIST_SEPARATOR, unread } from "../../../src/core/catalogue/record.js";
import { sentence } from "../../../src/workspace/wording.js";

const defaults: CellDefaults = {
  file: "shop.csv",
  units: { weight: "kg" },
  listSeparator: "|",
  clearWord: "(none)",
  currency: "GBP",
  decimalMark: ".",
};

const readCell = (attribute: string, cell: string, changed: Partial<CellDefaults> = {}) => {
  const notes: CellNotes = { findings: [], doubts: [] };
  const read = cellReader(
    { attribute, column: "Cell", from: { kind: "column", index: 0 } },
    { ...defaults, ...changed },
  );
  return { text: read(7, [cell], notes), notes };
};

describe("cells as their attribute's kind", () => {
  it.each([
    ["price", "12.5", "12.50 GBP"],
    ["price", "12.50", "12.50 GBP"],
    ["price@EUR", "12.50", "12.50 EUR"],
    ["price", "€12.50", "12.50 EUR"],
    ["weight", "2", "2 kg"],
    ["weight", "2.50", "2.5 kg"],
    ["weight", "40 g", "40 g"],
    ["quantity", "1,024", "1024"],
    ["tax_rate", "20 %", "20"],
    ["digital", "Ja", "yes"],
    ["sale_from", "24.12.2026", "2026-12-24"],
    ["isbn", "0-306-40615-2", "9780306406157"],
    [
      "images",
      "https://a.example/1.jpg|https://a.example/2.jpg",
      `https://a.example/1.jpg${LIST_SEPARATOR}https://a.example/2.jpg`,
    ],
    [
      "images",
      "https://a.example/1.jpg\nhttps://a.example/2.jpg",
      `https://a.example/1.jpg${LIST_SEPARATOR}https://a.example/2.jpg`,
    ],
    ["features", "one| two |", `one${LIST_SEPARATOR}two`],
    ["name", "", ""],
    ["name", "(none)", CLEARED],
    ["color", "red", "red"],
  ])("when %s holds %j, then its text is %j", (attribute, cell, expected) => {
    const { text, notes } = readCell(attribute, cell);
    expect([text, notes.findings, notes.doubts]).toEqual([expected, [], []]);
  });

  it("when cells repeat and are remembered, then each reads and tells what it does alone", () => {
    const cells = [
      "12.5",
      "€12.50",
      "2 kg",
      " red ",
      "Ã¼ber",
      "#REF!",
      "1.2E+12",
      "a|b",
      "(none)",
      "=1+1",
      "n/a",
    ];
    fc.assert(
      fc.property(
        fc.constantFrom("price", "weight", "color", "features", "gtin", "quantity", "name", "sale_from"),
        fc.array(fc.constantFrom(...cells), { minLength: 5, maxLength: 40 }),
        (attribute, column) => {
          const reading = { attribute, column: "Cell", from: { kind: "column", index: 0 } } as const;
          const remembering = cellReader(reading, defaults, new MemoRoom(1000));
          for (const cell of column) {
            const notes: CellNotes = { findings: [], doubts: [] };
            const text = remembering(7, [cell], notes);
            const alone = readCell(attribute, cell);
            expect([text, JSON.stringify(notes)]).toEqual([alone.text, JSON.stringify(alone.notes)]);
          }
        },
      ),
    );
  });

  it("when a formula failed among several values, then the others are kept and it is a doubt", () => {
    const { text, notes } = readCell("features", ["#REF!", "strong"].join(LIST_SEPARATOR));
    expect([text, notes.doubts.map(({ damage }) => damage)]).toEqual(["strong", ["formula"]]);
  });

  it("when a list came in the wrong encoding, then its letters are put right before its blanks, and told", () => {
    const { text, notes } = readCell("features", "30\u00c2\u00a0cm|wide");
    expect(text).toBe(`30 cm${LIST_SEPARATOR}wide`);
    expect(notes.findings.map(sentence).join()).toContain("encoding");
  });

  it("when the file has a decimal comma, then numbers are read by it", () => {
    expect(readCell("price", "1.149,50", { decimalMark: "," }).text).toBe("1149.50 GBP");
    expect(readCell("weight", "0,08", { decimalMark: "," }).text).toBe("0.08 kg");
  });

  it.each([
    ["price", "on request", 'price "on request": it is not a price, such as 12.50 or 12.50 GBP'],
    ["weight", "heavy", 'weight "heavy": it is not a measure in a known unit, such as 1.5 kg'],
    ["height", "12", 'height "12": it has no unit: name one in the source\'s units'],
    [
      "gtin",
      "9524000001017",
      'gtin "9524000001017": its check digit is wrong: compare it with the packaging',
    ],
    [
      "sale_from",
      "03/04/2026",
      'sale_from "03/04/2026": day and month can change places: say in its source which comes first (date_order: dmy or mdy)',
    ],
    ["price", "-4.00", 'price "-4.00": it is below zero, which it cannot be'],
    [
      "price",
      "0.00",
      'price "0.00": a price of nothing is how systems write that there is none: leave it blank',
    ],
    ["weight", "340 mm", 'weight "340 mm": its unit measures something else, as millimetres do for a weight'],
    ["width", "2 kg", 'width "2 kg": its unit measures something else, as millimetres do for a weight'],
    ["tax_rate", "200", 'tax_rate "200": it is a share and more than a hundred percent'],
    [
      "price@EUR",
      "12.50 GBP",
      "price@EUR \"12.50 GBP\": it is in another currency than the file's: name all that it has in the source's currency",
    ],
    [
      "available_from",
      "1899-12-30",
      'available_from "1899-12-30": no product was sold on that day: systems write it where there is none',
    ],
  ])(
    "when %s holds %j, then it is no value, told, and what was written is kept beside",
    (attribute, cell, expected) => {
      const { text, notes } = readCell(attribute, cell);
      expect(text).toBe(unread(cell));
      expect(notes.findings.map(sentence)).toEqual([expected]);
      expect(notes.findings[0]).toMatchObject({
        severity: "warning",
        place: { file: "shop.csv", row: 7, column: "Cell" },
      });
    },
  );
});

describe("what spreadsheets did to cells", () => {
  it.each([
    ["gtin", "9524000001016.0", "9524000001016", "decimal-point"],
    ["gtin", "9.524000001016E+12", "9524000001016", "scientific"],
    ["name", "MÃ¼ller", "Müller", "encoding"],
    ["height", "9”", "9 in", "quotes"],
    ["name", " Hive\u00a0tool ", "Hive tool", "spaces"],
    ["name", "500\u00c2\u00a0g honey", "500 g honey", "encoding"],
    ["description", "<p>500Â&nbsp;g</p>", "<p>500&nbsp;g</p>", "encoding"],
    ["price", "\u00c2£12.00", "12.00 GBP", "encoding"],
    ["gtin", '="9524000001016"', "9524000001016", "text-formula"],
    ["size", '="10-12"', "10-12", "text-formula"],
    ["quantity", "-3", "0", "oversold"],
    ["url", "https://a.example/two words.html", "https://a.example/two%20words.html", "address"],
    ["images", "https://a.example/a b.jpg", "https://a.example/a%20b.jpg", "address"],
  ])(
    "when %s holds %j, then it is read as %j and the repair is told",
    (attribute, cell, expected, damage) => {
      const { text, notes } = readCell(attribute, cell);
      expect(text).toBe(expected);
      expect(notes.findings).toMatchObject([
        { code: "repaired-value", severity: "advice", facts: { now: expected, damage } },
      ]);
    },
  );

  it.each([
    ["gtin", "9.524E+12", "9524000001016", "9525000001015"],
    ["size", "10-Dec", "10-12", "8-10"],
    ["name", "M\ufffdller", "Müller", "Mahler"],
  ])("when %s holds %j, then only the catalogue can say what it was", (attribute, cell, right, wrong) => {
    const { text, notes } = readCell(attribute, cell);
    expect(text).toBe(unread(cell));
    const [doubt] = notes.doubts;
    expect([right, wrong].map((existing) => doubt !== undefined && isProvedBy(doubt, existing))).toEqual([
      true,
      false,
    ]);
  });

  it("when a formula failed, then nothing proves what was meant", () => {
    const [doubt] = readCell("price", "#REF!").notes.doubts;
    expect([doubt?.damage, doubt && isProvedBy(doubt, "12.50 GBP")]).toEqual(["formula", false]);
  });

  it("when a text merely looks like a date, then it stays a text where no size is meant", () => {
    expect(readCell("name", "10-Dec").text).toBe("10-Dec");
  });

  it("when a barcode is for use within one shop, then that is told and it is kept", () => {
    const { text, notes } = readCell("gtin", "2000000000008");
    expect([text, notes.findings[0]?.code]).toEqual(["2000000000008", "restricted-gtin"]);
  });
});

describe("several values in one cell", () => {
  it("when any values are joined for a sheet, then they are read back as they were", () => {
    const item = fc
      .string({ unit: fc.constantFrom("a", "b", "|", "\\", " ", ",", ";"), minLength: 1, maxLength: 8 })
      .map((text) => text.trim())
      .filter((text) => text !== "" && text !== "(none)");
    fc.assert(
      fc.property(fc.array(item, { minLength: 1, maxLength: 5 }), (items) => {
        expect(readCell("features", joinList(items, "|")).text.split(LIST_SEPARATOR)).toEqual(items);
      }),
    );
  });
});

describe("web addresses of one cell", () => {
  const addresses = (cell: string, separator = "|") => {
    const { text, notes } = readCell("images", cell, { listSeparator: separator });
    return [text.split(LIST_SEPARATOR), notes.findings.length];
  };

  it.each([
    ["https://a.example/a b.jpg|https://a.example/c.jpg", "|"],
    ["https://a.example/a b.jpg https://a.example/c.jpg", "|"],
    ["https://a.example/a b.jpg, https://a.example/c.jpg", ","],
  ])("when an address within %j has a blank, then it stays one address, with its code", (cell, separator) => {
    expect(addresses(cell, separator)).toEqual([
      ["https://a.example/a%20b.jpg", "https://a.example/c.jpg"],
      1,
    ]);
  });

  it("when the separator stands within an address, then no piece of it becomes a picture", () => {
    expect(addresses("https://a.example/small,red.jpg,https://a.example/b.jpg", ",")).toEqual([
      ["https://a.example/small,red.jpg", "https://a.example/b.jpg"],
      0,
    ]);
  });

  it("when any texts stand in a list of pictures, then whole addresses are taken or none", () => {
    const piece = fc.string({ unit: fc.constantFrom("a", "1", " ", ",", "/", ".", "é", "|"), maxLength: 6 });
    const address = piece.map((text) => `https://a.example/${text}.jpg`);
    fc.assert(
      fc.property(fc.array(fc.oneof(address, piece), { minLength: 1, maxLength: 4 }), (items) => {
        const { text } = readCell("images", items.join("|"));
        if (text === "" || isUnread(text)) return;
        for (const one of text.split(LIST_SEPARATOR))
          expect(new URL(one).href.startsWith("https://a.example/")).toBe(true);
      }),
    );
  });
});

describe("several values where one is due", () => {
  const several = (attribute: string, ...items: readonly string[]) => {
    const { text, notes } = readCell(attribute, items.join(LIST_SEPARATOR));
    return [text, notes.findings.map(({ code }) => code)];
  };

  it.each([
    ["price", ["12.00", "13.00"], unread("12.00 | 13.00"), ["unreadable-value"]],
    ["price", ["12.00", "12.00"], "12.00 GBP", []],
    ["name", ["Stool", "Bench"], unread("Stool | Bench"), ["unreadable-value"]],
    ["material", ["oak", "steel"], "oak, steel", ["repaired-value"]],
    ["category", ["Garden > Tools", "Gifts"], "Garden > Tools", ["repaired-value"]],
    ["category", ["n/a", "Gifts"], "Gifts", ["unreadable-value", "repaired-value"]],
    ["features", ["light", "", "strong"], `light${LIST_SEPARATOR}strong`, []],
  ])("when %s comes as %j, then it is %j", (attribute, items, text, codes) => {
    expect(several(attribute, ...items)).toEqual([text, codes]);
  });
});
