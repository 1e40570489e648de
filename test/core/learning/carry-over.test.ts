import { describe, expect, it } from "vitest";
import { carriedFill, carriedPlacement, carriedTerm } from "../../../src/core/learning/carry-over.js";
import type { Renamings } from "../../../src/core/learning/compare-definitions.js";
import { carriedFills, carriedTable } from "../../../src/workspace/carried-files.js";
import { attributeIndex } from "../../../src/core/catalogue/attribute-index.js";

const renamings: Renamings = {
  fields: new Map([
    ["stock", "units"],
    ["origin", undefined],
    ["name", "headline"],
  ]),
  values: new Map([
    [
      "state",
      new Map([
        ["Used", "Pre-owned"],
        ["Broken", undefined],
      ]),
    ],
  ]),
  categories: new Map([
    ["11", "21"],
    ["12", undefined],
  ]),
};

const attributes = new Set(attributeIndex(["name", "quantity", "price"]).names);

const row = (cells: Readonly<Record<string, string>>) => (column: string) =>
  new Map(Object.entries(cells)).get(column) ?? "";

describe("decisions that are carried over", () => {
  it.each([
    ["quantity", "quantity"],
    ["if stock > 0 then price else blank", "if units > 0 then price else blank"],
    // What the catalogue calls so, too, is the catalogue's.
    ['"{name}, {stock} left"', '"{name}, {units} left"'],
    ['"stock of the year"', '"stock of the year"'],
    ["restock or stock", "restock or units"],
  ])("when fields were renamed, then %j becomes %j", (fill, wanted) => {
    expect(carriedFill(fill, "any", renamings, attributes)).toBe(wanted);
  });

  it("when a value of the field's own list was renamed, then the text that is it follows; in other fields it stays", () => {
    expect(carriedFill('condition or "Used"', "state", renamings, attributes)).toBe(
      'condition or "Pre-owned"',
    );
    expect(carriedFill('condition or "Used"', "grade", renamings, attributes)).toBe('condition or "Used"');
  });

  it("when rows name what is renamed or gone, then they follow, or are left to a person", () => {
    expect(carriedPlacement(row({ channel_category: "11" }), renamings, (code) => code)).toEqual({
      row: "changed",
      cells: { channel_category: "21" },
    });
    expect(carriedPlacement(row({ channel_category: "12" }), renamings, (code) => code)).toMatchObject({
      row: "open",
    });
    expect(carriedPlacement(row({ channel_category: "13" }), renamings, (code) => code)).toEqual({
      row: "same",
    });
    expect(carriedTerm(row({ field: "stock", channel_value: "x" }), renamings)).toEqual({
      row: "changed",
      cells: { field: "units", channel_value: "x" },
    });
    expect(carriedTerm(row({ field: "state", channel_value: "Used" }), renamings)).toMatchObject({
      cells: { channel_value: "Pre-owned" },
    });
    expect(carriedTerm(row({ field: "state", channel_value: "Broken" }), renamings)).toMatchObject({
      row: "open",
    });
    expect(carriedTerm(row({ field: "origin", channel_value: "GB" }), renamings)).toMatchObject({
      row: "open",
    });
  });

  it("when a table has comments, own columns and a form of its own, then they stay", () => {
    const before = Buffer.from(
      "our_category;sku;channel_category;mine\r\n# ours\r\nBees;;11;x\r\nBooks;;12;y\r\nLamps;;13;z\r\n",
    );
    const { bytes, changed, open } = carriedTable(
      before,
      (cell) => carriedPlacement(cell, renamings, (code) => code),
      "2",
    );
    expect(bytes.toString()).toBe(
      "our_category;sku;channel_category;mine\r\n# ours\r\nBees;;21;x\r\n# 2: the channel has no category 12 any more: Books;;12;y\r\nLamps;;13;z\r\n",
    );
    expect([changed, open.length]).toEqual([1, 1]);
  });

  it("when fills have comments, blocks and texts in quotes, then they stay, and what fills nothing any more becomes a comment", () => {
    const before = [
      "# Mine.",
      "all:",
      "  # how many",
      "  stock: quantity",
      '  title: "{name} for you"',
      "  origin: country_of_origin",
      "channel_categories:",
      '  "11":',
      "    stock: 1",
      '  "12":',
      "    stock: 2",
      "",
    ].join("\n");
    const { bytes, open } = carriedFills(Buffer.from(before), renamings, attributes, "2", [
      { code: "battery", label: "Battery", fill: "battery is given", isReady: true },
      { code: "later", label: "Later", fill: "nothing_yet", isReady: false },
    ]);
    const text = bytes.toString();
    expect(text).toContain("# Mine.\nall:\n  # how many\n  units: quantity\n");
    expect(text).toContain('title: "{name} for you"');
    expect(text).toContain("  # Battery: new with 2\n  battery: battery is given\n");
    expect(text).not.toMatch(/^ {2}origin:|later:/m);
    expect(text).toMatch(/#\s+origin: country_of_origin/);
    expect(text).toMatch(/"21":\n {4}units: 1/);
    expect(open.map(({ what }) => what)).toEqual(["origin: country_of_origin", "channel_categories, 12"]);
  });

  it("when nothing is renamed, then not a byte changes", () => {
    const none: Renamings = { fields: new Map(), values: new Map(), categories: new Map() };
    const text = "all:\n    title:   name   # odd spaces\n";
    expect(carriedFills(Buffer.from(text), none, attributes, "2", []).bytes.toString()).toBe(text);
  });
});
