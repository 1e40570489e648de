import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  categorySheet,
  categoryTreePaper,
  codeOf,
  pathSteps,
  type ListedCategory,
} from "../../../src/core/learning/category-list.js";
import type { TreeNode } from "../../../src/core/learning/paper.js";
import { node, sheetOf, tableOf, treeOf } from "../../kit/papers.js";

/** A tree as a model: each category with its number and the one above it. */
interface Modelled {
  readonly code: string;
  readonly above: number | undefined;
  readonly name: string;
}

const names = [
  "Spades",
  "Forks",
  "Hives",
  "Smokers",
  "Seed trays",
  "Lamps",
  "Baskets",
  "Gloves",
  "Kettles",
  "Books",
  "Dibbers",
  "Twine",
];

const trees: fc.Arbitrary<readonly Modelled[]> = fc
  .array(fc.nat(1000), { minLength: 3, maxLength: 12 })
  .map((draws) =>
    draws.map((draw, at) => ({
      code: `K${100 + at}`,
      above: at === 0 || draw % 3 === 0 ? undefined : draw % at,
      name: names[at] ?? "",
    })),
  );

const pathOf = (tree: readonly Modelled[], at: number): readonly string[] => {
  const { above, name } = tree[at]!;
  return above === undefined ? [name] : [...pathOf(tree, above), name];
};

/** In the order in which a tree is read: each before what is below it. */
const inOrder = (tree: readonly Modelled[]): readonly number[] => {
  const below = (above: number | undefined): readonly number[] =>
    tree.flatMap((one, at) => (one.above === above ? [at, ...below(at)] : []));
  return below(undefined);
};

const edges = (categories: readonly ListedCategory[]): ReadonlySet<string> => {
  const byCode = new Map(categories.map((category) => [category.code, category]));
  return new Set(categories.map(({ name, parent }) => `${byCode.get(parent)?.name ?? ""} > ${name}`));
};

const wanted = (tree: readonly Modelled[]): ReadonlySet<string> =>
  new Set(tree.map(({ above, name }) => `${above === undefined ? "" : tree[above]!.name} > ${name}`));

const nested = (tree: readonly Modelled[], above: number | undefined): readonly TreeNode[] =>
  tree.flatMap((one, at) =>
    one.above === above ? [node("branch", { id: one.code, name: one.name }, nested(tree, at))] : [],
  );

const shapes: Readonly<Record<string, (tree: readonly Modelled[]) => readonly ListedCategory[] | undefined>> =
  {
    "a code and a path": (tree) =>
      categorySheet(
        tableOf([["Code", "Path"], ...tree.map(({ code }, at) => [code, pathOf(tree, at).join(" > ")])]),
      )?.categories,
    "parent and child": (tree) =>
      categorySheet(
        tableOf([
          ["id", "parent id", "name"],
          ...tree.map(({ code, above, name }) => [code, above === undefined ? "" : tree[above]!.code, name]),
        ]),
      )?.categories,
    "a column a level": (tree) =>
      categorySheet(
        tableOf([
          [
            "Code",
            "Level 1",
            "Level 2",
            "Level 3",
            "Level 4",
            ...Array.from({ length: 8 }, (_, at) => `Level ${at + 5}`),
          ].slice(0, 9),
          ...inOrder(tree).map((at) => [tree[at]!.code, ...pathOf(tree, at)]),
        ]),
      )?.categories,
    "indented text": (tree) =>
      categorySheet(
        sheetOf(inOrder(tree).map((at) => [`${"  ".repeat(pathOf(tree, at).length - 1)}${tree[at]!.name}`])),
      )?.categories,
    "branches in branches": (tree) =>
      categoryTreePaper(treeOf(node("tree", {}, nested(tree, undefined))))?.categories,
    "elements with parents": (tree) =>
      categoryTreePaper(
        treeOf(
          node(
            "tree",
            {},
            tree.map(({ code, above, name }) =>
              node("one", { id: code, ...(above === undefined ? {} : { parent: tree[above]!.code }) }, [
                node("name", {}, [], name),
              ]),
            ),
          ),
        ),
      )?.categories,
  };

describe("lists of categories", () => {
  it.each(Object.entries(shapes))(
    "when a tree is written as %s, then the same tree is read",
    (name, read) => {
      fc.assert(
        fc.property(trees, (tree) => {
          const isDeep = tree.some(({ above }) => above !== undefined);
          // Without one that stands below another, indents and levels show no tree.
          if (!isDeep && /level|indented|path/.test(name)) return;
          const found = read(tree);
          expect(edges(found ?? [])).toEqual(wanted(tree));
        }),
        { numRuns: 60 },
      );
    },
  );

  it("when parents are missing, codes stand twice or a branch comes round to itself, then those rows are told and left out", () => {
    const list = categorySheet(
      tableOf([
        ["code", "parent", "name"],
        ["1", "", "A"],
        ["2", "1", "B"],
        ["3", "9", "C"],
        ["4", "5", "D"],
        ["5", "4", "E"],
        ["2", "1", "F"],
        ["6", "2", ""],
        ["7", "3", "G"],
      ]),
    )!;
    expect(list.categories.map(({ code }) => code)).toEqual(["1", "2"]);
    expect(list.broken.map(({ row }) => row)).toEqual([4, 5, 6, 7, 8, 9]);
    expect(list.broken[0]!.reason).toContain('"9"');
  });

  it("when only the last level of a row is written, then it stands under those above", () => {
    const list = categorySheet(
      tableOf([
        ["Level 1", "Level 2"],
        ["Garden", ""],
        ["", "Spades"],
        ["", "Forks"],
        ["Bees", "Hives"],
      ]),
    )!;
    expect(edges(list.categories)).toEqual(
      new Set([" > Garden", "Garden > Spades", "Garden > Forks", " > Bees", "Bees > Hives"]),
    );
  });

  it.each([
    ["Garden > Tools", ["Garden", "Tools"]],
    ["Garden/Tools", ["Garden", "Tools"]],
    ["Garden » Tools » Spades", ["Garden", "Tools", "Spades"]],
    ["Black and white", ["Black and white"]],
  ])("when a path is %j, then its steps are known", (path, steps) => {
    expect(pathSteps(path)).toEqual(steps);
  });

  it("when a channel names categories in words alone, then each has a code of its own", () => {
    expect(codeOf(["Garden", "Hand tools"])).toBe("garden.hand-tools");
  });

  it("when a table is about something else, then it is no list of categories", () => {
    expect(
      categorySheet(
        tableOf([
          ["Field", "Rules"],
          ["Title", "80"],
        ]),
      ),
    ).toBeUndefined();
    expect(
      categorySheet(
        tableOf([
          ["1", "2", "3"],
          ["4", "5", "6"],
        ]),
      ),
    ).toBeUndefined();
  });
});
