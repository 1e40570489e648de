import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { sameBut, type TextAlteration } from "../../../src/core/values/altered.js";

const ways = (...own: readonly TextAlteration[]): ReadonlySet<TextAlteration> => new Set(own);

describe("what a channel alters by itself", () => {
  it.each([
    ["spaces", ["bee  suit"], ["bee suit"]],
    ["case", ["BEE SUIT"], ["Bee suit"]],
    ["marks", ["bee – suit"], ["bee, suit"]],
    ["order", ["b", "a"], ["a", "b"]],
  ] as const)("when it alters %s, then just that is no difference", (way, own, other) => {
    expect(sameBut(ways(way), own, other)).toBe(true);
    expect(sameBut(ways(), own, other)).toBe(false);
    for (const another of (["case", "spaces", "order"] as const).filter((one) => one !== way))
      expect(sameBut(ways(another), own, other)).toBe(false);
  });

  it("when words differ, then no alteration hides it", () => {
    const words = fc.array(fc.stringMatching(/^[a-z]{1,8}$/), { minLength: 1, maxLength: 4 });
    fc.assert(
      fc.property(words, words, (own, other) => {
        const alike = [...own].sort().join(" ") === [...other].sort().join(" ");
        expect(sameBut(ways("case", "spaces", "marks", "order"), own, other)).toBe(alike);
      }),
    );
  });
});
