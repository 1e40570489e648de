import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { compareDefinitions } from "../../../src/core/learning/compare-definitions.js";
import type { ChannelDefinition } from "../../../src/core/channel/definition.js";
import { buildDefinition } from "../../../src/core/channel/build-definition.js";
import type { DefinitionSource, TableRow } from "../../../src/core/channel/definition-source.js";

type Row = Readonly<Record<string, string>>;

const place = { file: "definition.yaml" };

const tableRow = (row: Row, at: number): TableRow => ({
  cell: (column) => new Map(Object.entries(row)).get(column) ?? "",
  place: () => ({ file: "fields.csv", row: at + 2 }),
});

interface Wish {
  readonly fields: readonly Row[];
  readonly lists?: Readonly<Record<string, readonly string[]>>;
  readonly tree?: readonly (readonly [code: string, parent: string, name: string])[];
  readonly retired?: DefinitionSource["retired"];
}

/** A definition with little but what is compared. */
const definitionOf = ({
  fields,
  lists = {},
  tree = [["all", "", "All"]],
  retired = [],
}: Wish): ChannelDefinition => {
  const built = buildDefinition(
    {
      ...{
        place,
        channel: "acorn",
        label: "Acorn",
        version: "1",
        languages: ["en"],
        currencies: ["GBP"],
        countries: [],
      },
      ...{
        identifiedBy: fields[0]?.["field"] ?? "",
        categoryField: undefined,
        categoryBy: "code",
        roles: {},
      },
      groups: { model: "separate", toldApartBy: fields[0]?.["field"], groupField: undefined, place },
      purposes: [{ purpose: "full", place }],
      fileLimits: {},
      results: undefined,
      ...{ axes: [], banned: [], crossRules: [] },
      layouts: [{ name: "t", format: "csv", file: "t.csv", place }],
      categories: tree.map(([code, parent, name]) => ({
        code,
        parent,
        name,
        searchWords: "",
        otherNames: [],
        isClosed: false,
        place,
      })),
      retired,
      fields: fields.map((row, at) => tableRow({ scope: "*", kind: "text", ...row }, at)),
      valueLists: Object.entries(lists).map(([name, values]) => ({
        name,
        place,
        values: values.map((value) => ({ value, label: "", synonyms: [] })),
      })),
    },
    () => ({ reason: "no patterns here" }),
    { today: { kind: "date", iso: "2027-01-01" } },
  );
  expect(built.findings).toEqual([]);
  return built.definition;
};

const f = (field: string, label: string, more: Row = {}): Row => ({
  field,
  label,
  need: "optional",
  ...more,
});

const shown = (before: Wish, after: Wish): readonly string[] =>
  compareDefinitions(definitionOf(before), definitionOf(after)).changes.map(({ change, ...facts }) =>
    [
      change,
      ...Object.entries(facts).flatMap(([key, value]) =>
        ["confidence", "because", "label", "toLabel", "path", "toPath"].includes(key) ? [] : [String(value)],
      ),
    ].join(" "),
  );

const base = [
  f("sku", "Item number"),
  f("title", "Title", { max_length: "80" }),
  f("brand", "Brand"),
  f("hue", "Colour", { kind: "choice", values: "hue" }),
];
const lists = { hue: ["Green", "Grey", "Red", "Blue"] };

describe("two versions of a definition", () => {
  it("when nothing changed, then nothing is told, whatever the definition", () => {
    const names = fc.uniqueArray(fc.constantFrom("title", "brand", "price", "stock", "size", "care"), {
      minLength: 1,
    });
    fc.assert(
      fc.property(
        names,
        fc.uniqueArray(fc.constantFrom("a", "b", "c", "d"), { minLength: 1 }),
        (own, values) => {
          const wish = {
            fields: own.map((name) => f(name, name, name === "size" ? { kind: "choice", values: "v" } : {})),
            lists: { v: values },
          };
          expect(shown(wish, wish)).toEqual([]);
        },
      ),
      { numRuns: 40 },
    );
  });

  it.each([
    ["a field comes", [...base, f("care", "Care note", { need: "required" })], ["field-added care required"]],
    ["a field goes", base.filter(({ field }) => field !== "brand"), ["field-gone brand"]],
    [
      "a need moves",
      base.map((row) => (row["field"] === "brand" ? { ...row, need: "required" } : row)),
      ["field-moved brand * need optional required"],
    ],
    [
      "a length moves",
      base.map((row) => (row["field"] === "title" ? { ...row, max_length: "60" } : row)),
      ["field-moved title * max length 80 60"],
    ],
    [
      "a heading is other",
      base.map((row) => (row["field"] === "brand" ? { ...row, label: "Make" } : row)),
      ["field-moved brand * label Brand Make"],
    ],
    [
      "a field is called otherwise",
      base.map((row) => (row["field"] === "brand" ? { ...row, field: "make", label: "Brand name" } : row)),
      ["field-renamed brand make"],
    ],
    [
      "a field of another meaning takes its place",
      base.map((row) =>
        row["field"] === "brand" ? { ...row, field: "gtin", label: "Barcode", kind: "gtin" } : row,
      ),
      ["field-gone brand", "field-added gtin optional"],
    ],
  ])("when %s, then just that is told", (_, fields, wanted) => {
    expect([...shown({ fields: base, lists }, { fields, lists })].sort()).toEqual([...wanted].sort());
  });

  it.each([
    ["comes", ["Green", "Grey", "Red", "Blue", "Teal"], ["value-added hue * Teal"]],
    ["goes", ["Green", "Grey", "Red"], ["value-gone hue * Blue"]],
    ["is spelled otherwise", ["Green", "Gray", "Red", "Blue"], ["value-renamed hue * Grey Gray"]],
    ["takes another's place", ["Green", "Stone", "Red", "Blue"], ["value-renamed hue * Grey Stone"]],
    ["moves in its list", ["Blue", "Grey", "Red", "Green"], []],
  ])("when a value %s, then just that is told", (_, hue, wanted) => {
    expect(shown({ fields: base, lists }, { fields: base, lists: { hue } })).toEqual(wanted);
  });

  it("when a field is renamed with its list, then its values are still compared", () => {
    const fields = base.map((row) =>
      row["field"] === "hue" ? { ...row, field: "shade", label: "Shade of colour" } : row,
    );
    expect(shown({ fields: base, lists }, { fields, lists: { hue: [...lists.hue, "Teal"] } })).toEqual([
      "field-renamed hue shade",
      "value-added shade * Teal",
    ]);
  });

  it("when lists are as long as they get, then renamings are found all the same, without holding each against each", () => {
    const words = Array.from(
      { length: 3000 },
      (_, at) => `Model ${(at * 7919) % 3001} ${"abcdefgh"[at % 8]}x`,
    );
    const next = words.map((word, at) => (at % 3 === 0 ? word.replace("Model", "Modell") : word));
    const found = shown({ fields: base, lists: { hue: words } }, { fields: base, lists: { hue: next } });
    expect(found.length).toBe(1000);
    expect(found.filter((line) => !line.startsWith("value-renamed"))).toEqual([]);
  });

  const tree = [
    ["1", "", "Garden"],
    ["11", "1", "Spades"],
    ["12", "1", "Forks"],
    ["13", "1", "Seeds"],
    ["2", "", "Bees"],
  ] as const;

  it.each([
    ["comes", [...tree, ["21", "2", "Hives"]], ["category-added 21"]],
    ["goes", tree.slice(0, 4), ["category-gone 2"]],
    ["moves", tree.map((row) => (row[0] === "13" ? ["13", "2", "Seeds"] : row)), ["category-moved 13 13"]],
    [
      "is called otherwise",
      tree.map((row) => (row[0] === "12" ? ["12", "1", "Forks and rakes"] : row)),
      ["category-moved 12 12"],
    ],
    [
      "has another code",
      tree.map((row) => (row[0] === "12" ? ["120", "1", "Forks"] : row)),
      ["category-moved 12 120"],
    ],
  ] as const)("when a category %s, then just that is told", (_, next, wanted) => {
    expect(
      shown(
        { fields: base, lists, tree: [...tree] },
        { fields: base, lists, tree: next as readonly (readonly [string, string, string])[] },
      ),
    ).toEqual(wanted);
  });

  it("when the channel names a successor, then that is believed before any likeness", () => {
    const next = tree.map((row) => (row[0] === "12" ? (["99", "2", "Tines"] as const) : row));
    const after = {
      fields: base,
      lists,
      tree: next,
      retired: [{ code: "12", successor: "99", since: "2", place }],
    };
    const { renamings } = compareDefinitions(
      definitionOf({ fields: base, lists, tree }),
      definitionOf(after),
    );
    expect(renamings.categories.get("12")).toBe("99");
  });
});
