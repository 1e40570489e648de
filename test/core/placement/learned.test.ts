import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { buildTree } from "../../../src/core/channel/category-tree.js";
import { Learned, type Confirmed } from "../../../src/core/placement/learned.js";
import type { Understood } from "../../../src/core/placement/subject.js";

const { tree } = buildTree(
  ["a", "b", "c"].map((code, at) => ({
    ...{
      code,
      name: code.toUpperCase(),
      parent: "",
      searchWords: "",
      otherNames: [] as string[],
      isClosed: false,
    },
    place: { file: "categories.csv", row: at + 2 },
  })),
);
const categories = tree.all;
const even = { weight: () => 1 };

/** A shelf as it was read, as far as learning looks at it. */
const shelf = (goods: Readonly<Record<number, number>>, ...names: readonly string[]): Understood =>
  ({
    products: new Map(Object.entries(goods).map(([good, mass]) => [Number(good), mass])),
    leaf: new Map(),
    calledBy: names.map((name) => name.split(" ")),
  }) as Partial<Understood> as Understood;

const placed = (ours: Understood, at: number): Confirmed => {
  const category = categories[at];
  if (category === undefined) throw new Error("no such category");
  return { goods: ours.products, calledBy: ours.calledBy, category };
};

const codes = (found: ReadonlyMap<{ readonly code: string }, number>): Readonly<Record<string, number>> =>
  Object.fromEntries([...found].map(([{ code }, like]) => [code, Math.round(like * 100) / 100]));

describe("what placements teach", () => {
  it("when goods are the same, then their place is like wholly; what shares half of them is like by half", () => {
    const learned = new Learned([placed(shelf({ 1: 1 }), 0), placed(shelf({ 1: 1, 2: 1 }), 1)], even);
    expect(codes(learned.placesLike(shelf({ 1: 1 })).goods)).toEqual({ a: 1, b: 0.71 });
    expect(codes(learned.placesLike(shelf({ 3: 1 })).goods)).toEqual({});
  });

  it("when products are called alike, then that tells where nobody knows the goods; the last word says most", () => {
    const learned = new Learned(
      [placed(shelf({}, "bath board", "shower stool"), 0), placed(shelf({}, "board game"), 1)],
      even,
    );
    expect(codes(learned.placesLike(shelf({}, "bath board")).names)).toEqual({ a: 1 });
    // A word in common that does not say what the thing is teaches nothing.
    expect(codes(learned.placesLike(shelf({}, "bath mat")).names)).toEqual({});
    expect(codes(learned.placesLike(shelf({}, "garden stool")).names)).toEqual({ a: 0.61 });
  });

  it("when whatever was placed, then a shelf is like itself, no likeness is more than whole, and nothing teaches nothing", () => {
    const name = fc
      .array(fc.constantFrom("bow", "rosin", "case", "ring", "clip"), { minLength: 1, maxLength: 3 })
      .map((words) => [...new Set(words)].join(" "));
    const one = fc.record({
      goods: fc.dictionary(fc.constantFrom("1", "2", "3"), fc.double({ min: 0.1, max: 1, noNaN: true })),
      names: fc.array(name, { maxLength: 3 }),
      at: fc.nat({ max: 2 }),
    });
    fc.assert(
      fc.property(fc.array(one, { maxLength: 6 }), one, (all, own) => {
        const shelves = all.map(({ goods, names, at }) => placed(shelf(goods, ...names), at));
        const ours = shelf(own.goods, ...own.names);
        const learned = new Learned([...shelves, placed(ours, own.at)], even);
        const { goods, names } = learned.placesLike(ours);
        const category = categories[own.at];
        if (category !== undefined && ours.products.size > 0) expect(goods.get(category)).toBeCloseTo(1, 6);
        if (category !== undefined && ours.calledBy.length > 0) expect(names.get(category)).toBeCloseTo(1, 6);
        for (const like of [...goods.values(), ...names.values()]) expect(like).toBeLessThanOrEqual(1 + 1e-9);
        const empty = new Learned([], even).placesLike(ours);
        expect([empty.goods.size, empty.names.size]).toEqual([0, 0]);
      }),
    );
  });
});
