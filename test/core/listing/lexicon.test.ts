import { describe, expect, it } from "vitest";
import { asFieldCode } from "../../../src/core/ids.js";
import { channelTerms } from "../../../src/core/listing/fill/channel-terms.js";
import { lexiconOf } from "../../../src/core/listing/fill/lexicon.js";
import { definitionOf } from "../../kit/definition.js";
import { filledAs, outcomesOf, setupOf, told } from "../../kit/listing.js";

const { definition } = definitionOf();
const hue = asFieldCode("hue");

const row = (ourTerm: string, channelValue: string, ourCategory = "") => ({
  field: hue,
  ourCategory,
  ourTerm,
  channelValue,
});

const glove = { sku: "GLOVE", name: "Glove", price: "9 GBP", category: "Tools > Gloves" };

const hueOf = (color: string, ...lexicon: readonly ReturnType<typeof row>[]): string =>
  filledAs(setupOf(definition, { lexicon, fills: { hue: "color" } }), { ...glove, color }, "hue");

describe("our words in the channel's", () => {
  it.each([
    ["a permitted value", "green", "green"],
    ["one in other letters", " GREEN ", "green"],
    ["a synonym of the definition", "moss", "green"],
    ["a plural", "reds", "red"],
  ])("when our term is %s, then no row is needed", (_, color, expected) => {
    expect(hueOf(color)).toBe(expected);
  });

  it("when the lexicon has a row, then it goes before all that the definition knows", () => {
    expect(hueOf("moss", row("Moss", "red"))).toBe("red");
    expect(hueOf("MOSS", row("moss", "Red"))).toBe("red");
  });

  it("when rows are for one of our categories, then they count there and below, the nearest first", () => {
    const rows = [row("sand", "green"), row("sand", "red", "Tools"), row("stone", "red", "Tools > Spades")];
    expect(hueOf("sand", ...rows)).toBe("red");
    expect(hueOf("sand", ...rows, row("sand", "green", "Tools > Gloves"))).toBe("green");
    expect(hueOf("stone", ...rows)).toBe("");
  });

  it("when a term has no value, then the listing is held, and told what is near and where to add a row", () => {
    const setup = setupOf(definition, { fills: { hue: "color" } });
    expect(told(outcomesOf(setup, { ...glove, color: "gren" })[0])).toContain(
      '"gren" is not a value of Hue; nearest: "green" (add a row for it to lexicon.csv)',
    );
  });

  it("when terms differ by a sign alone, then each has its own value", () => {
    const signs = [row("A+", "green"), row("A", "red"), row("<5", "green"), row(">5", "red")];
    expect(["A+", "A", "a +", "<5", "> 5", "A++"].map((term) => hueOf(term, ...signs))).toEqual([
      ...["green", "red", "green"],
      ...["green", "red", ""],
    ]);
  });

  it("when an expression asks for the channel's word, then it is that of the lexicon or of the field's lists", () => {
    const ask = channelTerms(definition, lexiconOf([row("sand", "red")]));
    expect([ask("hue", "sand"), ask("hue", "Moss"), ask("hue", "lilac"), ask("nothing", "moss")]).toEqual([
      "red",
      "green",
      undefined,
      undefined,
    ]);
  });
});
