import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { isAnotherProduct } from "../../../src/core/catalogue/another-product.js";
import { attributeIndex } from "../../../src/core/catalogue/attribute-index.js";
import { readPart, withParts } from "../../../src/core/catalogue/bundle.js";
import { familyFindings } from "../../../src/core/catalogue/family-findings.js";
import { merge } from "../../../src/core/catalogue/merge.js";
import { product, textOf, type Product } from "../../../src/core/catalogue/product.js";
import { CLEARED, COMPUTED_REVISION, LIST_SEPARATOR, RETRACTED } from "../../../src/core/catalogue/record.js";
import { skuTwinKey } from "../../../src/core/catalogue/sku-twin.js";
import { sentence } from "../../../src/workspace/wording.js";
import { asSku } from "../../../src/core/ids.js";

const attributes = attributeIndex(
  "sku group varies_by name color size quantity weight package_weight cost bundle_of".split(" "),
);

const goods = (sku: string, texts: Readonly<Record<string, string>>): Product =>
  product(
    asSku(sku),
    attributes,
    attributes.names.map((name) => texts[name]?.replaceAll("+", LIST_SEPARATOR)),
    attributes.names.map((name) => (texts[name] === undefined ? undefined : { revision: 1, row: 2 })),
  );

const shop = (...all: readonly Product[]) => {
  const bySku = new Map(all.map((one) => [one.sku as string, one]));
  return (sku: string): Product | undefined => bySku.get(sku);
};

describe("bundles", () => {
  const jar = goods("JAR", { quantity: "25", weight: "200 g", cost: "0.40 GBP" });
  const lid = goods("LID", { quantity: "60", weight: "0.01 kg", cost: "0.10 GBP" });
  const find = shop(jar, lid);

  it("when parts are in stock, then the bundle's stock is what they allow, its weight and cost their sums", () => {
    const set = withParts(goods("SET", { bundle_of: "6 x JAR+LID: 12" }), find);
    expect(["quantity", "weight", "cost"].map((name) => textOf(set, name))).toEqual([
      "4",
      "1320 g",
      "3.60 GBP",
    ]);
    expect(set.origin(attributes.slot("quantity") ?? -1)?.revision).toBe(COMPUTED_REVISION);
  });

  it("when the bundle states its weight and stock, then both stay as the shop says", () => {
    const set = withParts(goods("SET", { bundle_of: "JAR", weight: "1 kg", quantity: "99" }), find);
    expect([textOf(set, "weight"), textOf(set, "quantity")]).toEqual(["1 kg", "99"]);
  });

  it("when a part is missing, then nothing can be sold and no sum is made", () => {
    const set = withParts(goods("SET", { bundle_of: "JAR+NONE" }), find);
    expect([textOf(set, "quantity"), textOf(set, "weight")]).toEqual(["0", undefined]);
  });

  it("when bundles hold bundles or themselves, then it ends", () => {
    const outer = goods("OUTER", { bundle_of: "2 x INNER" });
    const inner = goods("INNER", { bundle_of: "3 x JAR" });
    const snake = goods("SNAKE", { bundle_of: "SNAKE" });
    const all = shop(jar, outer, inner, snake);
    expect(textOf(withParts(outer, all), "quantity")).toBe("4");
    expect(textOf(withParts(snake, all), "quantity")).toBe("0");
  });

  it("when a thing is needed in several places, then its stock is counted once for all of them", () => {
    const all = (...sets: readonly Product[]) => shop(jar, lid, ...sets);
    const twice = goods("TWICE", { bundle_of: "JAR+JAR+3 x JAR" });
    expect(textOf(withParts(twice, all(twice)), "quantity")).toBe("5");
    const inner = goods("INNER", { bundle_of: "2 x JAR" });
    const outer = goods("OUTER", { bundle_of: "INNER+3 x JAR+LID" });
    expect(textOf(withParts(outer, all(inner, outer)), "quantity")).toBe("5");
    // One that states its own stock is packed already: its parts are not taken again.
    const packed = goods("INNER", { bundle_of: "2 x JAR", quantity: "3" });
    expect(textOf(withParts(outer, all(packed, outer)), "quantity")).toBe("3");
  });

  it("when a SKU reads like a count, then it is that SKU as long as there is one", () => {
    const bolt = goods("2 x BOLT", { quantity: "7" });
    const kit = goods("KIT", { bundle_of: "2 x BOLT" });
    expect(textOf(withParts(kit, shop(bolt)), "quantity")).toBe("7");
    expect(textOf(withParts(kit, shop(goods("BOLT", { quantity: "7" }))), "quantity")).toBe("3");
  });

  it("when any parts are needed of plain things, then so many sets can be made, and not one more", () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom("A", "B", "C"), fc.integer({ min: 1, max: 4 })), { minLength: 1 }),
        fc.record({ A: fc.nat(30), B: fc.nat(30), C: fc.nat(30) }),
        (parts, stock) => {
          const set = goods("SET", { bundle_of: parts.map(([sku, count]) => `${sku}: ${count}`).join("+") });
          const things = Object.entries(stock).map(([sku, count]) => goods(sku, { quantity: String(count) }));
          const made = Number(textOf(withParts(set, shop(...things)), "quantity"));
          const needs = (sets: number): boolean =>
            Object.entries(stock).every(
              ([sku, have]) =>
                parts.filter((part) => part[0] === sku).reduce((sum, part) => sum + part[1] * sets, 0) <=
                have,
            );
          expect([needs(made), needs(made + 1)]).toEqual([true, false]);
        },
      ),
    ));

  it("when a product is no bundle, then it is left as it is", () => {
    expect(withParts(jar, find)).toBe(jar);
  });

  it.each([
    ["BC-1401", "BC-1401", 1],
    ["2 x BC-1401", "BC-1401", 2],
    ["2×BC-1401", "BC-1401", 2],
    ["BC-1401: 3", "BC-1401", 3],
    ["BC-1401 x 12", "BC-1401", 12],
    ["12", "12", 1],
    ["XL-box 4", "XL-box 4", 1],
  ])("when a part is written %s, then it is %s, %i times", (text, sku, count) => {
    expect(readPart(text)).toEqual({ sku, count });
  });
});

describe("what is odd about groups", () => {
  const findings = (...members: readonly Product[]) =>
    familyFindings(
      { number: 1, group: "G", record: undefined, members, membersOn: () => members },
      (_, attribute) => ({
        file: "shop.csv",
        row: 9,
        column: attribute,
      }),
    );

  it("when a group has one member, then that is advice at the member's row", () => {
    expect(findings(goods("A", { group: "G" }))).toMatchObject([
      { code: "single-member", severity: "advice", product: "A", place: { row: 9, column: "group" } },
    ]);
  });

  it("when two members have the same values of their axes, then the later one points at the first", () => {
    const [same, ...others] = findings(
      goods("A", { group: "G", varies_by: "color+size", color: "red", size: "M" }),
      goods("B", { group: "G", varies_by: "color+size", color: "red", size: "L" }),
      goods("C", { group: "G", varies_by: "color+size", color: "red", size: "M" }),
    );
    expect(others).toEqual([]);
    expect(same === undefined ? "" : sentence(same)).toBe(
      'in the group "G" it has the same red, M as "A"; tell them apart',
    );
  });

  it("when nothing says what members differ in, then the usual axes are looked at, and blanks say nothing", () => {
    expect(
      findings(goods("A", { color: "red" }), goods("B", { color: "red" })).map(({ code }) => code),
    ).toEqual(["same-axes"]);
    expect(findings(goods("A", { name: "x" }), goods("B", { name: "x" }))).toEqual([]);
  });
});

describe("SKUs and what they stand for", () => {
  it.each([
    ["BC-0104", "bc-104"],
    ["BC 104", "BC104"],
    ["007", "7"],
    ["A–1", "a-1"],
  ])("when SKUs are %s and %s, then they are twins", (a, b) => {
    expect(skuTwinKey(a)).toBe(skuTwinKey(b));
  });

  it("when SKUs differ in a letter or a number, then they are none", () => {
    const sku = fc.stringMatching(/^[A-Z]{2}-[1-9]\d{2}$/);
    fc.assert(
      fc.property(sku, sku, (a, b) => {
        expect(skuTwinKey(a) === skuTwinKey(b)).toBe(a === b);
      }),
    );
  });

  it("when name and barcode are both others, then it is another product; one alone is a correction", () => {
    const was = { gtin: "9524000001016", name: "Cedar Garden Hive" };
    const other = "9524000001023";
    expect(isAnotherProduct(was, { gtin: other, name: "Rubber Boots" })).toBe(true);
    expect(isAnotherProduct(was, { gtin: other, name: "Cedar Hive, large" })).toBe(false);
    expect(isAnotherProduct(was, { gtin: "09524000001016", name: "Rubber Boots" })).toBe(false);
    expect(isAnotherProduct({ ...was, gtin: undefined }, { gtin: other, name: "Rubber Boots" })).toBe(false);
  });
});

describe("opinions that are taken back", () => {
  const record = (layer: number, revision: number, color: string) => ({
    origin: { revision, row: 1 },
    layer,
    slots: [4],
    texts: [color],
  });

  it("when a layer takes its opinion back, then what lies below shows again, and not what it said before", () => {
    const color = (...records: ReturnType<typeof record>[]) => merge(asSku("A"), attributes, records).text(4);
    expect(color(record(1, 1, "red"), record(2, 2, "blue"), record(2, 3, RETRACTED))).toBe("red");
    expect(color(record(1, 1, "red"), record(2, 2, CLEARED), record(2, 3, RETRACTED))).toBe("red");
    expect(color(record(1, 1, "red"), record(1, 4, RETRACTED), record(2, 2, "blue"))).toBe("blue");
    expect(color(record(1, 1, "red"), record(1, 2, RETRACTED))).toBeUndefined();
  });
});
