import { describe, expect, it } from "vitest";
import { corrections } from "../../../src/core/learning/corrections.js";
import { colourLegend } from "../../../src/core/learning/colour-legend.js";
import { headOfSheet, legendOf } from "../../../src/core/learning/head-of-sheet.js";
import { learnChannel } from "../../../src/core/learning/learn-channel.js";
import type { LearnedChannel } from "../../../src/core/learning/learned.js";
import type { Paper } from "../../../src/core/learning/paper.js";
import { dropDown, sheetOf, tableOf } from "../../kit/papers.js";

const learned = (...papers: readonly Paper[]): LearnedChannel =>
  learnChannel(papers, { corrections: corrections([]), attributes: [] });

const facts = (channel: LearnedChannel, label: string): Readonly<Record<string, string>> =>
  Object.fromEntries(
    [...(channel.fields.find((field) => field.label === label)?.facts ?? [])].map(([fact, { value }]) => [
      fact,
      value,
    ]),
  );

const labels = ["SKU", "Title", "Price", "Colour"];

describe("the head of a sheet", () => {
  it("when a table stands in the corner, then its first row names the columns", () => {
    expect(headOfSheet(tableOf([labels, ["A-1", "Spade", "12.50", "Green"]]))).toMatchObject({
      named: 0,
      firstRow: 1,
      examples: 1,
      width: 4,
    });
  });

  it("when words stand above it, then they are passed over", () => {
    const rows = [
      ["Fill in from row 7 on"],
      [],
      ["Goods of the spring"],
      ["", ...labels],
      ["", "Required", "Required", "Optional", "Optional"],
    ];
    expect(headOfSheet(sheetOf(rows, { rules: [dropDown(4, 6, ["Green", "Grey"])] }))).toMatchObject({
      named: 3,
      firstRow: 6,
    });
  });

  it("when codes, labels, needs, kinds and guidance follow each other, then each is known for what it is", () => {
    const head = headOfSheet(
      tableOf([
        ["x_sku", "x_title", "x_price", "x_colour"],
        ["Item number", "Item title", "Selling price", "Colour as sold"],
        ["M", "M", "M", "O"],
        ["AN20", "AN80", "N(8,2)", "AN30"],
        ["At most 20 characters", "At most 80 characters", "Number with 2 decimals", "At most 30 characters"],
        ["A-1", "Spade", "12.50", "Green"],
      ]),
    );
    expect(head?.rows.map(({ role }) => role)).toEqual(["codes", "labels", "needs", "kinds", "guidance"]);
    expect(head).toMatchObject({ firstRow: 5, examples: 1 });
  });

  it("when headings are merged over two rows, then each column has its own name", () => {
    const sheet = sheetOf(
      [
        ["SKU", "Title", "Price", "Pictures", "", "", "Size", ""],
        ["", "", "", "1", "2", "3", "Width (cm)", "Height (cm)"],
      ],
      {
        merges: [
          ...[0, 1, 2].map((column) => ({ row: 0, lastRow: 1, column, lastColumn: column })),
          { row: 0, lastRow: 0, column: 3, lastColumn: 5 },
          { row: 0, lastRow: 0, column: 6, lastColumn: 7 },
        ],
      },
    );
    const channel = learned(sheet);
    expect(channel.fields.map(({ label }) => label)).toEqual([
      "SKU",
      "Title",
      "Price",
      "Pictures",
      "Width (cm)",
      "Height (cm)",
    ]);
    expect(facts(channel, "Pictures")).toMatchObject({ list: "yes", max_items: "3" });
    expect(facts(channel, "Width (cm)")).toMatchObject({ kind: "measure", unit: "cm" });
  });

  it("when columns of one name stand under two groups, then the groups tell them apart", () => {
    const sheet = sheetOf(
      [
        ["", "Weight", "", "Parcel", "", ""],
        ["SKU", "Value", "Unit", "Value", "Unit", "Title"],
      ],
      {
        merges: [
          { row: 0, lastRow: 0, column: 1, lastColumn: 2 },
          { row: 0, lastRow: 0, column: 3, lastColumn: 4 },
        ],
      },
    );
    expect(learned(sheet).fields.map(({ label }) => label)).toEqual([
      "SKU",
      "Weight: Value",
      "Weight: Unit",
      "Parcel: Value",
      "Parcel: Unit",
      "Title",
    ]);
  });

  it("when colours have a legend, by a coloured cell or by their names, then they say what is needed", () => {
    const head = [
      { text: "SKU", fill: "F4B183" },
      { text: "Title", ink: "C00000" },
      { text: "Colour", fill: "D9D9D9" },
    ];
    const sheet = sheetOf([[{ text: "Must be filled", fill: "F4B183" }], [], head]);
    const about = sheetOf([["Columns in red letters are recommended, grey ones are optional."]], {
      sheet: "About",
    });
    const found = headOfSheet(sheet)!;
    const legend = colourLegend([sheet, about], sheet, found);
    expect([...legend].map(([colour, { need }]) => [colour, need])).toEqual([
      ["fill F4B183", "required"],
      ["ink C00000", "recommended"],
      ["fill D9D9D9", "optional"],
    ]);
  });

  it("when only some headings bear a mark, then the others may be left out; where none does, it is a question", () => {
    const marked = learned(tableOf([["SKU*", "Title*", "Colour", "Size"]]));
    expect(facts(marked, "Colour")).toMatchObject({ need: "optional" });
    expect(marked.fields[2]!.facts.get("need")!.confidence).toBeGreaterThan(0.85);
    expect(
      learned(tableOf([["SKU", "Title", "Colour"]])).fields[2]!.facts.get("need")!.confidence,
    ).toBeLessThan(0.5);
  });

  it("when letters stand below headings and a legend on another sheet, then the legend counts", () => {
    const channel = learned(
      sheetOf([
        ["SKU", "Title", "Colour"],
        ["K", "V", "V"],
      ]),
      sheetOf([["K = required"], ["V = optional"]], { sheet: "Key" }),
    );
    expect(legendOf([sheetOf([["K = required"]])]).get("k")).toMatchObject({ need: "required" });
    expect([facts(channel, "SKU"), facts(channel, "Title")]).toMatchObject([
      { need: "required" },
      { need: "optional" },
    ]);
  });

  it.each([
    ["nothing", [[]]],
    ["two columns", [["a", "b"]]],
    [
      "numbers alone",
      [
        ["1", "2", "3"],
        ["4", "5", "6"],
      ],
    ],
    ["a long text", [["This sheet tells you how to fill in the other one.", "", ""]]],
  ])("when a sheet holds %s, then it has no head", (_, rows) => {
    expect(headOfSheet(sheetOf(rows))).toBeUndefined();
  });
});

describe("a template's columns", () => {
  it("when a note, a guide, a drop-down and a filled row speak of a column, then they are held together", () => {
    const channel = learned(
      sheetOf(
        [
          [
            "Item number",
            { text: "Headline", note: "Max. 80 characters. Must be filled." },
            "Condition",
            "Weight (kg)",
          ],
          ["A-1", "Border spade", "New", "1.900"],
        ],
        { rules: [dropDown(2, 1, ["New", "Used"])] },
      ),
      sheetOf(
        [
          ["Field", "Meaning", "Required", "Example"],
          ["Condition", "How it is", "yes", "New"],
          ["Weight (kg)", "Number with 3 decimals", "no", "1.900"],
          ["Item number", "Your own", "yes", ""],
        ],
        { sheet: "Guide" },
      ),
    );
    expect(facts(channel, "Headline")).toMatchObject({ kind: "text", max_length: "80", need: "required" });
    expect(facts(channel, "Condition")).toMatchObject({
      kind: "choice",
      values: "New\nUsed",
      need: "required",
      fill: 'condition or "New"',
    });
    expect(facts(channel, "Weight (kg)")).toMatchObject({
      kind: "measure",
      unit: "kg",
      decimals: "3",
      need: "optional",
      fill: "weight",
    });
    expect(channel.guesses.get("identified_by")?.value).toBe("item_number");
  });

  it("when two sources contradict each other, then neither is told as sure", () => {
    const channel = learned(
      sheetOf([["SKU", { text: "Title", note: "Max. 80 characters" }, "Price"]]),
      sheetOf(
        [
          ["Field", "Rules"],
          ["SKU", "Text"],
          ["Title", "Max. 60 characters"],
          ["Price", "Number with 2 decimals"],
        ],
        { sheet: "Guide" },
      ),
    );
    const length = channel.fields[1]!.facts.get("max_length")!;
    expect(length.confidence).toBeLessThan(0.88);
    expect(length.against.map(({ value }) => value)).toHaveLength(1);
  });

  it("when a condition names another column, then it becomes an expression", () => {
    const channel = learned(
      sheetOf([
        ["SKU", "Sale price", "Sale ends"],
        ["Text", "Number with 2 decimals", "Date as YYYY-MM-DD. Required if Sale price is given"],
      ]),
    );
    expect(facts(channel, "Sale ends")).toMatchObject({
      need: "optional",
      when: "sale_price is given",
      kind: "date",
    });
  });

  it("when names of the language are headings, then they are fields like others", () => {
    const channel = learned(tableOf([["constructor", "__proto__", "toString", "if", "yes", "SKU"]]));
    expect(channel.fields.map(({ code }) => code)).toEqual([
      "constructor",
      "proto",
      "to_string",
      "if_field",
      "yes_field",
      "sku",
    ]);
  });

  it("when two sheets could be filled in, then a person is asked; named, one is taken", () => {
    const papers = [
      sheetOf([["SKU", "Title", "Price"]], { sheet: "Tools" }),
      sheetOf([["ISBN", "Author", "Pages"]], { sheet: "Books" }),
    ];
    expect(learned(...papers).faults.join()).toContain("--sheet");
    const named = learnChannel(papers, { sheet: "Books", corrections: corrections([]), attributes: [] });
    expect([named.faults, named.fields.map(({ label }) => label)]).toEqual([[], ["ISBN", "Author", "Pages"]]);
  });

  it("when a correction speaks of a guess, then it holds and is known as such; a dash takes the guess away", () => {
    const wishes = {
      corrections: corrections([
        { field: "title", scope: "*", fact: "need", value: "required" },
        { field: "title", scope: "*", fact: "fill", value: "-" },
      ]),
      attributes: [],
    };
    const [, title] = learnChannel([tableOf([["SKU", "Title", "Price"]])], wishes).fields;
    expect(title!.facts.get("need")).toMatchObject({ value: "required", isCorrected: true, confidence: 1 });
    expect(title!.facts.has("fill")).toBe(false);
  });
});
