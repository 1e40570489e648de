// What is said to make so many listings ready does: each act that is promised is done, and the listings are counted again.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Act } from "../../../src/core/diagnostics/act.js";
import type { LexiconRow } from "../../../src/core/listing/fill/lexicon.js";
import { readinessTally } from "../../../src/core/listing/readiness/readiness-tally.js";
import { definitionOf } from "../../kit/definition.js";
import { outcomesOf, setupOf } from "../../kit/listing.js";

type Texts = Readonly<Record<string, string>>;

const { definition } = definitionOf();

// A right value of each attribute that a good may lack.
const right: Texts = {
  name: "Spade",
  price: "44.50 GBP",
  weight: "2.1 kg",
  color: "green",
  category: "Tools",
};

const goods = fc
  .array(
    fc.record({
      category: fc.constantFrom("Tools", "Tools > Spades", "Hats", ""),
      name: fc.constantFrom("Spade", ""),
      price: fc.constantFrom("44.50 GBP", "144.50 GBP", "", "900.00 GBP"),
      weight: fc.constantFrom("2.1 kg", "", "90 kg"),
      color: fc.constantFrom("green", "moss", "", "red"),
    }),
    { minLength: 1, maxLength: 8 },
  )
  .map((all) => all.map((texts, at): Texts => ({ ...texts, sku: `p${at}` })));

const counted = (products: readonly Texts[], lexicon: readonly LexiconRow[]) => {
  const setup = setupOf(definition, { lexicon });
  const tally = readinessTally("channel");
  for (const product of products)
    for (const outcome of outcomesOf(setup, product)) tally.take(setup, outcome);
  return { ready: tally.rows()[0]?.ready ?? 0, acts: tally.acts() };
};

/** The goods and the lexicon once an act is done; undefined where a person has to look at each. */
function done(
  act: Act,
  products: readonly Texts[],
): { readonly products: readonly Texts[]; readonly lexicon: readonly LexiconRow[] } | undefined {
  switch (act.act) {
    case "column": {
      const [attribute = ""] = act.attributes;
      const value = right[attribute];
      if (value === undefined) return undefined;
      return {
        products: products.map((one) =>
          (one[attribute] ?? "") === "" ? { ...one, [attribute]: value } : one,
        ),
        lexicon: [],
      };
    }
    case "lexicon-row": {
      const row = { field: act.field, category: "", term: act.term, value: "green" };
      return { products, lexicon: [{ ...row, place: { file: "lexicon.csv" } } as unknown as LexiconRow] };
    }
    case "placement":
      // Placed as one that is known: what is asked for there shows then.
      return {
        products: products.map((one) =>
          one["category"] === act.ourCategory ? { ...one, category: "Tools" } : one,
        ),
        lexicon: [],
      };
    default:
      return undefined;
  }
}

describe("what readiness promises", () => {
  it("when an act is done that is said to make listings ready by itself, then at least so many become ready", () => {
    let kept = 0;
    fc.assert(
      fc.property(goods, (products) => {
        const before = counted(products, []);
        for (const { act, alone } of before.acts) {
          const after = done(act, products);
          if (after === undefined || alone === 0) continue;
          kept++;
          const { ready } = counted(after.products, after.lexicon);
          expect([JSON.stringify(act), ready - before.ready >= alone]).toEqual([JSON.stringify(act), true]);
        }
      }),
      { numRuns: 150 },
    );
    // Promises there were.
    expect(kept).toBeGreaterThan(20);
  });

  it("when goods have no place yet, then nobody promises that one makes them ready", () => {
    const { acts } = counted([{ ...right, sku: "hat", category: "Hats" }], []);
    expect(acts).toMatchObject([{ act: { act: "placement" }, alone: 0, listings: 1 }]);
  });
});
