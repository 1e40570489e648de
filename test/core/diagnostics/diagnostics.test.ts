import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { causeCollector } from "../../../src/core/diagnostics/causes.js";
import { diagnostic } from "../../../src/core/diagnostics/diagnostic.js";
import { nearest } from "../../../src/core/values/nearest.js";
import { heading } from "../../../src/workspace/wording.js";
import { families } from "../../../src/core/diagnostics/findings/findings.js";
import { withNearest } from "../../../src/core/diagnostics/with-nearest.js";
import { codes } from "../../../src/core/diagnostics/entry.js";
import { asSku } from "../../../src/core/ids.js";
import { projectRoot, read } from "../../kit/run.js";

describe("near names", () => {
  it.each([
    ["forest green", ["Green", "Forest-Green"], ["Forest-Green", "Green"]],
    ["nmae", ["name", "url"], ["name"]],
    ["colour", ["color", "cost"], ["color"]],
    ["weight", ["quantity", "size"], []],
    ["Gloves", ["Gardening gloves", "Clubs"], ["Gardening gloves"]],
  ])("when %s is written, then of %j it is near to %j", (wanted, candidates, expected) => {
    expect(nearest(wanted, candidates)).toEqual(expected);
  });

  it("when one letter of a longer word is wrong, missing or swapped, then the word is still found", () => {
    const word = fc.string({ unit: fc.constantFrom(..."abcdefghij"), minLength: 4, maxLength: 12 });
    fc.assert(
      fc.property(word, fc.nat(11), (right, at) => {
        const i = at % right.length;
        const missing = right.slice(0, i) + right.slice(i + 1);
        const wrong = `${right.slice(0, i)}z${right.slice(i + 1)}`;
        expect([nearest(missing, [right]), nearest(wrong, [right])]).toEqual([[right], [right]]);
      }),
    );
  });
});

describe("causes", () => {
  const missing = (sku: string, category = "g") =>
    diagnostic(
      "missing-required",
      { label: "Hue", example: "", fills: "fills.yaml", reads: [], hasFill: false },
      { product: asSku(sku), channel: "stall", category },
    );

  it("when many products lack the same field, then it is one cause with counts and three examples", () => {
    const causes = causeCollector();
    for (const sku of ["a", "b", "c", "d"]) causes.add(missing(sku, sku < "c" ? "g" : "w"));
    causes.add(diagnostic("no-category", {}, { product: asSku("e") }, "advice"));
    const [first, second] = causes.causes();
    expect(first).toMatchObject({ products: 4, categories: 2 });
    expect(first?.examples.map(({ product }) => product)).toEqual(["a", "b", "c"]);
    expect(second?.first.code).toBe("no-category");
    expect([causes.count("error"), causes.count("advice")]).toEqual([4, 1]);
  });

  it("when one product breaks one rule twice, then it counts as one product", () => {
    const causes = causeCollector();
    causes.add(missing("a"));
    causes.add(missing("a"));
    expect(causes.causes()[0]?.products).toBe(1);
  });

  it("when values of single products differ, then the heading of many speaks of none of them", () => {
    const long = diagnostic("too-long", {
      label: "Title",
      value: "Abc",
      limit: 2,
      actual: 3,
      unit: "characters",
    });
    expect(heading(long, 1)).toContain('"Abc"');
    expect(heading(long, 5)).not.toContain("Abc");
  });
});

describe("names near to what was written", () => {
  it("when a thousand findings are of one cause, then the list is searched once, when the cause is shown", () => {
    let searches = 0;
    const collector = causeCollector();
    for (let index = 0; index < 1000; index++) {
      const facts = withNearest({ label: "Hue", value: "Grean", lexicon: "lexicon.csv" }, () => {
        searches++;
        return ["Green"];
      });
      collector.add(diagnostic("unknown-value", facts, { product: asSku(`p${index}`) }));
    }
    const [cause] = collector.causes();
    expect(searches).toBe(0);
    expect(cause && heading(cause.first, cause.products)).toContain('nearest: "Green"');
    expect(cause && heading(cause.first, cause.products)).toContain('nearest: "Green"');
    expect(searches).toBe(1);
    expect(cause && (JSON.parse(JSON.stringify(cause.first)) as unknown)).toMatchObject({
      facts: { nearest: ["Green"] },
    });
  });
});

describe("the page of diagnostics", () => {
  it("when a code exists, then the page explains it, and the other way round", () => {
    const page = read(projectRoot, "docs/diagnostics.md");
    const explained = [...page.matchAll(/^### (\S+)$/gm)].map(([, code]) => code);
    expect([...explained].sort()).toEqual([...codes].sort());
    const inAll = Object.values(families).reduce((sum, family) => sum + Object.keys(family).length, 0);
    expect(inAll, "no code stands in two families").toBe(codes.length);
    for (const section of page.split(/^### /m).slice(1)) {
      const [code = ""] = section.split("\n");
      expect(section, `${code} has an example`).toContain("Example: ");
      expect(section, `${code} has a cure`).toContain("Cure: ");
    }
  });
});
