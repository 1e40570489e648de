import { buildDefinition, type BuiltDefinition } from "../../src/core/channel/build-definition.js";
import type { DefinitionSource, TableRow } from "../../src/core/channel/definition-source.js";
import { surroundings } from "./evaluate.js";

const tableRow = (file: string, row: number, cells: Readonly<Record<string, string>>): TableRow => ({
  cell: (column) => cells[column] ?? "",
  place: (column) => ({ file, row, ...(column === undefined ? {} : { column }) }),
});

const place = { file: "definition.yaml", line: 1 };

/** Rows of a table written as text: the header's names, then a line a row, cells between bars. */
export const rowsOf = (file: string, text: string): readonly TableRow[] => {
  const [header = "", ...lines] = text.trim().split("\n");
  const names = header.split("|").map((name) => name.trim());
  return lines.map((line, index) => {
    const cells = line.split("|").map((cell) => cell.trim());
    return tableRow(file, index + 2, Object.fromEntries(names.map((name, at) => [name, cells[at] ?? ""])));
  });
};

const categories = `
code | parent | name | search_words
g    |        | Garden |
g.t  | g      | Tools  | implement
g.t.s| g.t    | Spades |
w    |        | Wear   | clothes
w.t  | w      | Tools  |
`;

const fields = `
field | scope | label  | kind    | list | need        | when            | unit | decimals | max_length | max | max_items | values | pattern
ref   | *     | Ref    | text    |      | required    |                 |      |          | 10         |     |           |        | [a-z0-9-]+
title | *     | Title  | text    |      | required    |                 |      |          | 20         |     |           |        |
price | *     | Price  | money   |      | required    |                 |      | 2        |            | 500 |           |        |
was   | *     | Was    | money   |      | optional    |                 |      | 2        |            |     |           |        |
hue   | *     | Hue    | choice  |      | optional    |                 |      |          |            |     |           | hue    |
hue   | w     |        |         |      | required    |                 |      |          |            |     |           |        |
heft  | *     | Heft   | measure |      | optional    |                 | kg   | 3        |            | 30  |           |        |
heft  | g.t   |        |         |      | recommended |                 |      |          |            |     |           |        |
heft  | g.t.s |        |         |      | required    | price > money(100, "GBP") |      |          |            |     |           |        |
shots | *     | Shots  | url     | yes  | optional    |                 |      |          |            |     | 2         |        |
`;

export interface DefinitionParts {
  readonly categories?: string;
  readonly fields?: string;
  readonly source?: Partial<DefinitionSource>;
}

/** A small definition in memory; parts can be replaced to spoil it. */
export const definitionOf = (parts: DefinitionParts = {}): BuiltDefinition =>
  buildDefinition(
    {
      place,
      channel: "stall",
      label: "Stall",
      version: "1",
      languages: ["en"],
      currencies: ["GBP"],
      countries: ["GB"],
      identifiedBy: "ref",
      categoryField: undefined,
      categoryBy: "path",
      roles: { name: "title", price: "price" },
      groups: { model: "separate", toldApartBy: "title", groupField: undefined, place },
      purposes: [{ purpose: "full", place }],
      fileLimits: {},
      results: undefined,
      axes: [],
      banned: [],
      crossRules: [
        {
          code: "was-higher",
          scope: "*",
          holds: { text: "was is blank or was > price", place },
          says: "the old price must be higher",
          severity: "error",
          place,
        },
      ],
      layouts: [{ name: "table", format: "tsv", file: "stall.tsv", columns: ["ref", "title"], place }],
      categories: rowsOf("categories.csv", parts.categories ?? categories).map((row) => ({
        code: row.cell("code"),
        parent: row.cell("parent"),
        name: row.cell("name"),
        searchWords: row.cell("search_words"),
        otherNames: [],
        isClosed: row.cell("closed") === "yes",
        place: row.place(),
      })),
      retired: [],
      fields: rowsOf("fields.csv", parts.fields ?? fields),
      valueLists: [
        {
          name: "hue",
          place: { file: "values/hue.csv" },
          values: [
            { value: "green", label: "Green", synonyms: ["moss", "forest"] },
            { value: "red", label: "Red", synonyms: [] },
          ],
        },
      ],
      ...parts.source,
    },
    (source) => {
      try {
        const own = new RegExp(`^(?:${source})$`);
        return {
          source,
          matches: (text) => own.test(text),
          find: (text) => new RegExp(source).exec(text)?.[0],
        };
      } catch (error) {
        return { reason: String(error) };
      }
    },
    surroundings,
  );
