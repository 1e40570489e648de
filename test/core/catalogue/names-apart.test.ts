import { describe, expect, it } from "vitest";
import { attributeCalled } from "../../../src/core/catalogue/same-names.js";
import { vocabulary } from "../../../src/core/catalogue/vocabulary.js";
import { languageIn, languageNamed } from "../../../src/core/values/languages.js";

describe("what an option is called", () => {
  // By hand, from what shops write; the attribute is that of the vocabulary's own words, or another thing.
  it.each([
    ["Colour", "color"],
    ["FARBE", "color"],
    ["Größe", "size"],
    ["Taille", "size"],
    ["Matière", "material"],
    ["Breite", "width"],
    ["Length", undefined],
    ["Länge", undefined],
    ["Volume", undefined],
    ["Ages", undefined],
    ["Contents", undefined],
    ["Battery pack", undefined],
    ["Colour of the strap", undefined],
    ["", undefined],
  ])("when it is %j, then that is %j", (name, attribute) => {
    expect(attributeCalled(name)).toBe(attribute);
  });

  it("when it is the very name of an attribute, then it is that one", () => {
    for (const attribute of vocabulary) expect(attributeCalled(attribute)).toBe(attribute);
  });
});

describe("the language of a row", () => {
  it.each([
    ["fr", "fr"],
    ["FR", "fr"],
    ["fr-ch", "fr-CH"],
    ["pt_BR", "pt-BR"],
    ["Französisch", "fr"],
    ["nederlands", "nl"],
    ["svenska", "sv"],
    ["xx", undefined],
    ["trade", undefined],
    ["", undefined],
  ])("when a cell says %j, then it is %j", (text, language) => {
    expect(languageIn(text)).toBe(language);
  });

  it("when a word is the name of an object's own, then it is no language", () => {
    expect([languageNamed("constructor"), languageNamed("__proto__")]).toEqual([undefined, undefined]);
  });
});
