import { describe, expect, it } from "vitest";
import { listingOf, type Listing } from "../../../src/core/listing/listing.js";
import { place } from "../../../src/core/listing/place.js";
import type { Plans } from "../../../src/core/listing/plan.js";
import { price } from "../../../src/core/listing/price/price.js";
import { asFieldCode } from "../../../src/core/ids.js";
import { canonicalText } from "../../../src/core/values/show.js";
import { definitionOf } from "../../kit/definition.js";
import { outcomesOf, setupOf, told } from "../../kit/listing.js";

const { definition } = definitionOf();
const setup = setupOf(definition);
const spade = {
  sku: "spade",
  name: "Spade",
  category: "Tools > Spades",
  price: "44.50 GBP",
  weight: "2.1 kg",
};
const only = (texts: Readonly<Record<string, string>>, own = setup) => outcomesOf(own, texts)[0];

describe("what becomes of a product on a channel", () => {
  it("when all that the category demands is there, then it is ready, with values in the field's unit and decimals", () => {
    const outcome = only({ ...spade, weight: "4.63 lb" });
    expect(told(outcome)).toBe("ready: ");
    if (outcome?.kind !== "ready") return;
    const values = definition.fields.map(({ code, slot }) => [
      code,
      canonicalText(outcome.listing.value(slot)),
    ]);
    expect(Object.fromEntries(values)).toMatchObject({
      ref: "spade",
      title: "Spade",
      price: "44.50 GBP",
      heft: "2.1 kg",
    });
  });

  it("when the selection does not hold, then it is left out", () => {
    expect(told(only(spade, setupOf(definition, { select: "quantity > 0" })))).toBe(
      "left-out: it does not meet the channel's condition: quantity > 0",
    );
  });

  it("when it is filled and then left out, then its listing is kept with the reason", () => {
    const outcome = only(spade, {
      ...setup,
      selection: { ...setup.selection, leastReadiness: 101 },
    });
    expect(outcome).toMatchObject({ kind: "left-out", findings: [{ code: "below-least-readiness" }] });
    const listing = outcome === undefined ? undefined : listingOf(outcome);
    expect(listing?.plan.fields.length).toBeGreaterThan(1);
    expect(listing?.value(definition.fields.find(({ code }) => code === "title")?.slot ?? -1)).toBe("Spade");
  });

  it("when it was priced, then the compiler lets nobody place or price it again", () => {
    const again = (listing: Listing, plans: Plans): unknown[] => [
      // @ts-expect-error a product as the channel sees it has its place already
      place(listing.product, setup, plans),
      // @ts-expect-error and its price
      price(listing, undefined, setup),
    ];
    expect(again).toBeTypeOf("function");
  });

  it("when its category has no placement, then the sentence names the file to add it to", () => {
    expect(told(only({ ...spade, category: "Spades & more" }))).toContain(
      'unplaced: "Spades & more" has no place on the channel',
    );
    expect(told(only({ sku: "x", name: "X" }))).toContain("has no category in the catalogue");
  });

  it("when a product stands apart from its category, then its own placement wins", () => {
    expect(told(only({ ...spade, sku: "GLOVE" }))).toContain("Hue is missing and required");
  });

  it("when a condition of the definition holds, then the field is required", () => {
    const without = { ...spade, weight: "" };
    expect(told(only(without))).toContain("ready: Heft is missing; the channel recommends it");
    expect(told(only({ ...without, price: "120.00 GBP" }))).toContain("held: Heft is missing and required");
  });

  it.each([
    [{ sku: "Spade" }, 'Ref is "Spade", which is not of the form the channel wants'],
    [{ name: "A very long name for a spade" }, "Title has 28 characters, at most 20 are allowed"],
    [{ price: "501.00 GBP" }, "Price is 501.00 GBP, it must be at most 500"],
    [{ price: "44.50 EUR" }, "Price is 44.50 EUR; the channel takes GBP"],
    [{ list_price: "40.00 GBP" }, "the old price must be higher"],
    [{ color: "gren" }, '"gren" is not a value of Hue; nearest: "green" (add a row for it to lexicon.csv)'],
    [
      { images: "https://a.example/1.jpg\u001ehttps://a.example/2.jpg\u001ehttps://a.example/3.jpg" },
      "Shots has 3 values, at most 2 are allowed",
    ],
  ])("when %j breaks a rule, then it is held and told: %s", (change, expected) => {
    expect(told(only({ ...spade, ...change }))).toContain(expected);
    expect(told(only({ ...spade, ...change }))).toMatch(/^held/);
  });

  it("when our term stands in the lexicon or among the definition's synonyms, then it is translated", () => {
    const own = setupOf(definition, {
      lexicon: [{ field: asFieldCode("hue"), ourCategory: "Tools", ourTerm: "Rust", channelValue: "red" }],
    });
    for (const [term, value] of [
      ["rust", "red"],
      ["forest", "green"],
    ] as const) {
      const outcome = only({ ...spade, color: term }, own);
      expect(outcome?.kind === "ready" ? outcome.listing.value(4) : told(outcome)).toBe(value);
    }
  });

  it("when two members have the same title, then the later one is held and points at the first", () => {
    const [first, second] = outcomesOf(
      setup,
      { ...spade, group: "S", varies_by: "color" },
      { ...spade, sku: "spade-2", group: "S", varies_by: "color" },
    );
    expect(told(first)).toBe("ready: ");
    expect(told(second)).toContain('the title "Spade" is also that of spade in the same family; use color');
  });

  it("when a finding is made, then it names product, channel, category, field, and where value, rule and fill stand", () => {
    const outcome = only({ ...spade, name: "A very long name for a spade" });
    expect(outcome?.kind === "held" ? outcome.findings[0] : undefined).toMatchObject({
      code: "too-long",
      product: "spade",
      channel: "stall",
      category: "g.t.s",
      field: "title",
      place: { file: "shop.csv", row: 2, column: "name" },
      notes: [
        { note: "rule", place: { file: "fields.csv", row: 3 } },
        { note: "fill", place: { file: "fills.yaml" } },
      ],
    });
  });
});
