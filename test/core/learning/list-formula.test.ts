import { describe, expect, it } from "vitest";
import { columnNumber } from "../../../src/core/diagnostics/place.js";
import { cellRange, offeredValues, type ListSource } from "../../../src/core/learning/list-formula.js";

const cells: Readonly<Record<string, readonly (readonly string[])[]>> = {
  lists: [
    ["Colour", "Tools", "Books"],
    ["Green", "Spade", "Atlas"],
    ["Grey", "Fork", ""],
    ["", "Hoe", ""],
  ],
  "it's": [["a"], ["b"]],
};

const source: ListSource = {
  texts(sheet, { row, lastRow, column, lastColumn }) {
    const rows = new Map(Object.entries(cells)).get(sheet) ?? [];
    const found: string[] = [];
    for (let at = row; at <= Math.min(lastRow, rows.length - 1); at++)
      for (let aside = column; aside <= lastColumn; aside++)
        if ((rows[at]?.[aside] ?? "") !== "") found.push(rows[at]![aside]!);
    return found;
  },
  named: (name) =>
    new Map([
      ["colours", "lists!$A$2:$A$9"],
      ["Hand_tools", "lists!$B$2:$B$4"],
      ["kind_Books", "=lists!$C$2"],
      ["round", "round"],
    ]).get(name),
  choices: () => ["Hand tools", "Books"],
};

const offered = (formula: string) => offeredValues(formula, "Goods", source);

describe("what a drop-down offers", () => {
  it.each([
    ["lists!$A$2:$A$3", ["Green", "Grey"]],
    ["=lists!$A:$A", ["Colour", "Green", "Grey"]],
    ["'it''s'!$A$1:$A$2", ["a", "b"]],
    ["colours", ["Green", "Grey"]],
    ['"Yes,No"', ["Yes", "No"]],
    ["OFFSET(lists!$B$1,1,0,COUNTA(lists!$B:$B)-1)", ["Spade", "Fork", "Hoe"]],
    ["OFFSET(lists!$B$2,0,0,2,1)", ["Spade", "Fork"]],
    ['IF(A2="x",lists!$A$2:$A$3,lists!$C$2)', ["Green", "Grey", "Atlas"]],
    ['INDIRECT("colours")', ["Green", "Grey"]],
  ])("when its formula is %s, then the values are found", (formula, values) => {
    expect(offered(formula)?.values).toEqual(values);
  });

  it("when the list hangs on another cell, then each value of that cell has its own", () => {
    expect(offered('INDIRECT(SUBSTITUTE($C8," ","_"))')).toEqual({
      values: ["Spade", "Fork", "Hoe"],
      hangs: { column: 2, lists: [{ when: "Hand tools", values: ["Spade", "Fork", "Hoe"] }] },
    });
    expect(offered('INDIRECT("kind_"&C8)')?.hangs?.lists).toEqual([{ when: "Books", values: ["Atlas"] }]);
  });

  it.each(["VLOOKUP(A2,lists!A:B,2)", "nowhere", "round", "INDIRECT(INDIRECT(INDIRECT(A1)))", "((", ""])(
    "when the formula is %j, then nothing is made up",
    (formula) => {
      expect(offered(formula)).toBeUndefined();
    },
  );

  it("when cells are named, then they are counted from 0", () => {
    expect([columnNumber("A"), columnNumber("Z"), columnNumber("AA"), columnNumber("XFD")]).toEqual([
      0, 25, 26, 16383,
    ]);
    expect(cellRange("$B$2:$C$9")).toEqual({ row: 1, lastRow: 8, column: 1, lastColumn: 2 });
    expect(cellRange("Sheet")).toBeUndefined();
  });
});
