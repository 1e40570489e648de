import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemsOf } from "../../../src/core/catalogue/list-text.js";
import { rowGatherer } from "../../../src/core/catalogue/row-gatherer.js";
import { runs } from "../../kit/runs.js";

const attributes = [{ attribute: "sku" }, { attribute: "name" }, { attribute: "images" }];

interface Written {
  readonly sku: string;
  readonly picture: string;
  readonly order: number;
}

const gathered = (rows: readonly Written[]) => {
  const gatherer = rowGatherer<number>(new Set(["images"]), attributes);
  const refused: number[] = [];
  for (const [at, { sku, picture, order }] of rows.entries()) {
    const row = {
      kind: "product",
      row: at + 2,
      texts: [sku, `of ${sku}`, picture],
      order,
      findings: [],
      doubts: [],
    };
    if (!gatherer.push(row as never, sku, at)) refused.push(at);
  }
  return { records: gatherer.end(), refused };
};

describe("rows of one product from anywhere", () => {
  it("when rows come in any order, then each product has its pictures by their places, and none is lost", () => {
    const row = fc.record({
      sku: fc.constantFrom("A", "B", "C"),
      picture: fc.integer({ min: 1, max: 400 }).map((number) => `p${number}`),
      order: fc.integer({ min: 1, max: 1000 }),
    });
    const all = fc.uniqueArray(row, { maxLength: 30, selector: ({ order }) => order });
    fc.assert(
      fc.property(all, (rows) => {
        const { records } = gathered(rows);
        // The model: the products in the order in which they come, each with its own rows sorted.
        const skus = [...new Set(rows.map(({ sku }) => sku))];
        const wanted = skus.map((sku) => [
          sku,
          ...new Set(
            rows
              .filter((one) => one.sku === sku)
              .sort((one, other) => one.order - other.order)
              .map(({ picture }) => picture),
          ),
        ]);
        expect(records.map(({ texts }) => [texts[0] ?? "", ...itemsOf(texts[2] ?? "")])).toEqual(wanted);
      }),
      { numRuns: runs(200, 5000) },
    );
  });

  it("when a further row says otherwise of what it may not add to, then it is not taken", () => {
    const gatherer = rowGatherer<number>(new Set(["images"]), attributes);
    const push = (name: string, picture: string): boolean =>
      gatherer.push(
        { kind: "product", row: 2, texts: ["A", name, picture], order: 1, findings: [], doubts: [] } as never,
        "A",
        0,
      );
    expect([
      push("Bell", "p1"),
      push("Bowl", "p2"),
      push("Bell", "p3"),
      push("", "p4"),
      push("Bell", ""),
    ]).toEqual([true, false, true, true, false]);
    expect(gatherer.count).toBe(1);
    expect(gatherer.end().map(({ texts }) => itemsOf(texts[2] ?? ""))).toEqual([["p1", "p3", "p4"]]);
    expect(gatherer.count).toBe(0);
  });
});
