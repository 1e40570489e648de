import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { actCollector } from "../../../src/core/diagnostics/act-collector.js";
import { actText } from "../../../src/workspace/wording.js";
import { actFor } from "../../../src/core/diagnostics/entry.js";
import { causeCollector } from "../../../src/core/diagnostics/causes.js";
import { diagnostic, type Diagnostic } from "../../../src/core/diagnostics/diagnostic.js";
import { isSilenced, type Silence } from "../../../src/core/diagnostics/silence.js";
import { asFieldCode, asSku } from "../../../src/core/ids.js";

const about = (product: string, field: string) => ({
  product: asSku(product),
  channel: "stall",
  field: asFieldCode(field),
});
const missing = (product: string, field: string, reads: readonly string[], hasFill = true): Diagnostic =>
  diagnostic(
    "missing-required",
    { label: field, example: "", fills: "fills.yaml", reads, hasFill },
    about(product, field),
  );
const unknown = (product: string, value: string): Diagnostic =>
  diagnostic(
    "unknown-value",
    { label: "Hue", value, nearest: ["green"], lexicon: "lexicon.csv" },
    about(product, "hue"),
  );

describe("the act that settles findings", () => {
  it.each([
    [missing("a", "stuff", ["material"]), "give material"],
    [missing("a", "pattern", []), "change the fill of pattern"],
    [missing("a", "passport", [], false), "a fill for passport"],
    [unknown("a", "moss"), 'a row for "moss"'],
    [diagnostic("no-category", {}, { product: asSku("a") }), "give category"],
    [
      diagnostic("unplaced", { ourCategory: "Hats", nearest: [], placements: "p.csv" }, { channel: "stall" }),
      'place "Hats": lexicant place stall',
    ],
  ])("when it is %#, then the act is told in words that can be followed", (finding, words) =>
    expect(actText(actFor(finding))).toContain(words),
  );

  it("when acts are ranked, then those that make most ready alone come first, across channels", () => {
    const acts = actCollector();
    acts.take("a", "stall", [missing("a", "stuff", ["material"])]);
    acts.take("a", "quay", [missing("a", "made_of", ["material"])]);
    acts.take("b", "stall", [missing("b", "stuff", ["material"]), unknown("b", "moss")]);
    acts.take("c", "stall", [unknown("c", "moss"), unknown("c", "moss")]);
    expect(
      acts.ranked().map(({ act, alone, listings, channels }) => [act.act, alone, listings, channels.join()]),
    ).toEqual([
      ["column", 2, 3, "stall,quay"],
      ["lexicon-row", 1, 2, "stall"],
    ]);
  });

  it("when any listings are taken in parts that are joined, then their acts are those of one that took all", () => {
    const finding = fc
      .tuple(
        fc.constantFrom("a", "b", "c"),
        fc.nat(2),
        fc.constantFrom("material", "pattern", "moss", "clay"),
      )
      .map(([sku, kind, text]) =>
        kind === 0 ? unknown(sku, text) : missing(sku, text, kind === 1 ? [text] : []),
      );
    const listing = fc.tuple(
      fc.constantFrom("a", "b", "c", "d"),
      fc.constantFrom("stall", "quay"),
      fc.array(finding, { maxLength: 3 }),
    );
    fc.assert(
      fc.property(fc.array(fc.array(listing, { maxLength: 4 }), { maxLength: 4 }), (parts) => {
        const [whole, joined] = [actCollector(), actCollector()];
        for (const part of parts) {
          const own = actCollector();
          for (const one of part) for (const collector of [whole, own]) collector.take(...one);
          joined.join(structuredClone(own.plain()));
        }
        expect(joined.ranked()).toEqual(whole.ranked());
        expect(joined.plain()).toEqual(whole.plain());
      }),
    );
  });

  it("when a product has one cause only, then that cause counts it as held by it alone", () => {
    const causes = causeCollector();
    causes.addAll([missing("a", "stuff", ["material"])]);
    causes.addAll([missing("b", "stuff", ["material"]), unknown("b", "moss")]);
    causes.addAll([unknown("c", "moss"), unknown("c", "moss")]);
    expect(causes.causes().map(({ products, alone }) => [products, alone])).toEqual([
      [2, 1],
      [2, 1],
    ]);
    expect([...causes.byCode()]).toEqual([
      ["unknown-value", 3],
      ["missing-required", 2],
    ]);
  });
});

describe("findings that a person does not want to see", () => {
  const silence = (own: Partial<Silence>): readonly Silence[] => [
    {
      code: undefined,
      field: undefined,
      product: undefined,
      ourCategory: undefined,
      channelCategories: undefined,
      ...own,
    },
  ];
  const advice = diagnostic(
    "missing-recommended",
    { label: "Hue", example: "" },
    { ...about("a", "hue"), category: "g.t.s" },
    "advice",
  );

  it.each([
    [{ code: "missing-recommended" }, true],
    [{ code: "too-long" }, false],
    [{ field: "hue" }, true],
    [{ field: "heft" }, false],
    [{ product: "a" }, true],
    [{ product: "b" }, false],
    [{ ourCategory: "Tools" }, true],
    [{ ourCategory: "Clothes" }, false],
    [{ ourCategory: "g.t", channelCategories: new Set(["g.t", "g.t.s"]) }, true],
    [{ code: "missing-recommended", field: "heft" }, false],
  ] satisfies readonly (readonly [Partial<Silence>, boolean])[])(
    "when %j is silenced, then advice on a spade's hue is silent: %s",
    (own, silent) => expect(isSilenced(advice, silence(own), "Tools > Spades")).toBe(silent),
  );

  it("when it is an error, then it is seen whatever is silenced", () =>
    expect(isSilenced(unknown("a", "moss"), silence({ field: "hue" }), "Tools")).toBe(false));
});
