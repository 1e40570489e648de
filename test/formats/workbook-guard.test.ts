import { strToU8, zipSync } from "fflate";
import fc from "fast-check";
import { SaxesParser } from "saxes";
import { describe, expect, it } from "vitest";
import { Refusal } from "../../src/core/diagnostics/refusal.js";
import { guardSheet } from "../../src/formats/workbook-guard.js";

/** Another's reading: whether a text is XML with one root, and which shared texts its cells name. */
const oracle = (xml: string): { readonly isWhole: boolean; readonly highest: number } => {
  const parser = new SaxesParser();
  let [isWhole, highest, isShared, isValue, text] = [true, -1, false, false, ""];
  parser.on("error", () => (isWhole = false));
  parser.on("opentag", ({ name, attributes }) => {
    const local = name.slice(name.indexOf(":") + 1);
    if (local === "c") isShared = attributes["t"] === "s";
    isValue = local === "v" && isShared;
    text = "";
  });
  parser.on("text", (piece) => (text += piece));
  parser.on("closetag", ({ name }) => {
    if (name.endsWith("v") && isValue) highest = Math.max(highest, Number(text));
    isValue = false;
  });
  try {
    parser.write(xml).close();
  } catch {
    isWhole = false;
  }
  return { isWhole, highest };
};

const holds = async (xml: string, strings: number): Promise<boolean> => {
  const bytes = Buffer.from(zipSync({ "s.xml": strToU8(xml) }));
  try {
    await guardSheet(bytes, "s.xml", "goods.xlsx", strings, 100);
    return true;
  } catch (error) {
    if (error instanceof Refusal) return false;
    throw error;
  }
};

const quoted = fc.constantFrom('"a > b"', "'it is \"so\"'", '""', '"x/"');
const cell = fc.oneof(
  fc
    .tuple(fc.nat({ max: 9 }), fc.constantFrom("", "x:"))
    .map(([at, p]) => `<${p}c r="A1" t="s"><${p}v>${at}</${p}v></${p}c>`),
  fc.nat({ max: 99 }).map((value) => `<c t="n"><v>${value}</v></c>`),
  quoted.map((text) => `<c note=${text} t='inlineStr'><is><t>a &lt; b</t></is></c>`),
  fc.constantFrom("<c/>", "<!-- <c> -- >", '<![CDATA[ <c t="s"> ]]>', "<?mso <c>?>"),
);
const sheet = fc
  .array(fc.array(cell, { maxLength: 4 }), { maxLength: 4 })
  .map(
    (rows) =>
      `<?xml version="1.0"?><sheet><d>${rows.map((cells) => `<row>${cells.join("")}</row>`).join("")}</d></sheet>`,
  )
  .filter((xml) => !xml.includes("-- >"));

describe("a sheet that is looked over before it is read", () => {
  it("when any sheet is whole, then it holds, and just where it names texts that are not there it does not", () =>
    fc.assert(
      fc.asyncProperty(sheet, fc.nat({ max: 10 }), async (xml, strings) => {
        const { isWhole, highest } = oracle(xml);
        expect(isWhole).toBe(true);
        expect(await holds(xml, strings)).toBe(highest < strings);
      }),
      { numRuns: 200 },
    ));

  it("when any sheet is cut off anywhere, or has a tag too many, then it never holds", () =>
    fc.assert(
      fc.asyncProperty(sheet, fc.double({ min: 0, max: 1, noNaN: true }), async (xml, share) => {
        const cut = xml.slice(0, Math.floor(share * (xml.length - 1)));
        expect(await holds(cut, 100)).toBe(false);
        for (const spoilt of [
          `${xml}</row>`,
          `${xml}<row/>`,
          xml.replace("</d>", "<</d>"),
          `<!DOCTYPE a>${xml}`,
        ])
          expect(await holds(spoilt, 100), spoilt).toBe(false);
      }),
      { numRuns: 200 },
    ));
});
