import { describe, expect, it } from "vitest";
import { sortPapers } from "../../../src/core/learning/sort-papers.js";
import { dropDown, node, sheetOf, tableOf, treeOf } from "../../kit/papers.js";

const head = ["SKU", "Title", "Price", "Colour", "Stock"];
const listings = [
  ["A-1", "Spade", "12.50", "Green", "4"],
  ["A-2", "Fork", "9.00", "Grey", "2"],
];

const what = (...papers: Parameters<typeof sortPapers>[0]): Readonly<Record<string, number>> => {
  const { templates, filled, guides, categories, schemas, reports, lives, rest, faults } = sortPapers(papers);
  return Object.fromEntries(
    Object.entries({ templates, filled, guides, categories, schemas, reports, lives, rest, faults }).flatMap(
      ([name, list]) => (list.length > 0 ? [[name, list.length]] : []),
    ),
  );
};

describe("what papers are for", () => {
  it("when a workbook has a cover, a guide, an example and hidden lists, then the sheet to fill is known among them", () => {
    expect(
      what(
        sheetOf([["How to fill in this sheet"], ["One row an item."]], { sheet: "Cover" }),
        sheetOf([head], { sheet: "Fill in", rules: [dropDown(3, 1, ["Green", "Grey"])] }),
        sheetOf([head, ...listings], { sheet: "Example" }),
        sheetOf(
          [
            ["Field", "Meaning", "Required"],
            ["SKU", "Yours", "yes"],
            ["Title", "Short", "yes"],
            ["Price", "In GBP", "no"],
          ],
          { sheet: "Guide" },
        ),
        sheetOf(
          [
            ["Colour", "Size", "Kind"],
            ["Green", "S", "x"],
            ["Grey", "M", "y"],
          ],
          { sheet: "lists", isHidden: true },
        ),
      ),
    ).toEqual({ templates: 1, filled: 1, guides: 1, rest: 2 });
  });

  it("when tables are what was sent, what came back and what is live, then each is known", () => {
    expect(
      what(
        tableOf([head, ...listings], "sent.csv"),
        tableOf(
          [
            ["line", "SKU", "outcome", "reason"],
            ["2", "A-1", "taken", ""],
            ["3", "A-2", "refused", "too short"],
          ],
          "result.csv",
        ),
        tableOf(
          [
            ["shelf id", "SKU", "Title", "Price"],
            ["S1", "A-1", "Spade", "12.50"],
          ],
          "live.csv",
        ),
        tableOf(
          [
            ["code", "parent", "name"],
            ["1", "", "Garden"],
            ["2", "1", "Tools"],
          ],
          "tree.csv",
        ),
      ),
    ).toEqual({ templates: 1, reports: 1, lives: 1, categories: 1 });
  });

  it("when two tables have columns of their own beside shared ones, then both are templates", () => {
    expect(
      what(
        tableOf([head], "tools.csv"),
        tableOf([[...head.slice(0, 3), "Size", "Care", "Fabric"]], "clothes.csv"),
      ),
    ).toEqual({ templates: 2 });
  });

  it("when two sheets with drop-downs are to be filled, then both are; without, a person is asked", () => {
    const tools = sheetOf([["SKU", "Title", "Blade"]], { sheet: "Tools" });
    const books = sheetOf([["ISBN", "Author", "Pages"]], { sheet: "Books" });
    const withRule = (sheet: typeof tools) => ({ ...sheet, rules: [dropDown(2, 1, ["a", "b"])] });
    expect(what(withRule(tools), withRule(books))).toEqual({ templates: 2 });
    expect(what(tools, books)["faults"]).toBe(1);
  });

  it("when a document nests names and codes alone, then it is a tree; with more in it, a sample", () => {
    const branch = (name: string, ...below: Parameters<typeof node>[2] & object[]) =>
      node("branch", { id: name, name }, below);
    expect(what(treeOf(node("tree", {}, [branch("Garden", branch("Tools")), branch("Bees")])))).toEqual({
      categories: 1,
    });
    const article = (no: string) =>
      node(
        "article",
        { no },
        ["title", "price", "stock", "hue", "size", "brand"].map((name) => node(name, {}, [], "x")),
      );
    expect(what(treeOf(node("goods", {}, [article("1"), article("2")])))).toEqual({ schemas: 1 });
  });

  it("when there is nothing to learn from, then nothing is made up", () => {
    expect(what()).toEqual({});
    expect(
      what(
        sheetOf([[]]),
        tableOf([
          ["1", "2"],
          ["3", "4"],
        ]),
      )["templates"],
    ).toBeUndefined();
  });
});
