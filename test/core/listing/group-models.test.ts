import { describe, expect, it } from "vitest";
import { rowsOf } from "../../../src/core/listing/shape/file-family.js";
import type { LiveListing } from "../../../src/core/listing/live-listing.js";
import { shape } from "../../../src/core/listing/shape/shape.js";
import { shownText } from "../../../src/core/values/show.js";
import { definitionOf, rowsOf as rowsOfTable } from "../../kit/definition.js";
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

type Model = "separate" | "shared-id" | "leading-member" | "group-row" | "nested";
type Member = Readonly<Record<string, string>>;

const shaped = (model: Model, ...members: readonly Member[]): readonly string[] =>
  shapedWith(model, {}, ...members);

const shapedWith = (
  model: Model,
  options: Parameters<typeof setupOf>[1] & object,
  ...members: readonly Member[]
): readonly string[] => {
  const { definition } = definitionOf({
    fields,
    source: {
      crossRules: [],
      roles: {},
      axes: rowsOfTable("axes.csv", "scope|axes|most_axes|most_members\n*|color; size|1|9\n"),
      groups: { model, toldApartBy: "hue", groupField: "set", place },
    },
  });
  const setup = setupOf(definition, {
    ...options,
    fills: { ref: "sku", set: "group", title: '"{name}{, color}"', hue: "color", price: "price" },
  });
  const products = members.map((member) => ({
    ...{ name: "Spade", category: "Tools", price: "9 GBP", group: "G", varies_by: "color" },
    ...member,
  }));
  return shape(outcomesOf(setup, ...products), familyOf(products), setup)
    .flatMap(rowsOf)
    .map(
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

  const jars = [
    { sku: "a", color: "gold", size: "S", varies_by: "size\u001ecolor" },
    { sku: "b", color: "gold", size: "M", varies_by: "size\u001ecolor" },
    { sku: "c", color: "black", size: "S", varies_by: "size\u001ecolor" },
  ];

  it("when a group varies by more than is taken, then it is held, split by what is too much, or each stands alone", () => {
    expect(shapedWith("shared-id", {}, ...jars)).toEqual([]);
    expect(shapedWith("shared-id", { regrouping: "split" }, ...jars)).toEqual([
      "member a: a | G-gold | Spade, gold | gold | 9.00 GBP",
      "member b: b | G-gold | Spade, gold | gold | 9.00 GBP",
      "single c: c |  | Spade, black | black | 9.00 GBP",
    ]);
    expect(shapedWith("group-row", { regrouping: "split" }, ...jars).slice(0, 2)).toEqual([
      "group G-gold: G-gold | G-gold | Spade, gold |  | ",
      "member a: a | G-gold |  | gold | 9.00 GBP",
    ]);
    expect(
      shapedWith("shared-id", { regrouping: "alone" }, ...jars).map((row) => row.split(" |")[0]),
    ).toEqual(["single a: a", "single b: b", "single c: c"]);
  });

  const sent = (group: string, values: Readonly<Record<string, string>>): LiveListing => ({
    ...{ name: "Spade", gtin: undefined, price: "9 GBP", category: "g.t", axes: "color", group, values },
  });

  it("when the channel knows who leads, then it stays; a member that comes later does not take its place", () => {
    const live = { b: sent("G", { ref: "b" }), a: sent("G", { ref: "a", set: "b" }) };
    expect(shapedWith("leading-member", { live }, { sku: "new", color: "green" }, ...two)).toEqual([
      "leader b: b |  | Spade, blue | blue | 9.00 GBP",
      "member new: new | b | Spade, green | green | 9.00 GBP",
      "member a: a | b | Spade, red | red | 9.00 GBP",
    ]);
  });

  it("when a group that was sent shrinks to one, then the channel still sees its last member in it", () => {
    const live = { a: sent("G", { ref: "a", set: "G" }) };
    expect(shapedWith("shared-id", { live }, { sku: "a", color: "red" })).toEqual([
      "member a: a | G | Spade, red | red | 9.00 GBP",
    ]);
  });
});
