import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { attributeIndex } from "../../../src/core/catalogue/attribute-index.js";
import { isUnder, selfAndAbove } from "../../../src/core/values/category-path.js";
import { merge } from "../../../src/core/catalogue/merge.js";
import {
  CLEARED,
  isUnread,
  RETRACTED,
  takesBack,
  unread,
  unreadInstead,
} from "../../../src/core/catalogue/record.js";
import { attributeKind, isAttributeName } from "../../../src/core/catalogue/vocabulary.js";
import { placementsOf } from "../../../src/core/placement/placements.js";
import { asSku } from "../../../src/core/ids.js";
import { definitionOf } from "../../kit/definition.js";

const attributes = attributeIndex(["sku", "name", "price", "color"]);
const record = (revision: number, slots: readonly number[], texts: readonly string[]) => ({
  origin: { revision, row: revision * 10 },
  layer: revision,
  slots,
  texts,
});

describe("merging layers", () => {
  it("when two layers speak, then the later wins; a blank says nothing; a clear word says none", () => {
    const merged = merge(asSku("a"), attributes, [
      record(1, [0, 1, 2, 3], ["a", "Hive", "5.00 GBP", "red"]),
      record(2, [2, 1, 3], ["6.00 GBP", "", CLEARED]),
    ]);
    expect([merged.text(1), merged.text(2), merged.text(3)]).toEqual(["Hive", "6.00 GBP", undefined]);
    expect([merged.origin(1)?.revision, merged.origin(2)?.revision]).toEqual([1, 2]);
  });

  it("when any records are merged, then each attribute is the last opinion on it", () => {
    const texts = fc.array(fc.constantFrom("", "x", "y", CLEARED), { minLength: 4, maxLength: 4 });
    fc.assert(
      fc.property(fc.array(texts, { maxLength: 6 }), (all) => {
        const merged = merge(
          asSku("a"),
          attributes,
          all.map((own, i) => record(i + 1, [0, 1, 2, 3], own)),
        );
        for (const slot of [1, 2, 3]) {
          const last = all
            .map((own) => own[slot] ?? "")
            .filter(Boolean)
            .at(-1);
          expect(merged.text(slot)).toBe(last === CLEARED ? undefined : last);
        }
        expect(merged.text(0)).toBe("a");
      }),
    );
  });

  it("when cells could not be read, then the product is as without them, and the topmost above each value is known", () => {
    const text = fc.constantFrom(
      "",
      "x",
      "y",
      CLEARED,
      RETRACTED,
      unread("?"),
      unread("n/a"),
      unreadInstead(unread("!")),
    );
    const own = fc.record({
      layer: fc.integer({ min: 1, max: 3 }),
      texts: fc.array(text, { minLength: 4, maxLength: 4 }),
    });
    fc.assert(
      fc.property(fc.array(own, { maxLength: 7 }), (all) => {
        const records = [...all]
          .sort((a, b) => a.layer - b.layer)
          .map(({ layer, texts }, at) => ({ ...record(at + 1, [0, 1, 2, 3], texts), layer }));
        // The same as if such a cell were blank, or took back what its layer said.
        const without = records.map((one) => ({
          ...one,
          texts: one.texts.map((written) =>
            isUnread(written) ? (takesBack(written) ? RETRACTED : "") : written,
          ),
        }));
        const [merged, plain] = [
          merge(asSku("a"), attributes, records),
          merge(asSku("a"), attributes, without),
        ];
        for (const slot of [1, 2, 3]) {
          expect([merged.text(slot), merged.value(slot)]).toEqual([plain.text(slot), plain.value(slot)]);
          const cell = merged.unread?.(slot);
          const above = plain.origin(slot)?.revision ?? 0;
          if (cell !== undefined)
            expect([isUnread(cell.written), cell.origin.revision > above]).toEqual([false, true]);
        }
      }),
    );
  });
});

describe("categories and placements", () => {
  it("when a path lies below another, then it is under it; part of a word is not enough", () => {
    expect(isUnder("Garden > Tools > Spades", "Tools")).toBe(true);
    expect(isUnder("Garden>Tools", "Garden > Tools")).toBe(true);
    expect(isUnder("Garden > Toolsheds", "Tools")).toBe(false);
    expect(selfAndAbove("a > b > c")).toEqual(["a > b > c", "a > b", "a"]);
  });

  it("when decisions stand at several heights, then a product's own wins, then the nearest above", () => {
    const { definition } = definitionOf();
    const [garden, tools, spades] = definition.tree.all;
    if (garden === undefined || tools === undefined || spades === undefined) throw new Error("no tree");
    const at = { place: { file: "placements.csv" } };
    const placements = placementsOf([
      { ourCategory: "A", sku: "", to: { kind: "category", category: garden }, ...at },
      { ourCategory: "A > B", sku: "", to: { kind: "category", category: tools }, ...at },
      { ourCategory: "", sku: "odd", to: { kind: "category", category: spades }, ...at },
    ]);
    const codeAt = (sku: string, path: string): string | undefined => {
      const to = placements.find(sku, path)?.to;
      return to?.kind === "category" ? to.category.code : to?.code;
    };
    expect(codeAt("x", "A>B > C")).toBe("g.t");
    expect(codeAt("x", "A > Z")).toBe("g");
    expect(codeAt("odd", "A > B")).toBe("g.t.s");
    expect(placements.find("x", undefined)).toBeUndefined();
  });
});

describe("attribute names", () => {
  it("when a name carries a language or a currency, then it has the kind of its plain name", () => {
    expect(attributeKind("price@EUR").kind).toBe("money");
    expect(attributeKind("images")).toMatchObject({ kind: "url", list: true });
    expect(attributeKind("latin_name").kind).toBe("text");
    expect([isAttributeName("name@de-AT"), isAttributeName("Name"), isAttributeName("2nd")]).toEqual([
      true,
      false,
      false,
    ]);
  });
});
