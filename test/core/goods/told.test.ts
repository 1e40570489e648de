import { describe, expect, it } from "vitest";
import { proposeSource } from "../../../src/core/catalogue/proposal/propose.js";
import { hasUnknownColumn, toldBy } from "../../../src/core/catalogue/proposal/told-values.js";
import { valueList } from "../../../src/core/channel/value-list.js";
import { meaningsOf, proposeValues } from "../../../src/core/listing/fill/lexicon-proposals.js";
import { smallGlossary } from "./small-glossary.js";

const listOf = (...values: readonly string[]) =>
  valueList(
    "kinds",
    { file: "values/kinds.csv" },
    values.map((value) => ({ value, label: "", synonyms: [] })),
  );

describe("values proposed by what a term means", () => {
  const list = listOf("Red", "Suede", "Pants", "Tools");

  it.each([
    ["scarlet", "Red", "another word for the colour red"],
    ["weinrot", "Red", "burgundy is a kind of red"],
    ["Leder", "Suede", "another word for the material leather"],
    ["Hosen", "Pants", "another word for trousers"],
    ["Spaten", "Tools", "a kind of tool"],
  ])("when the term is %s, then %s is proposed: %s", (term, value, reason) => {
    expect(proposeValues(term, list, meaningsOf(list, smallGlossary))[0]).toMatchObject({ value, reason });
    expect(proposeValues(term, list).map((one) => one.value)).not.toContain(value);
  });

  it("when a colour is called like nothing of the list, then no material is proposed for it", () =>
    expect(proposeValues("burgundy", listOf("Suede"), meaningsOf(listOf("Suede"), smallGlossary))).toEqual(
      [],
    ));
});

describe("columns known by their words", () => {
  const sample = {
    header: ["Item no", "Title", "Xq", "Yq"],
    rows: [
      ["1", "Spade", "rot", "Leder"],
      ["2", "Lamp", "weinrot", "suede"],
      ["3", "Jar", "Scarlet", "leather"],
    ],
  };

  it("when a column's name says nothing, then its words tell that it holds colours or materials, less surely than a name", () => {
    expect(hasUnknownColumn(sample)).toBe(true);
    const told = toldBy(sample, smallGlossary);
    expect(told.slice(2)).toEqual([
      { color: 1, material: 0 },
      { color: 0, material: 1 },
    ]);
    const attributes = (given: Parameters<typeof proposeSource>[0]) =>
      proposeSource(given, "en").attributes.map(({ attribute, columns }) => [columns[0], attribute]);
    expect(attributes({ ...sample, told })).toEqual(
      expect.arrayContaining([
        ["Xq", "color"],
        ["Yq", "material"],
      ]),
    );
    expect(attributes(sample)).not.toContainEqual(["Xq", "color"]);
  });

  it("when every column has a name that says what it holds, then nobody needs to ask", () =>
    expect(hasUnknownColumn({ header: ["Item no", "Title", "Colour"], rows: [] })).toBe(false));
});
