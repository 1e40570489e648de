import { describe, expect, it } from "vitest";
import { sentence } from "../../../src/workspace/wording.js";
import { liveListing } from "../../../src/core/listing/as-sent.js";
import { definitionOf } from "../../kit/definition.js";
import { gtinOf } from "../../kit/goods.js";
import { listingsOf, outcomesOf, setupOf, told } from "../../kit/listing.js";

const spade = {
  sku: "spade",
  name: "Spade",
  category: "Tools",
  price: "44.50 GBP",
  weight: "2.1 kg",
};

const place = { file: "definition.yaml", line: 1 };
const grouped = definitionOf({
  source: { groups: { model: "shared-id", toldApartBy: undefined, groupField: "ref", place } },
}).definition;
const separate = definitionOf().definition;

const member = (sku: string, texts: Readonly<Record<string, string>> = {}) => ({
  ...spade,
  sku,
  group: "G",
  name: `Spade ${sku}`,
  ...texts,
});

const codes = (outcomes: ReturnType<typeof outcomesOf>): readonly string[] =>
  outcomes.flatMap(({ findings }) => findings.map(({ code, severity }) => `${severity} ${code}`));

describe("members of one group beside each other", () => {
  it("when one goes to another category than the others, then it is told with both", () => {
    const outcomes = outcomesOf(
      setupOf(grouped),
      member("a"),
      member("b", { category: "Tools > Spades" }),
      member("c"),
    );
    expect(outcomes.map(told).join("\n")).toContain(
      'it goes to "Garden > Tools > Spades", and a of the same group to "Garden > Tools"',
    );
    expect(codes(outcomes).filter((code) => code.endsWith("torn-group"))).toEqual(["warning torn-group"]);
  });

  it("when a price is ten times the others', then it is told with how far; a size that costs double is not", () => {
    const priced = (price: string) =>
      codes(
        outcomesOf(
          setupOf(grouped),
          member("a", { price: "4.50 GBP" }),
          member("b", { price: "4.95 GBP" }),
          member("c", { price }),
        ),
      ).filter((code) => code.includes("price"));
    expect(priced("49.50 GBP")).toEqual(["warning price-apart"]);
    expect(priced("0.45 GBP")).toEqual(["warning price-apart"]);
    expect(priced("9.90 GBP")).toEqual([]);
    expect(priced("49.50 EUR")).not.toContain("warning price-apart");
  });

  it("when two members have the same title, then it holds where each is shown alone, and is advice elsewhere", () => {
    const alike = [member("a", { name: "Spade" }), member("b", { name: "spade" })];
    expect(codes(outcomesOf(setupOf(separate), ...alike))).toContain("error titles-alike");
    expect(codes(outcomesOf(setupOf(grouped), ...alike))).toContain("advice titles-alike");
  });

  it("when members are shown as one, then each has all that the group varies by, and no two the same", () => {
    const vary = (...colors: readonly (string | undefined)[]) =>
      outcomesOf(
        setupOf(grouped),
        ...colors.map((color, at) =>
          member(`m${at}`, { varies_by: "color", ...(color === undefined ? {} : { color }) }),
        ),
      );
    expect(vary("green", "red").map(({ kind }) => kind)).toEqual(["ready", "ready"]);
    expect(told(vary("green", undefined)[1])).toContain(
      "its group of 2 varies by color, and it has no color",
    );
    expect(told(vary("green", "Green")[1])).toContain('it has the same Green as "m0"');
  });

  it("when members that are shown alone have one description, then it is told once", () => {
    const { definition } = definitionOf({
      source: { roles: { name: "title", description: "title" } },
    });
    const outcomes = outcomesOf(
      setupOf(definition, { fills: { title: "description" } }),
      member("a", { description: "A spade" }),
      member("b", { description: "A spade" }),
    );
    expect(codes(outcomes).filter((code) => code.endsWith("same-description"))).toEqual([
      "advice same-description",
    ]);
  });
});

describe("ids on the channel", () => {
  it("when two SKUs come to one id, then the second is held and names the first; plain SKUs are not compared", () => {
    const shortened = setupOf(separate, { fills: { ref: 'replace(sku, ".", "-")' } });
    const outcomes = outcomesOf(
      shortened,
      { ...spade, sku: "a.1" },
      { ...spade, sku: "b", name: "Spade, ash" },
      { ...spade, sku: "a-1", name: "Spade, oak" },
    );
    expect(outcomes.map(({ kind }) => kind)).toEqual(["ready", "ready", "held"]);
    expect(told(outcomes[2])).toContain('Ref "a-1" is also that of "a.1"');
  });
});

describe("search words", () => {
  it("when a phrase has only the title's words, then it is named; one with a new word is not", () => {
    const { definition } = definitionOf({
      fields: `
field | scope | label  | kind | list | need     | max_length
ref   | *     | Ref    | text |      | required | 20
title | *     | Title  | text |      | required | 40
tags  | *     | Tags   | text | yes  | optional | 40
`,
      source: { roles: { name: "title", keywords: "tags" }, crossRules: [] },
    });
    const outcome = outcomesOf(
      setupOf(definition, { fills: { title: '"Border Spade, ash"', tags: "keywords" } }),
      { ...spade, keywords: "border spade\u001eash SPADE\u001edigging tool" },
    )[0];
    expect(told(outcome)).toBe(
      'ready: Tags repeats what the title says already: "border spade", "ash SPADE"; use the room for other words',
    );
  });
});

describe("a barcode that two products have", () => {
  const { definition } = definitionOf({
    fields: `
field | scope | label  | kind | list | need     | max_length
ref   | *     | Ref    | text |      | required | 20
title | *     | Title  | text |      | required | 40
code  | *     | Code   | gtin |      | optional |
`,
    source: { crossRules: [], roles: {} },
  });
  const jar = { ...spade, sku: "jar", gtin: gtinOf(318) };
  const box = { ...spade, sku: "box", gtin: gtinOf(318) };

  it("when both go to the channel, then both are held, each naming the other", () => {
    const setup = setupOf(definition, { fills: { code: "gtin" }, shared: [[jar, box]] });
    expect(told(outcomesOf(setup, jar)[0])).toContain('is also that of "box"');
    expect(told(outcomesOf(setup, box)[0])).toContain('is also that of "jar"');
  });

  it("when the other stays at home, then neither is held", () => {
    const setup = setupOf(definition, {
      fills: { code: "gtin" },
      shared: [[jar, { ...box, keep_off: "stall" }]],
    });
    expect(outcomesOf(setup, jar)[0]?.kind).toBe("ready");
  });
});

describe("against what the channel has", () => {
  const erasing = definitionOf({
    source: { purposes: [{ purpose: "full", blank: "erase", place }] },
  }).definition;
  const sent = (texts: Readonly<Record<string, string>>, definition = erasing) => {
    const [listing] = listingsOf(setupOf(definition), [{ ...spade, ...texts }]);
    if (listing === undefined) throw new Error("not listed");
    return { live: { spade: liveListing(listing) } };
  };
  const now = (before: ReturnType<typeof sent>, texts = {}, definition = erasing) =>
    outcomesOf(setupOf(definition, before), { ...spade, ...texts })[0];

  it("when nothing has changed, then nothing is told", () => expect(told(now(sent({})))).toBe("ready: "));

  it("when a value is blank that is live, then the full file that would erase it is told", () => {
    const before = sent({ color: "moss" });
    expect(told(now(before))).toContain('Hue is blank now, and the channel has "green"');
    expect(now(before)?.kind).toBe("ready");
    const leaving = definitionOf({
      source: { purposes: [{ purpose: "full", blank: "leave", place }] },
    }).definition;
    expect(told(now(sent({ color: "moss" }, leaving), {}, leaving))).toBe("ready: ");
  });

  it("when the SKU was another product, then it is held", () => {
    const before = sent({ name: "Bee smoker", gtin: gtinOf(318) });
    const another = now(before, { name: "Spade", gtin: gtinOf(452) });
    expect(another?.kind).toBe("held");
    expect(told(another)).toContain('the channel knows this SKU as "Bee smoker"');
    expect(now(before, { name: "Brass bee smoker", gtin: gtinOf(452) })?.kind).toBe("ready");
  });

  it("when it goes elsewhere or its group varies by something else, then both are told", () => {
    expect(told(now(sent({}), { category: "Tools > Spades" }))).toContain(
      'it was sent to "Garden > Tools" and now goes to "Garden > Tools > Spades"',
    );
    expect(told(now(sent({ group: "G" }), { group: "H" }))).toContain(
      'it was sent in the group "G" and now belongs to "H"',
    );
    const group = { group: "G", color: "red", size: "M" };
    const outcome = now(sent({ ...group, varies_by: "color" }), { ...group, varies_by: "color\u001esize" });
    expect(outcome?.findings.map(sentence).join()).toContain(
      "its group was sent varying by color and now varies by color and size",
    );
  });
});

describe("a person's own answer for a field", () => {
  it("when there is one, then it stands over the fill, in the channel's words and limits", () => {
    const setup = setupOf(separate);
    expect(told(outcomesOf(setup, { ...spade, color: "moss", answer_hue: "red" })[0])).toBe("ready: ");
    const [listing] = listingsOf(setup, [{ ...spade, color: "moss", answer_hue: "forest" }]);
    expect(
      listing?.value(
        listing.plan.fields.find(({ rule }) => rule.field.code === "hue")?.rule.field.slot ?? -1,
      ),
    ).toBe("green");
    const wrong = outcomesOf(setup, { ...spade, answer_hue: "beige" })[0];
    expect(told(wrong)).toContain('"beige" is not a value of Hue');
    expect(wrong?.findings[0]?.place?.column).toBe("answer_hue");
  });
});
