import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { addAll } from "../../../src/core/many.js";
import type { Diagnostic } from "../../../src/core/diagnostics/diagnostic.js";
import { FactsReader, FactsWriter } from "../../../src/core/catalogue/plain-facts.js";
import { besideChecks, besideFacts } from "../../../src/core/catalogue/beside/beside.js";
import { skuList } from "../../../src/core/catalogue/beside/sku-list.js";
import { textRegister } from "../../../src/core/catalogue/beside/text-register.js";
import { sentence } from "../../../src/workspace/wording.js";
import { asSku } from "../../../src/core/ids.js";
import { familyOf } from "../../kit/listing.js";

const toldOf = (...families: readonly (readonly Readonly<Record<string, string>>[])[]): readonly string[] => {
  const inOne = found(families, [families.length]);
  // However the catalogue is cut, the same shows.
  for (let size = 1; size < families.length; size++)
    expect(
      found(
        families,
        families.map(() => size),
      ),
    ).toEqual(inOne);
  return inOne;
};

type Members = readonly Readonly<Record<string, string>>[];

/** What shows where the families are written down in parts of these sizes. */
const found = (families: readonly Members[], sizes: readonly number[]): readonly string[] => {
  const beside = besideChecks((_, attribute) => ({ file: "shop.csv", row: 2, column: attribute }));
  const told: Diagnostic[] = [];
  let from = 0;
  for (const size of sizes) {
    const [write, facts] = [besideFacts(), new FactsWriter()];
    const part = families.slice(from, (from += size));
    for (const members of part) write(familyOf(members), facts);
    const reader = new FactsReader(facts.take());
    for (let left = part.length; left > 0; left--) addAll(told, beside.take(reader));
  }
  return [...told, ...beside.end()].map(sentence);
};

describe("products beside those of other groups", () => {
  it("when two names have the same words, then the later is told with the earlier; other words are not", () => {
    expect(
      toldOf(
        [{ sku: "a", name: "Bee Brush, horsehair" }],
        [{ sku: "b", name: "Horsehair bee brushes" }],
        [{ sku: "c", name: "Bee Brush, bristle" }],
      ),
    ).toEqual([
      'the name "Horsehair bee brushes" has the same words as that of "a", which is of another group; if they are one product, keep one of them',
    ]);
  });

  it("when members of one group are named alike, or brands differ, then nothing is told", () => {
    expect(
      toldOf(
        [
          { sku: "a", name: "Glove" },
          { sku: "b", name: "Gloves" },
        ],
        [{ sku: "c", name: "Glove", brand: "Hollinside" }],
      ),
    ).toEqual([]);
  });

  it("when three articles show one picture or have one description, then each is told once; two are a pair", () => {
    const shown = (sku: string) => [
      { sku, name: `Thing ${sku}`, images: "https://a.example/x.jpg", description: "New!" },
    ];
    expect(toldOf(shown("a"), shown("b"))).toEqual([]);
    expect(toldOf(shown("a"), shown("b"), shown("c"), shown("d"))).toEqual([
      'the picture https://a.example/x.jpg is shown by 4 different articles, such as "a", "c", "d"; shoppers take them for one',
      '4 different articles have the same description, such as "a", "c", "d"; say in each what it is',
    ]);
  });
});

describe("flat memory", () => {
  it("when any texts are noted, then the register counts their owners as a map would", () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.string({ maxLength: 3 }), fc.nat(30)), { maxLength: 3000 }),
        (notes) => {
          const register = textRegister();
          const owners = new Map<string, number[]>();
          // Owners come in order, as families do.
          for (const [text, owner] of [...notes].sort((a, b) => a[1] - b[1])) {
            const known = owners.get(text) ?? [];
            if (known.at(-1) !== owner) known.push(owner);
            owners.set(text, known);
            expect(register.add(text, owner)).toEqual({ first: known[0], count: known.length });
          }
        },
      ),
      { numRuns: 40 },
    ));

  it("when any SKUs are kept, then each comes back by its number", () =>
    fc.assert(
      fc.property(fc.array(fc.string({ unit: "grapheme", maxLength: 40 }), { maxLength: 600 }), (skus) => {
        const list = skuList();
        const numbers = skus.map((sku) => list.add(asSku(sku)));
        expect(numbers.map((number) => list.at(number))).toEqual(
          skus.map((sku) => new TextDecoder().decode(new TextEncoder().encode(sku))),
        );
      }),
      { numRuns: 40 },
    ));
});
