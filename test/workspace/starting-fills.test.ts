import { describe, expect, it } from "vitest";
import { attributeIndex } from "../../src/core/catalogue/attribute-index.js";
import { vocabulary } from "../../src/core/catalogue/vocabulary.js";
import { startingFills, type ShopFacts } from "../../src/workspace/starting-fills.js";
import { definitionOf } from "../kit/definition.js";

const shop: ShopFacts = {
  language: "de",
  currency: "EUR",
  attributes: attributeIndex([...vocabulary, "name@en"]),
};

/** What a suggested fill becomes in a shop. */
const begun = (fill: string, of: ShopFacts = shop, blankMeans = "") => {
  const { definition } = definitionOf({
    fields: `field | scope | label | kind | need | fill | default\nx | * | X | text | optional | ${fill} | ${blankMeans}`,
  });
  const [found] = startingFills(definition, of);
  return found === undefined ? undefined : `${found.isReady ? "" : "# "}${found.fill}`;
};

describe("fills that a shop begins with", () => {
  it.each([
    ['"new"', '# "new"'],
    ["21", "# 21"],
    ['condition or "new"', "condition"],
    ["at_most(dispatch_days or 2, 9)", "at_most(dispatch_days, 9)"],
    ["(dispatch_days or 1) + 2", "# (dispatch_days or 1) + 2"],
    ['if weight is given then money(5, "GBP")', '# if weight is given then money(5, "GBP")'],
    // A choice says by what it chooses.
    [
      'if (hazard or "none") = "none" then "mild" else "strong"',
      'if (hazard or "none") = "none" then "mild" else "strong"',
    ],
    // What only looks like it, inside of a text.
    ['"{sku} or 5"', '"{sku} or 5"'],
    ['"{brand}, in name alone"', '"{brand}, in name alone"'],
  ])("when a definition suggests %j, then no fact is made up: %j", (fill, expected) => {
    expect(begun(fill)).toBe(expected);
  });

  it.each([
    ["name", "name@en"],
    ['"{name} or name"', '"{name@en} or name"'],
    ["description or name", "description or name@en"],
    ["name@de", "name"],
    ["price@EUR", "(price in EUR)"],
    ['"price@EUR"', '# "price@EUR"'],
  ])("when the channel speaks another language, then %j is %j", (fill, expected) => {
    expect(begun(fill)).toBe(expected);
  });

  it("when the channel takes a blank for it, or the fill does not parse, then it stays as it is", () => {
    expect(begun('"new"', shop, "new")).toBe('"new"');
    expect(begun("or or")).toBe("# or or");
  });
});
