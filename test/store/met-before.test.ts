import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { metBefore } from "../../src/store/sqlite/met-before.js";

describe("what a transaction met", () => {
  it("when anything was noted, then it is never held to be new; and of others hardly any is held to be known", () => {
    const kinds = ["product", "group", "family", "key"] as const;
    const met = metBefore();
    fc.assert(
      fc.property(fc.constantFrom(...kinds), fc.string({ unit: "binary" }), (kind, text) => {
        met.note(kind, text);
        expect(met.mayHold(kind, text)).toBe(true);
      }),
    );
    for (let at = 0; at < 200_000; at++) met.note("product", `A-${at}`);
    let wrong = 0;
    for (let at = 0; at < 10_000; at++) if (met.mayHold("product", `B-${at}`)) wrong++;
    expect(wrong).toBeLessThan(20);
    expect(met.mayHold("key", "A-1")).toBe(false);
  });
});
