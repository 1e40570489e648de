import { describe, expect, it } from "vitest";
import {
  asksForMust,
  legendLine,
  needInSentence,
  needMarks,
  needOf,
  needOnLabel,
} from "../../../src/core/learning/need-words.js";

describe("words for whether a field must be filled", () => {
  it.each([
    ["Required", "required"],
    ["mandatory", "required"],
    ["Pflichtfeld", "required"],
    ["Obligatoire", "required"],
    ["Obligatorio", "required"],
    ["Recommandé", "recommended"],
    ["empfohlen", "recommended"],
    ["Facultatif", "optional"],
    ["Opcional", "optional"],
    ["not required", "optional"],
    ["nicht erforderlich", "optional"],
    ["1..1", "required"],
    ["0..n", "optional"],
    ["do not fill", "not allowed"],
  ])("when a cell says %j, then it is %s", (cell, need) => {
    expect(needOf(cell)?.need).toBe(need);
  });

  it.each([
    ["Must be filled when a sale price is given.", "optional", true],
    ["Muss ausgefüllt werden.", "required", false],
    ["May be left blank.", "optional", false],
    ["Kein Pflichtfeld, kann leer bleiben", "optional", false],
    ["Obligatoire si le prix promotionnel est renseigné.", "optional", true],
    ["The weight of the item.", undefined, false],
  ])("when %j is read, then it is %s, with a condition: %s", (text, need, hasCondition) => {
    const said = needInSentence(text);
    expect(said?.need).toBe(need);
    expect((said?.when ?? "") !== "").toBe(hasCondition);
  });

  it("when letters stand in a row, then those beside them tell what they mean", () => {
    const meaning = (cells: readonly string[], cell: string): string | undefined =>
      needOf(cell, needMarks(cells, new Map()))?.need;
    expect(meaning(["M", "O", "O", "R"], "O")).toBe("optional");
    expect(meaning(["O", "N", "O"], "O")).toBe("required");
    expect(meaning(["O", "N", "O"], "N")).toBe("optional");
    expect(meaning(["Ja", "Nein"], "Ja")).toBe("required");
    expect(meaning(["●", "○"], "●")).toBe("required");
    expect(meaning(["●", "○"], "○")).toBe("optional");
    expect(meaning(["S", "N"], "S")).toBe("required");
  });

  it("when a legend says what a mark means, then it counts", () => {
    const line = legendLine("K = recommended");
    expect(line).toMatchObject({ mark: "K", said: { need: "recommended" } });
    expect(needOf("K", needMarks(["K", "M"], new Map([["k", line!.said]])))?.need).toBe("recommended");
    expect(legendLine("Kind of thing")).toBeUndefined();
  });

  it.each([
    ["Title*", "Title", "required"],
    ["* Titel", "Titel", "required"],
    ["Titel (Pflicht)", "Titel", "required"],
    ["Price - optional", "Price", "optional"],
    ["Size [recommended]", "Size", "recommended"],
    ["Weight (kg)", "Weight (kg)", undefined],
    ["Length - overall", "Length - overall", undefined],
  ])("when a heading is %j, then the label is %j and it is %s", (heading, label, need) => {
    const marked = needOnLabel(heading, new Map());
    expect([marked.label, marked.said?.need]).toEqual([label, need]);
  });

  it.each([
    ["Required?", true],
    ["Obligatoire (O/N)", true],
    ["Pflichtfeld?", true],
    ["Remarks", false],
  ])("when a heading is %j, then it asks for a must: %s", (heading, asks) => {
    expect(asksForMust(heading)).toBe(asks);
  });
});
