import { spawnSync } from "node:child_process";
import { writeFileSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import type { FormSheet } from "../../src/core/gaps/form.js";
import { formWorkbook } from "../../src/formats/form-workbook.js";
import { temporaryFolder } from "../kit/run.js";

const many = Array.from({ length: 80 }, (_, at) => `value ${at}, of many`);

const sheet: FormSheet = {
  name: "Asked",
  columns: [{ width: 10 }, { width: 10, isHidden: true }],
  rows: [
    [
      { text: "key", role: "key" },
      { text: "", role: "key" },
    ],
    [
      { text: "=1+1", role: "title", note: "A note\nof two lines" },
      { text: "@x", role: "fixed" },
    ],
    ...Array.from({ length: 4 }, () => [
      { text: "", role: "open" as const },
      { text: "0012", role: "idle" as const },
    ]),
  ],
  heights: new Map([[1, 30]]),
  hiddenRows: [0],
  frozen: { rows: 2, columns: 1 },
  choices: [
    { column: 0, rows: [2, 3, 5], values: many, isClosed: true },
    { column: 1, rows: [2], values: ["a", "b"], isClosed: false },
  ],
};

describe("a workbook that is a form", () => {
  it("when another program opens it, then long lists stand on a hidden sheet and no text is a formula", async () => {
    const path = join(temporaryFolder(), "form.xlsx");
    writeFileSync(path, await formWorkbook("A form", [sheet]));
    const script = `
import openpyxl,sys,json
book=openpyxl.load_workbook(sys.argv[1]); s=book.worksheets[0]
print(json.dumps({"sheets": [[x.title, x.sheet_state] for x in book], "title": book.properties.title,
  "lists": [[str(v.sqref), v.formula1, v.errorStyle or "stop"] for v in s.data_validations.dataValidation],
  "values": [book["values"].cell(r,1).value for r in (1,80)],
  "cells": [[s.cell(2,1).value, s.cell(2,1).data_type], [s.cell(2,2).value, s.cell(2,2).data_type], [s.cell(3,2).value, s.cell(3,2).data_type]],
  "locked": [s.cell(3,1).protection.locked, s.cell(3,2).protection.locked], "height": s.row_dimensions[2].height}))`;
    const { status, stdout, stderr } = spawnSync("/usr/bin/python3", ["-c", script, path], {
      encoding: "utf8",
    });
    expect([status, stderr]).toEqual([0, ""]);
    expect(JSON.parse(stdout)).toEqual({
      sheets: [
        ["Asked", "visible"],
        ["values", "hidden"],
      ],
      title: "A form",
      lists: [
        ["A3:A4 A6", "values!$A$1:$A$80", "stop"],
        ["B3", '"a,b"', "warning"],
      ],
      values: ["value 0, of many", "value 79, of many"],
      cells: [
        ["=1+1", "s"],
        ["@x", "s"],
        ["0012", "s"],
      ],
      locked: [false, true],
      height: 30,
    });
  });
});
