import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { characterCount, characters } from "../../../src/core/values/characters.js";
import { runs } from "../../kit/runs.js";

const whole = new Intl.Segmenter("en", { granularity: "grapheme" });
const expected = (text: string): readonly string[] =>
  Array.from(whole.segment(text), ({ segment }) => segment);

describe("characters as a person counts them", () => {
  it.each([
    ["Höhe", 4],
    ["Ho\u0308he", 4],
    ["🇩🇪🇸🇪", 2],
    ["👩‍🌾 sows", 6],
    ["", 0],
  ])("when the text is %s, then there are %d", (text, count) => {
    expect(characterCount(text)).toBe(count);
    expect(characters(text)).toHaveLength(count);
  });

  it("when any words of any letters stand in a long text, then they are cut no other than in one piece", () => {
    const word = fc.oneof(
      fc.constantFrom("Höhe", "ß", "é", "e\u0301", "🇩🇪", "👩‍🌾", "日本", "naïve"),
      fc.string(),
    );
    fc.assert(
      fc.property(fc.array(word, { maxLength: 300 }), (words) => {
        const text = words.join(" ");
        expect(characters(text)).toEqual(expected(text));
        expect(characterCount(text)).toBe(expected(text).length);
      }),
      { numRuns: runs(40, 1000) },
    );
  });

  it("when texts of Thai, Hindi, Korean and pictures are long, then they are cut as the engine cuts them in one piece", () => {
    const sign = fc.constantFrom(
      ..."กำนี้น้ำผึ้งเก้า क्षत्रिय हिन्दी स्त्री ज्ञ 한국어 ம் ౦ \u0301\u200d\u200b\r\n".split(""),
      "क्ष",
      "น้ำ",
      "👨‍👩‍👧‍👦",
      "👩🏽‍🌾",
      "🏴󠁧󠁢󠁥󠁮󠁧󠁿",
      "🇩🇪",
      "🇸",
      "❤️",
      "👍🏿",
      "\u1100\u1161\u11a8",
    );
    fc.assert(
      fc.property(fc.array(sign, { minLength: 1, maxLength: 900 }), (signs) => {
        const text = signs.join("");
        expect(characters(text)).toEqual(expected(text));
        expect(characterCount(text)).toBe(expected(text).length);
      }),
      { numRuns: runs(60, 1500) },
    );
    const joined = "👩🏽‍🌾".repeat(500) + "👨‍👩‍👧‍👦".repeat(500);
    expect(characterCount(joined)).toBe(1000);
    expect(characterCount("👩‍".repeat(2000))).toBe(expected("👩‍".repeat(2000)).length);
  });

  it("when a text is as long as a book, then it is counted all the same", () => {
    expect(characterCount("ß".repeat(1_000_000))).toBe(1_000_000);
    expect(characterCount(`${"Straße ".repeat(100_000)}!`)).toBe(700_001);
    expect(characters("e\u0301".repeat(100_000)).length).toBe(100_000);
  });
});
