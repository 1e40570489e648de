import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { buildTree, type CategoryRow } from "../../../src/core/channel/category-tree.js";
import { APART, headOf, standsApart } from "../../../src/core/placement/apart.js";
import { categoryIndex } from "../../../src/core/placement/category-index.js";
import { gatherGoods } from "../../../src/core/placement/goods.js";
import { searchCategories } from "../../../src/core/placement/search.js";
import { suggest, type Subject } from "../../../src/core/placement/suggest.js";
import { withCompounds, wordsOf } from "../../../src/core/placement/words.js";
import { stem } from "../../../src/core/values/stem.js";

const rows = (text: string): readonly CategoryRow[] =>
  text
    .trim()
    .split("\n")
    .map((line, index) => {
      const [code = "", name = "", searchWords = "", closed = ""] = line
        .split("|")
        .map((cell) => cell.trim());
      return {
        code,
        parent: code.split(".").slice(0, -1).join("."),
        name,
        searchWords,
        otherNames: [],
        isClosed: closed === "closed",
        place: { file: "categories.csv", row: index + 2 },
      };
    });

const { tree } = buildTree(
  rows(`
    g | Garden | | closed
    g.t | Hand Tools
    g.t.s | Spades & Forks | digging
    g.t.c | Secateurs | pruning; pruners
    g.g | Gloves
    b | Beekeeping | | closed
    b.g | Beekeeping Gloves | gauntlets
    b.h | Beehives | complete hives
    b.c | Smokers
    w | Workwear | | closed
    w.g | Work Gloves
    w.t | Trousers | dungarees
    h | Home | | closed
    h.b | Baths
    h.l | Lamps
    h.l.t | Table Lamps
    n | Birds | | closed
    n.b | Bird Baths
  `),
);
const index = categoryIndex(tree);

const subject = (path: string, names: readonly string[] = [], more: Partial<Subject> = {}): Subject => {
  const goods = gatherGoods();
  names.forEach((name) => goods.add(name));
  return { path, goods: goods.words(), neighbours: [], elsewhere: [], ...more };
};

const best = (...given: Parameters<typeof subject>): string | undefined =>
  suggest(subject(...given), index)[0]?.category.code;

const category = (code: string) => {
  const found = tree.find(code);
  if (found === undefined) throw new Error(`no category ${code}`);
  return found;
};

describe("words", () => {
  it.each([
    ["Spades & Forks", ["spade", "fork"]],
    ["Boxes for Berries", ["box", "berry"]],
    ["Grass and Gloves", ["grass", "gauntlet"]],
    ["Pants, sneakers", ["trouser", "trainer"]],
    ["2 x 40 cm", ["cm"]],
  ])("when a text is %s, then its words are %j", (text, expected) => {
    expect(wordsOf(text)).toEqual(expected);
  });

  it("when words stand beside each other, then they are joined, too", () => {
    expect(withCompounds(["bee", "hive"])).toEqual(["bee", "hive", "beehive"]);
  });

  it("when any word is stemmed twice, then nothing more is taken", () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[a-z]{2,10}(s|es|ies)?$/), (word) => {
        expect(stem(word).length).toBeLessThanOrEqual(word.length);
        expect(stem(word).length).toBeGreaterThan(0);
      }),
    );
  });
});

describe("proposals for placements", () => {
  it.each([
    ["Tools > Spades", [], "g.t.s"],
    ["Tools > Digging", ["Border Spade", "Digging Fork"], "g.t.s"],
    ["Tools > Pruning", ["Bypass Pruners"], "g.t.c"],
    ["Beekeeping > Gloves", [], "b.g"],
    ["Workwear > Gloves", ["Rigger work gloves"], "w.g"],
    ["Bees > Bee hives", [], "b.h"],
    ["Wild birds > Baths", ["Stone bird bath"], "n.b"],
    ["Clothing > Pants", [], "w.t"],
    ["Lamps > Table lamps", [], "h.l.t"],
  ])("when our category is %s with %j, then it goes to %s", (path, names, expected) => {
    expect(best(path, names)).toBe(expected);
  });

  it("when the name matches in a foreign branch, then it is doubted", () => {
    const own = suggest(subject("Work > Gloves"), index)[0]?.confidence ?? 0;
    const [foreign] = suggest(subject("Cookery > Smokers"), index);
    expect(foreign?.category.code).toBe("b.c");
    expect(foreign?.confidence ?? 1).toBeLessThan(0.75);
    expect(own).toBeGreaterThan(foreign?.confidence ?? 1);
  });

  it("when neighbours or another channel speak, then they add to what they speak for, and the reason says so", () => {
    const of = (code: string, more: Partial<Subject>) =>
      suggest(subject("Accessories > Gloves", [], more), index).find((one) => one.category.code === code);
    const [plain, near] = [of("w.g", {}), of("w.g", { neighbours: [category("w.t")] })];
    expect(near?.confidence ?? 0).toBeGreaterThan(plain?.confidence ?? 1);
    expect(near?.reason).toContain("beside its neighbours");
    const [before, other] = [of("b.g", {}), of("b.g", { elsewhere: ["Apiary > Beekeeping Gloves"] })];
    expect(other?.confidence ?? 0).toBeGreaterThan(before?.confidence ?? 1);
    expect(other?.reason).toContain("as on another channel");
  });

  it("when a category takes no listings, then it is never proposed; and nothing is made up", () => {
    expect(suggest(subject("Beekeeping"), index).map(({ category: { code } }) => code)).not.toContain("b");
    expect(suggest(subject("Zzz > Qqq"), index)).toEqual([]);
  });

  it("when any path is asked for, then confidences are between 0 and 1, best first by rank, and open", () => {
    const word = fc.constantFrom(
      "Tools",
      "Gloves",
      "Spades",
      "Bees",
      "Baths",
      "Lamps",
      "Zzz",
      "Pants",
      "Bird",
      "",
    );
    fc.assert(
      fc.property(
        fc.array(word, { minLength: 1, maxLength: 3 }),
        fc.array(word, { maxLength: 3 }),
        (path, names) => {
          for (const { confidence, category: found } of suggest(subject(path.join(" > "), names), index)) {
            expect(confidence).toBeGreaterThan(0);
            expect(confidence).toBeLessThan(1);
            expect(found.isOpen).toBe(true);
          }
        },
      ),
    );
  });
});

describe("products that stand apart", () => {
  const at = (code: string) => {
    const category = tree.find(code);
    if (category === undefined) throw new Error(`no ${code}`);
    return category;
  };

  it.each([
    ["Nest and Bird Bath (stone)", "Nest and Bird Bath"],
    ["Secateurs, bypass", "Secateurs"],
    ["Gloves for bees", "Gloves"],
    ["Lamp with shade in a box", "Lamp"],
    [", odd", ""],
  ])("when a name is %j, then what it is is %j", (name, head) => expect(headOf(name)).toBe(head));

  it("when a name surely means another branch than its category's place, then that is proposed", () =>
    expect(standsApart("Bird Bath, stone", at("g.t.s"), index)?.[0]?.category.code).toBe("n.b"));

  it("when a name means the same place, one beside it, or one above or below it, then nothing is", () => {
    expect(standsApart("Bird Bath, stone", at("n.b"), index)).toBeUndefined();
    expect(standsApart("Secateurs, bypass", at("g.t.s"), index)).toBeUndefined();
    expect(standsApart("Table Lamp", at("h.l"), index)).toBeUndefined();
    expect(standsApart("Lamp", at("h.l.t"), index)).toBeUndefined();
  });

  it("when a name is any text, then it is answered, and only above the confidence that it takes", () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 80 }), (name) => {
        const found = standsApart(name, at("g.t.s"), index);
        expect(found === undefined || (found[0]?.confidence ?? 0) >= APART).toBe(true);
      }),
    );
  });
});

describe("looking for categories", () => {
  const found = (words: string): readonly string[] =>
    searchCategories(words, index).map(({ category: { code } }) => code);

  it.each([
    ["gloves", "g.g"],
    ["bee gloves", "b.g"],
    ["secatuers", "g.t.c"],
    ["beekeping gloves", "b.g"],
    ["glvoes", "g.g"],
    ["pruners", "g.t.c"],
    ["bird bath", "n.b"],
  ])("when the words are %s, then %s comes first", (words, expected) => {
    expect(found(words)[0]).toBe(expected);
  });

  it("when no word is known, then nothing is found", () => {
    expect(found("xylophone")).toEqual([]);
  });
});

describe("codes that were retired", () => {
  it("when a code is retired, then its successor is known; a wrong one is a fault of the definition", () => {
    const place = { file: "retired.csv", row: 2 };
    const built = buildTree(rows("a | Alpha\nb | Beta"), [
      { code: "old", successor: "b", since: "2", place },
      { code: "gone", successor: "", since: "2", place },
    ]);
    expect([
      built.tree.retired("old")?.successor?.name,
      built.tree.retired("gone")?.successor,
      built.tree.retired("a"),
    ]).toEqual(["Beta", undefined, undefined]);
    const wrong = buildTree(rows("a | Alpha"), [
      { code: "a", successor: "", since: "2", place },
      { code: "old", successor: "bb", since: "2", place },
    ]);
    expect(wrong.findings.map(({ code }) => code)).toEqual(["repeated-category", "unknown-category"]);
  });
});
