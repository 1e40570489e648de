import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { MemoRoom, TextMemo } from "../../src/core/text-memo.js";
import { attributeIndex } from "../../src/core/catalogue/attribute-index.js";
import { canonicalText } from "../../src/core/values/show.js";

describe("what texts came to", () => {
  it("when any texts are kept in little room, then what is found is what was kept last, or nothing", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom("a", "b", "c", "d"), fc.nat(2)), { maxLength: 60 }),
        fc.integer({ min: 1, max: 3000 }),
        (steps, characters) => {
          const room = new MemoRoom(characters);
          const memos = [new TextMemo<number>(room), new TextMemo<number>(room)];
          const kept = [new Map<string, number>(), new Map<string, number>()];
          for (const [at, [text, which]] of steps.entries()) {
            const memo = memos[which % 2];
            const found = memo?.get(text);
            if (found !== undefined) expect(found).toBe(kept[which % 2]?.get(text));
            memo?.set(text, at);
            kept[which % 2]?.set(text, at);
          }
        },
      ),
    );
  });

  it("when texts are pieces of large ones, then these are not kept with them", () => {
    const memo = new TextMemo<string>(new MemoRoom(1_000_000));
    const large = 1 << 20;
    const before = process.memoryUsage().heapUsed;
    for (let at = 0; at < 200; at++) {
      const whole = Buffer.alloc(large, `a piece of a file's text, the ${at}th `).toString("utf8");
      const piece = whole.slice(0, 40);
      memo.set(piece, piece);
    }
    expect(memo.get("a piece of a file's text, the 7th a piece")).toBeUndefined();
    expect(process.memoryUsage().heapUsed - before).toBeLessThan(100 * large);
  });

  it("when texts hardly repeat, then the memory gives up; where they do, it goes on", () => {
    const room = new MemoRoom(1_000_000);
    const [apart, alike] = [new TextMemo<number>(room), new TextMemo<number>(room)];
    for (let at = 0; at < 1500; at++) {
      for (const [memo, text] of [
        [apart, `SKU-${at}`],
        [alike, `brand ${at % 7}`],
      ] as const)
        if (memo.get(text) === undefined) memo.set(text, at);
    }
    expect([apart.get("SKU-1499"), alike.get("brand 3")]).toEqual([undefined, 3]);
  });

  it("when values of any attributes are asked again and again, then each is what it was the first time", () => {
    const texts = fc.constantFrom("1", "12.50 GBP", "2 kg", "yes", "2026-03-01", "red\u001eblue", "GBP", "x");
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(40), texts), { minLength: 50, maxLength: 200 }), (asked) => {
        const [one, other] = [attributeIndex(["sku"]), attributeIndex(["sku"])];
        for (const name of "price weight digital sale_from quantity images color gtin".split(" "))
          for (const index of [one, other]) index.slotFor(name);
        for (const [slot, text] of asked) {
          // The other index is asked for the first time each time.
          const fresh = attributeIndex(other.names).typed(slot, text);
          expect(canonicalText(one.typed(slot, text))).toBe(canonicalText(fresh));
        }
      }),
      { numRuns: 20 },
    );
  });
});
