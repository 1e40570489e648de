import { listingKept } from "../../../src/core/listing/live-text.js";
import { describe, expect, it } from "vitest";
import type { ChannelDefinition } from "../../../src/core/channel/definition.js";
import type { PurposeName } from "../../../src/core/channel/purpose-names.js";
import { rowsOf, type FileFamily } from "../../../src/core/listing/shape/file-family.js";
import { shape } from "../../../src/core/listing/shape/shape.js";
import type { LiveListing } from "../../../src/core/listing/live-listing.js";
import { differenceOf } from "../../../src/core/purpose/difference.js";
import { noted } from "../../../src/core/purpose/noted.js";
import { purposeFields, type PurposeFacts } from "../../../src/core/purpose/purpose.js";
import { purposes } from "../../../src/core/purpose/purposes.js";
import { withdrawal } from "../../../src/core/purpose/withdraw.js";
import { definitionOf } from "../../kit/definition.js";
import { familyOf, outcomesOf, setupOf } from "../../kit/listing.js";

const place = { file: "definition.yaml", line: 1 };
const { definition } = definitionOf({
  fields: `
field | scope | label  | kind    | need     | level
ref   | *     | Ref    | text    | required |
set   | *     | Set    | text    | optional | group
title | *     | Title  | text    | required | group
hue   | *     | Hue    | text    | optional | member
price | *     | Price  | money   | required |
count | *     | Count  | integer | optional |
`,
  source: {
    crossRules: [],
    roles: { price: "price" },
    groups: { model: "group-row", toldApartBy: undefined, groupField: "set", place },
    purposes: [
      { purpose: "full", blank: "erase", action: "put", place },
      { purpose: "amend", blank: "leave", must: ["ref"], action: "change", place },
      { purpose: "offer", blank: "leave", must: ["ref", "price"], may: ["count"], place },
      { purpose: "stock", blank: "leave", must: ["ref", "count"], place },
      { purpose: "withdraw", blank: "leave", must: ["ref"], place },
    ],
  },
});

const two = [
  {
    sku: "a",
    name: "Spade",
    category: "Tools",
    group: "G",
    varies_by: "color",
    color: "red",
    price: "9 GBP",
    quantity: "3",
  },
  {
    sku: "b",
    name: "Spade",
    category: "Tools",
    group: "G",
    varies_by: "color",
    color: "blue",
    price: "9 GBP",
  },
];

const setup = setupOf(definition, {
  fills: { ref: "sku", set: "group", title: "name", hue: "color", price: "price", count: "quantity" },
});

const shaped = (products: readonly Readonly<Record<string, string>>[]): FileFamily => {
  const [family] = shape(outcomesOf(setup, ...products), familyOf(products), setup);
  if (family === undefined) throw new Error("nothing is ready");
  return family;
};

type Live = Readonly<Record<string, LiveListing>>;

const factsOf = (purpose: PurposeName, live: Live = {}, more: Partial<PurposeFacts> = {}): PurposeFacts => {
  const rule = (definition as ChannelDefinition).purposeRules.find((one) => one.purpose === purpose);
  if (rule === undefined) throw new Error("no such purpose");
  return {
    ...{ purpose, rule, definition, live: (sku) => live[sku] },
    fields: purposeFields(definition, rule),
    ...{ only: undefined, keepLive: false, changedOnly: false },
    ...more,
  };
};

/** What the channel has after a full file of these. */
const sent = (products: readonly Readonly<Record<string, string>>[]): Live =>
  Object.fromEntries(
    rowsOf(shaped(products)).flatMap((row) => {
      const entry = noted(row, factsOf("full"));
      return entry === undefined ? [] : [[row.sku, listingKept(entry)]];
    }),
  );

const told = (
  purpose: Exclude<PurposeName, "withdraw">,
  products: readonly Readonly<Record<string, string>>[],
  live: Live = {},
  more: Partial<PurposeFacts> = {},
): readonly string[] => {
  const applied = purposes[purpose](shaped(products), factsOf(purpose, live, more));
  return applied === undefined
    ? []
    : rowsOf(applied).map((row) => {
        const values = definition.fields.flatMap((field) => {
          const value = row.value(field);
          return value === undefined ? [] : [field.code];
        });
        return `${row.kind} ${row.sku}: ${values.join(" ")}`;
      });
};

const cheaper = [{ ...two[0], price: "8 GBP" }, two[1] ?? {}] as typeof two;
const field = (code: string) => new Set(definition.fields.filter((one) => one.code === code));

describe("what a file is for", () => {
  it("when it is full, then everything goes; only what changed where that is asked, with the group above it", () => {
    expect(told("full", two)).toEqual([
      "group G: ref set title",
      "member a: ref set hue price count",
      "member b: ref set hue price",
    ]);
    const live = sent(two);
    expect(told("full", two, live, { changedOnly: true })).toEqual([]);
    expect(told("full", cheaper, live, { changedOnly: true })).toEqual([
      "group G: ref set title",
      "member a: ref set hue price count",
    ]);
  });

  it("when a value is blank that is live, then keeping it fills it from there", () => {
    const blank = [{ ...two[0], quantity: "" }, two[1] ?? {}] as typeof two;
    expect(told("full", blank, sent(two))[1]).toBe("member a: ref set hue price");
    expect(told("full", blank, sent(two), { keepLive: true })[1]).toBe("member a: ref set hue price count");
  });

  it("when it amends, then only what differs goes beside the keys, or what was asked for; new listings wait", () => {
    const live = sent(two);
    expect(told("amend", two, live)).toEqual([]);
    expect(told("amend", cheaper, live)).toEqual(["member a: ref set price"]);
    expect(told("amend", two, live, { only: field("hue") })).toEqual([
      "member a: ref set hue",
      "member b: ref set hue",
    ]);
    expect(told("amend", cheaper)).toEqual([]);
  });

  it("when it is an offer or stock, then the fields that it must and may carry go, for what has those it must", () => {
    expect(told("offer", two, sent(two))).toEqual(["member a: ref price count", "member b: ref price"]);
    expect(told("stock", two, sent(two))).toEqual(["member a: ref count"]);
    expect(told("stock", two, sent(two), { changedOnly: true })).toEqual([]);
    expect(
      told("stock", [{ ...two[0], quantity: "2" }, two[1] ?? {}] as typeof two, sent(two), {
        changedOnly: true,
      }),
    ).toEqual(["member a: ref count"]);
  });

  it.each(["amend", "offer", "stock"] as const)(
    "when the channel was never sent a product, then it is in no %s file, and named as left out",
    (purpose) => {
      const left: string[] = [];
      const omit: PurposeFacts["omit"] = (row, { code }) => left.push(`${row.sku} ${code}`);
      expect(told(purpose, two, {}, { omit })).toEqual([]);
      expect(left).toEqual(["a never-sent", "b never-sent"]);
    },
  );

  it("when what a stock row must have is blank, then it is left out and the field is named", () => {
    const left: string[] = [];
    const omit: PurposeFacts["omit"] = (row, { facts }) => left.push(`${row.sku} ${JSON.stringify(facts)}`);
    told("stock", two, sent(two), { omit });
    expect(left).toEqual(['b {"purpose":"stock","labels":["Count"]}']);
  });

  it("when a part was sent, then the ledger keeps the rest as it was", () => {
    const live = sent(two);
    const facts = factsOf("stock", live);
    const applied = purposes.stock(
      shaped([{ ...two[0], quantity: "1", price: "1 GBP" }, two[1] ?? {}] as typeof two),
      facts,
    );
    const [row] = applied === undefined ? [] : rowsOf(applied);
    const kept = row === undefined ? undefined : noted(row, facts);
    const entry = kept === undefined ? undefined : listingKept(kept);
    expect(entry).toMatchObject({ price: "9 GBP", values: { count: "1", price: "9.00 GBP", hue: "red" } });
  });

  it("when a listing is withdrawn, then its row says which one it was", () => {
    const live = sent(two)["a"];
    if (live === undefined) throw new Error("not sent");
    const [row] = rowsOf(withdrawal("a", live, definition));
    expect(definition.fields.map((one) => row?.value(one))[0]).toBe("a");
    expect(row?.category?.code).toBe("g.t");
  });
});

describe("the difference to what is there", () => {
  it("when a price changed, then that field is told with both values; a new row is new, the rest the same", () => {
    const live = sent(two);
    const differences = rowsOf(shaped(cheaper)).map((row) => differenceOf(row, live[row.sku], definition));
    expect(differences).toEqual([
      { kind: "same", sku: "G" },
      { kind: "changed", sku: "a", changes: [{ field: "price", before: "9.00 GBP", after: "8.00 GBP" }] },
      { kind: "same", sku: "b" },
    ]);
    expect(rowsOf(shaped(two)).map((row) => differenceOf(row, undefined, definition).kind)).toEqual([
      "new",
      "new",
      "new",
    ]);
  });
});
