import { describe, expect, it } from "vitest";
import { rowsOf } from "../../../src/core/listing/file-family.js";
import { shape } from "../../../src/core/listing/shape.js";
import { shownText } from "../../../src/core/values/show.js";
import { definitionOf } from "../../kit/definition.js";
import { familyOf, outcomesOf, setupOf } from "../../kit/listing.js";

const place = { file: "definition.yaml", line: 1 };
const fields = `
field | scope | label  | kind  | list | need     | level
ref   | *     | Ref    | text  |      | required |
set   | *     | Set    | text  |      | optional | member
title | *     | Title  | text  |      | required | group
hue   | *     | Hue    | text  |      | optional | member
price | *     | Price  | money |      | required |
`;

const shaped = (
  model: "separate" | "shared-id" | "leading-member" | "group-row" | "nested",
  ...members: readonly Readonly<Record<string, string>>[]
): readonly string[] => {
  const { definition } = definitionOf({
    fields,
    source: {
      crossRules: [],
      roles: {},
      groups: { model, toldApartBy: "hue", groupField: "set", place },
    },
  });
  const setup = setupOf(definition, {
    fills: { ref: "sku", set: "group", title: '"{name}{, color}"', hue: "color", price: "price" },
  });
  const products = members.map((member) => ({
    ...{ name: "Spade", category: "Tools", price: "9 GBP", group: "G", varies_by: "color" },
    ...member,
  }));
  const family = shape(outcomesOf(setup, ...products), familyOf(products), setup);
  return family === undefined
    ? []
    : rowsOf(family).map(
        (row) =>
          `${row.kind} ${row.sku}: ${definition.fields.map((field) => shownText(row.value(field))).join(" | ")}`,
      );
};

const two = [
  { sku: "a", color: "red" },
  { sku: "b", color: "blue" },
];

describe("how a channel shows what varies together", () => {
  it.each([
    [
      "separate",
      ["single a: a | G | Spade, red | red | 9.00 GBP", "single b: b | G | Spade, blue | blue | 9.00 GBP"],
    ],
    [
      "shared-id",
      ["member a: a | G | Spade, red | red | 9.00 GBP", "member b: b | G | Spade, blue | blue | 9.00 GBP"],
    ],
    [
      "leading-member",
      ["leader a: a |  | Spade, red | red | 9.00 GBP", "member b: b | a | Spade, blue | blue | 9.00 GBP"],
    ],
    [
      "group-row",
      [
        "group G: G | G | Spade |  | ",
        "member a: a | G |  | red | 9.00 GBP",
        "member b: b | G |  | blue | 9.00 GBP",
      ],
    ],
    [
      "nested",
      [
        "group G:  |  | Spade |  | ",
        "member a: a |  |  | red | 9.00 GBP",
        "member b: b |  |  | blue | 9.00 GBP",
      ],
    ],
  ] as const)(
    "when the model is %s, then rows, references and the group's own texts are its",
    (model, rows) => expect(shaped(model, ...two)).toEqual(rows),
  );

  it("when a group has one member, then it stands alone and refers to none", () =>
    expect(shaped("group-row", { sku: "a", color: "red" })).toEqual([
      "single a: a |  | Spade, red | red | 9.00 GBP",
    ]));

  it("when a member is held, then the others stay a group; when it is left out by us, then they need not", () => {
    expect(shaped("shared-id", ...two, { sku: "c", color: "green", category: "Boats" }).length).toBe(2);
    expect(
      shaped("shared-id", { sku: "a", color: "red" }, { sku: "c", color: "green", category: "Boats" }),
    ).toEqual(["member a: a | G | Spade, red | red | 9.00 GBP"]);
    expect(
      shaped("shared-id", { sku: "a", color: "red" }, { sku: "c", color: "green", keep_off: "stall" }),
    ).toEqual(["single a: a |  | Spade, red | red | 9.00 GBP"]);
  });

  it("when a product has the group's name for a SKU, then the group's row has another", () =>
    expect(shaped("group-row", { sku: "G", color: "red" }, { sku: "b", color: "blue" })[0]).toMatch(
      /^group G-ALL: G-ALL \|/,
    ));
});
