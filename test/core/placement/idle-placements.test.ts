import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { idlePlacements } from "../../../src/core/placement/idle-placements.js";
import { placementsOf, type Placement } from "../../../src/core/placement/placements.js";
import { runs } from "../../kit/runs.js";

const parts = fc.array(fc.constantFrom("Bells", "Bowls", "Bees"), { minLength: 1, maxLength: 3 });
const path = parts.map((all) => all.join(" > "));
const category = { code: "c", name: "C", path: "C", isOpen: true } as never;

describe("decisions about what is not there", () => {
  it("when rows are held against all shelves and SKUs, then just those are told that could never place a product", async () => {
    const rows = fc.array(fc.oneof(path, fc.constantFrom("S-1", "S-2", "S-3")), { maxLength: 12 });
    await fc.assert(
      fc.asyncProperty(rows, fc.array(path, { maxLength: 6 }), async (written, categories) => {
        const placements = written.map((one, at): Placement => {
          const isSku = one.startsWith("S-");
          const place = { file: "placements.csv", row: at + 2 };
          return {
            ourCategory: isSku ? "" : one,
            sku: isSku ? one : "",
            to: { kind: "category", category },
            place,
          };
        });
        const findings = await idlePlacements(placementsOf(placements), "fair", {
          categories,
          missing: (skus) => Promise.resolve(skus.filter((sku) => sku !== "S-1")),
        });
        // The model asks each placement alone whether it finds any product's category.
        const wanted = placements.filter(({ ourCategory, sku }) =>
          sku === ""
            ? !categories.some((own) => own === ourCategory || own.startsWith(`${ourCategory} > `))
            : sku !== "S-1",
        );
        expect(findings.map(({ place }) => place?.row)).toEqual(
          categories.length === 0 ? [] : wanted.map(({ place }) => place.row),
        );
      }),
      { numRuns: runs(200, 5000) },
    );
  });
});
