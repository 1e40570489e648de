import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { characterCount } from "../../../src/core/values/characters.js";
import { whole } from "../../../src/core/values/decimal.js";
import { shown } from "../../kit/evaluate.js";

const bytes = (text: string): number => new TextEncoder().encode(text).length;
const words = fc
  .array(fc.constantFrom("Größe", "moss", "green", "é", "👩‍🌾", "a", "extraordinarily-long-word", "ß,", "x;"), {
    maxLength: 30,
  })
  .map((all) => all.join(" "));
const limit = fc.integer({ min: 1, max: 60 });

const called = (expression: string, text: string, most: number): string =>
  shown(expression, { text: ["text", text], most: ["number", whole(most)] });

describe("a text that gives way before an end", () => {
  const counted = { fit_before: characterCount, fit_before_bytes: bytes } as const;

  it.each(["fit_before", "fit_before_bytes"] as const)(
    "when %s is asked of any texts, then the end stands whole where there is room, and no mark stands alone",
    (name) => {
      fc.assert(
        fc.property(words, fc.constantFrom("M", "weiß, M", "👩‍🌾"), limit, (text, end, most) => {
          const given = { text: ["text", text], end: ["text", end], most: ["number", whole(most)] } as const;
          const found = shown(`${name}(text, end, most, " / ")`, given);
          expect(counted[name](found)).toBeLessThanOrEqual(most);
          expect(found).not.toMatch(/^\s*\//);
          if (text.trim() !== "" && counted[name](end) <= most) expect(found.endsWith(end)).toBe(true);
        }),
      );
    },
  );
});

describe("texts cut to a length", () => {
  it("when any text is fitted, then it is no longer than allowed, and begins as the text does", () => {
    fc.assert(
      fc.property(words, limit, (text, most) => {
        const fitted = called("fit(text, most)", text, most);
        expect(characterCount(fitted)).toBeLessThanOrEqual(most);
        expect(text.startsWith(fitted)).toBe(true);
        if (characterCount(text) <= most) expect(fitted).toBe(text.trim() === "" ? "" : text);
      }),
    );
  });

  it("when it ends in a mark, then that is counted in, and stands only where something was cut", () => {
    fc.assert(
      fc.property(words, limit, (text, most) => {
        const fitted = called('fit(text, most, "…")', text, most);
        expect(characterCount(fitted)).toBeLessThanOrEqual(most);
        if (characterCount(text) <= most) expect(fitted.endsWith("…")).toBe(false);
      }),
    );
  });

  it("when bytes are counted, then no character is cut in two and the bytes are kept", () => {
    fc.assert(
      fc.property(words, limit, (text, most) => {
        const fitted = called("fit_bytes(text, most)", text, most);
        expect(bytes(fitted)).toBeLessThanOrEqual(most);
        expect(text.startsWith(fitted)).toBe(true);
      }),
    );
  });

  it("when an end must stay whole, then it does wherever there is room for it", () => {
    fc.assert(
      fc.property(words, fc.constantFrom("white, M", "grün", "S"), limit, (text, end, most) => {
        const fitted = called(`fit_before(text, "${end}", most)`, text, most);
        expect(characterCount(fitted)).toBeLessThanOrEqual(most);
        if (most >= characterCount(end)) expect(fitted === "" || fitted.endsWith(end)).toBe(true);
      }),
    );
  });
});
