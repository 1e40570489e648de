import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { termParts } from "../../../src/core/channel/term-forms.js";
import { valueList } from "../../../src/core/channel/value-list.js";
import { proposeValues } from "../../../src/core/listing/fill/lexicon-proposals.js";

const listOf = (...values: readonly string[]) =>
  valueList(
    "any",
    { file: "values/any.csv" },
    values.map((text) => {
      const [value = "", ...synonyms] = text.split("; ");
      return { value, label: "", synonyms };
    }),
  );

const colours = listOf("grey; slate", "off-white; cream", "green", "black", "multi-coloured", "Gold");
const sizes = listOf(
  "S",
  "M",
  "XL; extra large",
  "2XL",
  "one size",
  "38",
  "39-42",
  "3-4 years",
  "6-12 months",
  "5+ years",
);
const shoes = listOf("EU 38", "EU 39", "UK 5");
const answers = listOf("Yes", "No", "partly");

const lists = { colours, sizes, shoes, answers };

describe("our term and the channel's value", () => {
  it.each<readonly [keyof typeof lists, string, string | undefined]>([
    ["colours", "gray", "grey"],
    ["colours", "Off White", "off-white"],
    ["colours", "offwhite", "off-white"],
    ["colours", "multicolored", "multi-coloured"],
    ["colours", "SLATE", "grey"],
    ["colours", "golds", "Gold"],
    ["colours", "lilac", undefined],
    ["sizes", "small", "S"],
    ["sizes", "Medium", "M"],
    ["sizes", "S (small)", "S"],
    ["sizes", "X-Large", "XL"],
    ["sizes", "xxl", "2XL"],
    ["sizes", "2 x large", "2XL"],
    ["sizes", "extra extra large", "2XL"],
    ["sizes", "XX Large", "2XL"],
    ["sizes", "OS", "one size"],
    ["sizes", "One size fits all", "one size"],
    ["sizes", "size 38", "38"],
    ["sizes", "39/42", "39-42"],
    ["sizes", "39 to 42", "39-42"],
    ["sizes", "3–4 yrs", "3-4 years"],
    ["sizes", "ages 3-4", "3-4 years"],
    ["sizes", "6-12M", "6-12 months"],
    ["sizes", "from 5 years", "5+ years"],
    ["sizes", "5 years and older", "5+ years"],
    ["sizes", "40", undefined],
    ["shoes", "38", "EU 38"],
    ["shoes", "5", "UK 5"],
    ["answers", "y", "Yes"],
    ["answers", "false", "No"],
    ["answers", "Partly", "partly"],
    ["answers", "perhaps", undefined],
  ])("when the %s are asked for %s, then it is %s", (name, term, expected) => {
    expect(lists[name].match(term)).toBe(expected);
  });

  it("when two values look alike in one form, then neither is taken for the other", () => {
    const twins = listOf("EU 38", "UK 38", "black top", "blacktop");
    expect(twins.match("38")).toBeUndefined();
    expect(twins.match("black tops")).toBeUndefined();
    expect(twins.match("UK 38")).toBe("UK 38");
  });

  it("when a list has no yes and no of its own, then yes means none of its values", () => {
    expect(listOf("T", "Torx", "X").match("yes")).toBeUndefined();
  });

  it("when any value of any list is asked for itself, then it is found", () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.string({ minLength: 1 }), { minLength: 1, maxLength: 20 }), (values) => {
        const list = valueList(
          "any",
          { file: "any.csv" },
          values.map((value) => ({ value, label: "", synonyms: [] })),
        );
        for (const value of values) expect(list.match(value)).toBe(value);
      }),
    );
  });
});

describe("terms of several parts", () => {
  it.each([
    ["forest green / black", ["forest green", "black"]],
    ["red & white, blue", ["red", "white", "blue"]],
    ["oak and leather", ["oak", "leather"]],
    ["98% cotton 2% elastane", ["cotton", "elastane"]],
    ["20% polyester, 80% cotton", ["cotton", "polyester"]],
    ["cotton (70 %), linen (30 %)", ["cotton", "linen"]],
    ["silver grey", ["silver grey"]],
    ["", []],
  ])("when %s is parted, then its parts are told, the largest share first", (term, expected) => {
    expect(termParts(term)).toEqual(expected);
  });
});

describe("what an unknown term may mean", () => {
  const best = (term: string, list = colours): string => {
    const [first] = proposeValues(term, list);
    return first === undefined ? "nothing" : `${first.value} ${first.confidence} ${first.reason}`;
  };

  it.each([
    ["forest green", "green 0.9 its last word"],
    ["black lid", "black 0.6 one of its words"],
    ["green / lilac", "green 0.7 the first of its parts"],
    ["gren", "green 0.5 spelt alike"],
    ["slat", 'grey 0.5 spelt like its other name "slate"'],
    ["xylophone", "nothing"],
  ])("when it is %s, then the best proposal is %s", (term, expected) => {
    expect(best(term)).toBe(expected);
  });

  it("when materials have shares, then the largest is proposed", () => {
    const list = listOf("cotton", "wool", "polyester");
    expect(proposeValues("30% wool 70% cotton", list)[0]).toMatchObject({
      value: "cotton",
      reason: "the largest share",
    });
  });

  it("when many values are near, then no more than four are proposed, surest first", () => {
    const list = listOf("pine", "pink", "pint", "pins", "ping", "pina");
    const found = proposeValues("pin", list);
    expect(found.length).toBeLessThanOrEqual(4);
    expect([...found].sort((a, b) => b.confidence - a.confidence)).toEqual(found);
  });
});
