import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { linesOfRows } from "../../src/flow/check/locate.js";
import { csvLine } from "../../src/formats/csv-writer.js";

describe("the lines that rows of a table begin on", () => {
  it("when cells span lines, then rows and lines come apart, and each row's line is found", () => {
    const bytes = new TextEncoder().encode('sku,text\nA,"one\ntwo ""quoted""\n"\nB,x\n');
    expect([...linesOfRows(bytes)]).toEqual([1, 2, 5]);
  });

  it("when any table is written, then each row begins on its line", () =>
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.string({ unit: fc.constantFrom("a", '"', "\n", ",", " ") }), { minLength: 1 }), {
          minLength: 1,
        }),
        (table) => {
          const rows = table.map((cells) => csvLine(["x", ...cells]));
          let line = 1;
          const expected = rows.map((row) => {
            const own = line;
            line += row.split("\n").length - 1;
            return own;
          });
          expect([...linesOfRows(new TextEncoder().encode(rows.join("")))]).toEqual(expected);
        },
      ),
    ));
});
