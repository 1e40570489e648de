import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { buildTree, type CategoryRow } from "../../../src/core/channel/category-tree.js";
import { APART, headOf, standsApart } from "../../../src/core/placement/apart.js";
import { categoryIndex } from "../../../src/core/placement/category-index.js";
import { searchCategories } from "../../../src/core/placement/search.js";
import { gatherGoods } from "../../../src/core/placement/shop-goods.js";
import type { Subject } from "../../../src/core/placement/subject.js";
import { suggest } from "../../../src/core/placement/suggest.js";
import { withCompounds, wordsOf } from "../../../src/core/placement/words.js";
import { stem } from "../../../src/core/values/stem.js";
import { smallGlossary } from "../goods/small-glossary.js";

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
    h.q | Quanglers
    n | Birds | | closed
    n.b | Bird Baths
  `),
);
const index = categoryIndex(tree, smallGlossary);

const subject = (path: string, names: readonly string[] = [], more: Partial<Subject> = {}): Subject => {
  const goods = gatherGoods();
  names.forEach((name) => goods.add(name));
  return { path, names: goods.names, neighbours: [], elsewhere: [], ...more };
};

const suggestions = (...given: Parameters<typeof subject>) => suggest(subject(...given), index).suggestions;

const best = (...given: Parameters<typeof subject>): string | undefined =>
  suggestions(...given)[0]?.category.code;

const category = (code: string) => {
  const found = tree.find(code);
  if (found === undefined) throw new Error(`no category ${code}`);
  return found;
};

describe("words", () => {
  it.each([
    ["Spades & Forks", ["spade", "fork"]],
    ["Boxes for Berries", ["box", "berry"]],
    ["Grass and Gloves", ["grass", "glove"]],
    ["Small Garden Things", ["garden"]],
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
    // Words that the tree alone has, with a slip of the pen, and at the end of a joined word.
    ["Home > Quandlers", [], "h.q"],
    ["Home > Oakquangler", [], "h.q"],
  ])("when our category is %s with %j, then it goes to %s", (path, names, expected) => {
    expect(best(path, names)).toBe(expected);
  });

  it("when the name matches in a foreign branch, then it is doubted", () => {
    const own = suggestions("Bees > Smokers")[0]?.confidence ?? 0;
    const [foreign] = suggestions("Cookery > Smokers");
    expect(foreign?.category.code).toBe("b.c");
    expect(foreign?.confidence ?? 1).toBeLessThan(0.9);
    expect(own).toBeGreaterThan(foreign?.confidence ?? 1);
  });

  it("when neighbours or another channel speak, then they add to what they speak for, and the reason says so", () => {
    const of = (code: string, more: Partial<Subject>) =>
      suggestions("Accessories > Gloves", [], more).find((one) => one.category.code === code);
    const [plain, near] = [of("w.g", {}), of("w.g", { neighbours: [category("w.t")] })];
    expect(near?.confidence ?? 0).toBeGreaterThan(plain?.confidence ?? 1);
    expect(near?.reason).toContain("beside its neighbours");
    const [before, other] = [of("b.g", {}), of("b.g", { elsewhere: ["Apiary > Beekeeping Gloves"] })];
    expect(other?.confidence ?? 0).toBeGreaterThan(before?.confidence ?? 1);
    expect(other?.reason).toContain("as elsewhere");
  });

  it("when a category takes no listings, then it is never proposed; and nothing is made up", () => {
    expect(suggestions("Beekeeping").map(({ category: { code } }) => code)).not.toContain("b");
    expect(suggest(subject("Zzz > Qqq"), index)).toMatchObject({ suggestions: [], nothing: 1 });
  });

  it("when any path is asked for, then a later one is never surer, all together are no more than all, and open", () => {
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
          const found = suggest(subject(path.join(" > "), names), index);
          let believed = found.nothing;
          for (const [at, { confidence, category: own }] of found.suggestions.entries()) {
            expect(confidence).toBeGreaterThan(0);
            expect(confidence).toBeLessThanOrEqual(found.suggestions[at - 1]?.confidence ?? 1);
            expect(own.isOpen).toBe(true);
            believed += confidence;
          }
          expect(believed).toBeLessThanOrEqual(1 + 1e-9);
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

  const apart = (name: string, path: string, code: string) => standsApart({ name, path }, at(code), index);

  it.each([
    ["Nest and Bird Bath (stone)", "Nest and Bird Bath"],
    ["Secateurs, bypass", "Secateurs"],
    ["Gloves for bees", "Gloves"],
    ["Lamp with shade in a box", "Lamp"],
    [", odd", ""],
  ])("when a name is %j, then what it is is %j", (name, head) => expect(headOf(name)).toBe(head));

  it("when a name surely means another branch than its category's place, then that is proposed", () =>
    expect(apart("Bee smoker, copper", "Odds > Bits", "g.t.s")?.suggestions[0]?.category.code).toBe("b.c"));

  it("when a name means the same place, one beside it, or one above or below it, then nothing is", () => {
    expect(apart("Bird Bath, stone", "Birds > Baths", "n.b")).toBeUndefined();
    expect(apart("Secateurs, bypass", "Tools > Spades", "g.t.s")).toBeUndefined();
    expect(apart("Table Lamp", "Lamps", "h.l")).toBeUndefined();
    expect(apart("Lamp", "Lamps > On tables", "h.l.t")).toBeUndefined();
  });

  it("when a name is any text, then it is answered, and only above the confidence that it takes", () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 80 }), (name) => {
        const found = apart(name, "Tools > Spades", "g.t.s");
        expect(found === undefined || (found.suggestions[0]?.confidence ?? 0) >= APART).toBe(true);
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
