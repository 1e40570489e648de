import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  FactsReader,
  FactsWriter,
  familyPlaces,
  unchained,
  wordChain,
  type ChainedFacts,
} from "../../../src/core/catalogue/plain-facts.js";
import { diagnostic, type Diagnostic } from "../../../src/core/diagnostics/diagnostic.js";
import { asSku } from "../../../src/core/ids.js";
import { JudgedReader, writeJudged, type Judged } from "../../../src/core/listing/judged.js";
import { channelCounts } from "../../../src/flow/channel-counts.js";

const place = fc.record(
  { file: fc.constantFrom("a.csv", "b.yaml"), row: fc.integer({ min: 1, max: 9 }), column: fc.string() },
  { requiredKeys: ["file"] },
);

const sku = fc.constantFrom("ÄX-1", "x 2", "3").map(asSku);

const finding: fc.Arbitrary<Diagnostic> = fc
  .record({
    attribute: fc.constantFrom("price", "color"),
    value: fc.constantFrom("a", "b", "\ud83d\udc1d"),
    severity: fc.constantFrom("error" as const, "warning" as const, "advice" as const),
    product: fc.option(sku, { nil: undefined }),
    category: fc.constantFrom("hives", undefined),
    place: fc.option(place, { nil: undefined }),
    notes: fc.array(fc.record({ note: fc.constantFrom("rule" as const, "value" as const), place }), {
      maxLength: 2,
    }),
  })
  .map(({ attribute, value, severity, notes, ...where }) => {
    const given = Object.fromEntries(Object.entries(where).filter(([, own]) => own !== undefined));
    const facts = { attribute, value, problem: "no-value" } as const;
    return diagnostic(
      "unreadable-value",
      facts,
      { ...given, ...(notes.length === 0 ? {} : { notes }) },
      severity,
    );
  });

const judged: fc.Arbitrary<Judged> = fc.record({
  kind: fc.constantFrom("ready" as const, "held" as const, "unplaced" as const, "left-out" as const),
  sku,
  category: fc.constantFrom("Hives", undefined),
  findings: fc.array(finding, { maxLength: 3 }),
});

/** Families that were written piece by piece, through a file's chain of words, with every other one written once more. */
const throughFiles = (pieces: readonly (readonly (readonly Judged[])[])[]): readonly Judged[] => {
  const [chained, whole] = [wordChain(), unchained()];
  const written = pieces.map((families): ChainedFacts => {
    const first = new FactsWriter();
    for (const [number, own] of families.entries()) {
      first.number(own.length);
      for (const one of own) writeJudged(one, first);
      first.endFamily(number);
    }
    const again = new FactsWriter();
    for (const of of familyPlaces(first.take())) again.family(of);
    return chained(again.take());
  });
  const reader = new JudgedReader();
  return written.map(whole).flatMap((facts) =>
    familyPlaces(facts).flatMap((of) => {
      const own = FactsReader.of(of);
      return Array.from({ length: own.number() }, () => reader.next(own).whole());
    }),
  );
};

describe("what became of products, written down", () => {
  it("when it is read again, from whatever piece, then it is what it was", () =>
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.array(judged, { maxLength: 3 }), { maxLength: 4 }), { maxLength: 4 }),
        (pieces) => {
          expect(throughFiles(pieces)).toEqual(pieces.flat(2));
        },
      ),
    ));

  it("when products that came to the same are counted at once, then the counts and causes are those of one by one", () =>
    fc.assert(
      fc.property(
        fc.array(judged, { minLength: 1, maxLength: 4 }),
        fc.array(fc.nat(3), { maxLength: 40 }),
        (kinds, order) => {
          const [atOnce, oneByOne] = [channelCounts({ examples: 2 }), channelCounts({ examples: 2 })];
          const facts = new FactsWriter();
          const all = order.map((at, number): Judged => {
            const own = kinds[at % kinds.length] as Judged;
            // Each product is another one; a finding of another product stays that one's.
            const name = asSku(`P-${number}`);
            return {
              ...own,
              sku: name,
              findings: own.findings.map((one) =>
                one.product === own.sku ? { ...one, product: name } : one,
              ) as Diagnostic[],
            };
          });
          for (const one of all) writeJudged(one, facts);
          facts.endFamily(0);
          const written = facts.take();
          const [first, second] = [new FactsReader(written), new FactsReader(written)];
          const [reader, other] = [new JudgedReader(), new JudgedReader()];
          for (let left = all.length; left > 0; left--) {
            atOnce.countKept(reader.next(first));
            oneByOne.takeKept(other.next(second));
          }
          const { ready, held, leftOut } = oneByOne;
          expect([atOnce.ready, atOnce.held, atOnce.leftOut]).toEqual([ready, held, leftOut]);
          expect(atOnce.causes.causes()).toEqual(oneByOne.causes.causes());
          expect(atOnce.causes.byCode()).toEqual(oneByOne.causes.byCode());
          expect(atOnce.leftOutCauses.causes()).toEqual(oneByOne.leftOutCauses.causes());
        },
      ),
    ));
});
