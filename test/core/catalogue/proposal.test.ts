import { beside } from "../../../src/core/catalogue/proposal/known-values.js";
import { describe, expect, it } from "vitest";
import { saysWhere } from "../../../src/core/catalogue/vocabulary.js";
import { columnName } from "../../../src/core/catalogue/proposal/column-name.js";
import { withChannelColumns } from "../../../src/core/catalogue/proposal/channel-columns.js";
import { proposeSource } from "../../../src/core/catalogue/proposal/propose.js";
import { detectDateOrder, detectDecimalMark } from "../../../src/core/catalogue/proposal/sample-marks.js";
import type { SourceProposal } from "../../../src/core/catalogue/proposal/source-proposal.js";

/** A proposal for a table written as text, cells between bars. */
const propose = (table: string, language = "en"): SourceProposal => {
  const [header = [], ...rows] = table
    .trim()
    .split("\n")
    .map((line) => line.split("|").map((cell) => cell.trim()));
  return proposeSource({ header, rows }, language);
};

const readAs = (proposal: SourceProposal): Readonly<Record<string, string>> =>
  Object.fromEntries(proposal.attributes.map(({ attribute, expression }) => [attribute, expression]));

describe("columns that would say where goods are sold", () => {
  const cells = ["no", "yes", "no"];
  const readOf = (column: string): Readonly<Record<string, string>> =>
    readAs(
      proposeSource(
        { header: ["SKU", "Title", column], rows: cells.map((cell, at) => [`A-${at}`, `Thing ${at}`, cell]) },
        "en",
      ),
    );

  it.each(["Storefront listed", "Sold in packs of", "Not on web", "Exclude from sale", "Sell on market"])(
    "when a column is called %j, which says more than that, then it is the shop's own",
    (column) => {
      expect(Object.keys(readOf(column)).filter((attribute) => saysWhere.includes(attribute))).toEqual([]);
    },
  );

  it.each([
    ["Listed", "listed"],
    ["Keep off", "keep_off"],
    ["Sold in", "sell_in"],
  ])("when a column is called just %j, then it is %s", (column, attribute) => {
    expect(Object.keys(readOf(column))).toContain(attribute);
  });
});

describe("columns that name a channel", () => {
  const sample = {
    header: [
      ...["Code", "Title", "Price", "Market price", "In market", "Ref. (Market)", "Market-North price"],
      ...["Market north EAN", "Market note", "market note"],
    ],
    rows: [
      ["A-1", "Smoker", "12.00", "13.00", "yes", "0017", "14.00", "", "worn", "x"],
      ["A-2", "Veil", "9.00", "", "no", "0018", "", "9524000001016", "", ""],
      ["A-3", "Hive tool", "7.00", "8.00", "yes", "0019", "8.50", "", "", ""],
    ],
  };
  const proposed = withChannelColumns(sample, ["market", "market-north"], (own) => proposeSource(own, "en"));

  it("when a file has them, then they go to their channels, the longest name first, and the rest is as without them", () => {
    expect(readAs(proposed)).toEqual({ sku: "Code", name: "Title", price: "Price" });
    expect(proposed.channels?.map((one) => [one.channel, readAs({ ...proposed, ...one })])).toEqual([
      [
        "market",
        {
          price: "`Market price`",
          listed: "`In market`",
          ref: "`Ref. (Market)`",
          note: "`Market note`",
          note_2: "`market note`",
        },
      ],
      ["market-north", { price: "`Market-North price`", gtin: "`Market north EAN`" }],
    ]);
  });

  it("when the one column that could be the key names a channel, then it is a channel's own file, read as a whole", () => {
    const own = {
      header: ["Market SKU", "Market title", "Market price"],
      rows: [
        ["A-1", "Smoker", "12.00"],
        ["A-2", "Veil", "9.00"],
      ],
    };
    const plain = withChannelColumns(own, ["market"], (one) => proposeSource(one, "en"));
    expect([plain.keys, plain.channels]).toEqual([["sku"], undefined]);
  });

  it("when no channel of that name is in use, then they are columns like others", () => {
    const plain = withChannelColumns(sample, ["fair"], (own) => proposeSource(own, "en"));
    expect(plain).toEqual(proposeSource(sample, "en"));
  });
});

describe("what a column's name says", () => {
  it.each([
    ["Weight (kg)", { attribute: "weight", unit: "kg" }],
    ["Price EUR", { attribute: "price", currency: "EUR" }],
    ["Preis €", { attribute: "price", currency: "EUR" }],
    ["name_de", { attribute: "name", language: "de" }],
    ["Image 3", { attribute: "images", number: 3 }],
    ["productTitle", { attribute: "name" }],
    ["Artikelnummer", { attribute: "sku" }],
    ["Discription", { attribute: "description" }],
    ["Web shop colour", { attribute: "color" }],
    ["Zzz", { attribute: undefined }],
  ])("when it is %s, then it says %j", (column, expected) => {
    expect(columnName(column)).toMatchObject(expected);
  });
});

describe("proposals", () => {
  it("when names are usual, then each column finds its attribute and the rest are kept as the user's own", () => {
    const proposal = propose(`
      Item no | Title | Selling price | Qty | EAN | Colour | Shelf mark
      A-1 | Oak stool | 49.00 | 3 | 9524000001016 | oak | Q7
      A-2 | Oak bench | 89.00 | 1 | 9524000001023 | oak | Q8`);
    expect(readAs(proposal)).toEqual({
      sku: "`Item no`",
      name: "Title",
      price: "`Selling price`",
      quantity: "Qty",
      gtin: "EAN",
      color: "Colour",
      shelf_mark: "`Shelf mark`",
    });
    expect(proposal.attributes.filter(({ known }) => !known).map(({ attribute }) => attribute)).toEqual([
      "shelf_mark",
    ]);
    expect([proposal.keys, proposal.mode]).toEqual([["sku"], "both"]);
  });

  it("when names say nothing, then the shape of the values does", () => {
    const proposal = propose(`
      F1 | F2 | F3 | F4
      X100 | 9524000001016 | https://a.example/1.jpg | £49.00
      X200 | 9524000001023 | https://a.example/2.jpg | £89.00
      X300 | 9524000001030 | https://a.example/3.jpg | £9.50`);
    expect(readAs(proposal)).toEqual({ sku: "F1", gtin: "F2", images: "F3", price: "F4" });
  });

  it("when a name promises what the values are not, then the values win", () => {
    const proposal = propose(`
      Code | Barcode | EAN code
      A-1 | shelf 4 | 9524000001016
      A-2 | shelf 5 | 9524000001023`);
    expect(readAs(proposal)["gtin"]).toBe("`EAN code`");
  });

  it("when pictures stand in several columns, then they are one list", () => {
    const proposal = propose(`
      SKU | Name | Image 1 | Image 2 | Image 3
      A | Stool | https://a.example/1.jpg | https://a.example/2.jpg |
      B | Bench | https://a.example/3.jpg | |`);
    expect(readAs(proposal)["images"]).toBe("list(`Image 1`, `Image 2`, `Image 3`)");
  });

  it("when columns speak together, then they are read together", () => {
    const proposal = propose(`
      SKU | Size l x w x h | Weight lb | Weight oz | Level 1 | Level 2 | Price | Old price
      A | 30 x 20 x 12 cm | 2 | 4 | Garden | Tools | 20.00 | 25.00
      B | 40 x 20 x 10 cm | 1 | 12 | Garden | Pots | 30.00 |`);
    expect(readAs(proposal)).toMatchObject({
      depth: "side(`Size l x w x h`, 1)",
      height: "side(`Size l x w x h`, 3)",
      weight: 'compound(`Weight lb`, "lb", `Weight oz`, "oz")',
      category: "path(list(`Level 1`, `Level 2`))",
      price: "regular_price(Price, `Old price`)",
      sale_price: "reduced_price(Price, `Old price`)",
    });
  });

  it("when unit and currency have columns of their own, then they stand behind their numbers", () => {
    const proposal = propose(`
      SKU | Weight | Weight unit | Price | Currency
      A | 2 | kg | 20.00 | EUR
      B | 300 | g | 9.00 | GBP`);
    expect(readAs(proposal)).toMatchObject({
      weight: '"{Weight} {`Weight unit`}"',
      price: '"{Price} {Currency}"',
    });
  });

  it("when columns are in several languages and currencies, then each gets its mark", () => {
    const proposal = propose(`
      SKU | Title EN | Title DE | Price GBP | Price EUR
      A | Stool | Hocker | 20.00 | 24.00`);
    expect(Object.keys(readAs(proposal)).sort()).toEqual([
      "name",
      "name@de",
      "price@EUR",
      "price@GBP",
      "sku",
    ]);
  });

  it("when a category's levels are set apart by another mark, then the path is read by it", () => {
    const proposal = propose(`
      SKU | Category
      A | Garden / Tools / Spades
      B | Garden / Pots`);
    expect(readAs(proposal)["category"]).toBe('path(Category, "/")');
  });

  it("when pairs of columns name what members differ in, then they become options", () => {
    const proposal = propose(`
      SKU | Parent | Feature 1 name | Feature 1 value | Feature 2 name | Feature 2 value
      A-1 | A | Colour | red | Size | M
      A-2 | A | Colour | blue | Size | M`);
    expect(proposal.options).toEqual([
      { name: "Feature 1 name", value: "Feature 1 value" },
      { name: "Feature 2 name", value: "Feature 2 value" },
    ]);
  });

  it("when only a group's first row has the shared values, then that is how groups appear", () => {
    const proposal = propose(`
      SKU | Parent SKU | Title | Colour | Price
      A-1 | A | Fine Stool | red | 20.00
      A-2 | A | | blue | 21.00
      B-1 | B | Long Bench | red | 40.00
      B-2 | B | | blue | 41.00`);
    expect(proposal.groups).toEqual({ layout: "first-row", shared: ["name"] });
  });

  it("when groups have rows of their own, then the condition that tells them is found", () => {
    const proposal = propose(`
      SKU | Parent SKU | Kind | Title | Price
      A | | family | Fine Stool |
      A-1 | A | member | Fine Stool, red | 20.00
      A-2 | A | member | Fine Stool, blue | 21.00`);
    expect(proposal.groups).toEqual({ layout: "own-row", when: 'Kind = "family"' });
  });

  it("when further rows bring pictures alone, then they are understood as such", () => {
    const proposal = propose(`
      SKU | Title | Picture
      A | Stool | https://a.example/1.jpg
      A | | https://a.example/2.jpg
      B | Bench | https://a.example/3.jpg`);
    expect(proposal.furtherRows).toEqual(["images"]);
  });

  it("when there is no SKU, then known products are updated by barcode", () => {
    const proposal = propose(`
      EAN | Stock
      9524000001016 | 3
      9524000001016 | 4`);
    // A catalogue that has no product yet can only begin with these.
    expect([proposal.keys, proposal.mode]).toEqual([["sku"], "both"]);
    const sample = {
      header: ["EAN", "Stock"],
      rows: [
        ["9524000001016", "3"],
        ["9524000001023", "4"],
      ],
    };
    const known = beside(sample, { gtin: ["9524000001016"], sku: ["A"] });
    const update = proposeSource({ ...sample, known }, "en");
    expect([update.keys, update.mode, update.matched]).toEqual([["gtin"], "update", 0.5]);
  });

  it("when a list has a mark of its own between its values, then it alone is split by that", () => {
    const { attributes, listSeparator } = proposeSource(
      {
        header: ["SKU", "Features", "Parts"],
        rows: [
          ["A", "light|strong", "B-1; B-2"],
          ["C", "warm|soft|washable", ""],
          ["D", "blue|red", "B-3; B-4"],
        ],
      },
      "en",
    );
    expect(listSeparator).toBe("|");
    expect(attributes.find(({ attribute }) => attribute === "bundle_of")?.expression).toBe(
      'split(Parts, ";")',
    );
    expect(attributes.find(({ attribute }) => attribute === "features")?.expression).toBe("Features");
  });

  it("when headings and columns beside them say units, then none is lost, and none measures something else", () => {
    const { attributes, units } = propose(`
      No | Title | Box, in | Net g | Boxed lb | oz | Gewicht in g | Inhalt (ml)
      A-1 | Stool | 19 7/8 x 18 x 27 1/2 | 400 | 2 | 11 | 410 | 75
      A-2 | Bench | 30 x 22 x 14 | 900 | 4 | 9 | 910 | 80`);
    expect(units).toMatchObject({
      package_depth: "in",
      package_width: "in",
      weight: "g",
      unit_quantity: "ml",
    });
    expect(attributes.find(({ attribute }) => attribute === "package_weight")?.expression).toBe(
      'compound(`Boxed lb`, "lb", oz, "oz")',
    );
  });

  it("when a list only updates, then what it calls the goods is left to the catalogue", () => {
    const sample = {
      header: ["Part", "Goods", "Free"],
      rows: [
        ["K-1", "Knife", "3"],
        ["K-2", "Spoon", "4"],
      ],
    };
    const { keys, mode, leftOut, attributes } = proposeSource(
      { ...sample, known: beside(sample, { mpn: ["K-1", "K-2"] }) },
      "en",
    );
    expect([keys, mode, leftOut]).toEqual([["mpn"], "update", ["Goods"]]);
    expect(attributes.map(({ attribute }) => attribute)).toEqual(["mpn", "quantity"]);
  });

  it("when values of a cell are set apart by semicolons, then that is told", () => {
    expect(propose("SKU | Images\nA | https://a.example/1.jpg;https://a.example/2.jpg").listSeparator).toBe(
      ";",
    );
  });
});

describe("what sample cells prove", () => {
  it.each([
    [["12,50", "3", "1.149,00"], ","],
    [["12.50", "1,149.00"], "."],
    [["12.50", "12,50"], undefined],
    [["1,250", "3"], undefined],
  ])("when numbers are %j, then the decimal mark is %s", (cells, expected) => {
    expect(detectDecimalMark(cells)).toBe(expected);
  });

  it.each([
    [["25/03/2026", "04/03/2026"], "dmy"],
    [["03/25/2026"], "mdy"],
    [["04/03/2026"], undefined],
    [["25/03/2026", "03/25/2026"], undefined],
  ])("when days are %j, then their order is %s", (cells, expected) => {
    expect(detectDateOrder(cells)).toBe(expected);
  });
});
