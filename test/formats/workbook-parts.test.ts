import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { xmlText } from "../../src/formats/xml-text.js";
import { sheetParts } from "../../src/formats/workbook-parts.js";

describe("the sheets of a workbook and their parts", () => {
  it("when names hold any signs, relations have any ids and prefixes, and stand in any order, then each sheet has its part", () => {
    const sheet = fc.record({
      name: fc.string({ unit: fc.constantFrom("a", "é", " ", "&", "<", '"', "'"), minLength: 1 }),
      id: fc.stringMatching(/^[A-Za-z][A-Za-z0-9]{0,6}$/),
      target: fc.stringMatching(/^\/?[a-z]{1,5}\/[a-z0-9]{1,5}\.xml$/),
    });
    fc.assert(
      fc.property(
        fc.uniqueArray(sheet, { selector: ({ id }) => id, minLength: 1, maxLength: 5 }),
        fc.constantFrom("", "x:"),
        fc.constantFrom("r", "rel"),
        fc.boolean(),
        (sheets, prefix, relation, idFirst) => {
          const tags = sheets.map(({ name, id }, at) => {
            const said = [`name="${xmlText(name)}"`, `sheetId="${at + 1}"`, `${relation}:id="${id}"`];
            return `<${prefix}sheet ${(idFirst ? said.reverse() : said).join(" ")}/>`;
          });
          const workbook = `<${prefix}workbook xmlns:x="w" xmlns:${relation}="r"><${prefix}sheets>${tags.join("")}</${prefix}sheets></${prefix}workbook>`;
          const links = [...sheets]
            .reverse()
            .map(({ id, target }) => `<Relationship Id="${id}" Type="t" Target="${target}"/>`);
          expect(sheetParts(workbook, `<Relationships>${links.join("")}</Relationships>`)).toEqual(
            sheets.map(({ name, target }) => ({
              name: name.replace(/[\t\n\r]/g, " "),
              path: target.startsWith("/") ? target.slice(1) : `xl/${target}`,
              isHidden: false,
            })),
          );
        },
      ),
    );
  });

  it("when a relation is missing, then the sheet is there without its part; when it is no XML, then that is said", () => {
    expect(sheetParts('<workbook><sheets><sheet name="A" r:id="x"/></sheets></workbook>', "")).toEqual([
      { name: "A", path: "", isHidden: false },
    ]);
    expect(sheetParts('<workbook><sheet name="B" state="veryHidden"/></workbook>', "")[0]?.isHidden).toBe(
      true,
    );
    expect(() => sheetParts("<sheet ".repeat(50_000), "")).toThrow();
  });
});
