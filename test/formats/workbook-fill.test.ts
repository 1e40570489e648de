import { spawnSync } from "node:child_process";
import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { unzipSync, zipSync } from "fflate";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { workbookFill } from "../../src/formats/workbook-fill.js";
import { temporaryFolder } from "../kit/run.js";

const python = (script: string, ...args: readonly string[]): string => {
  const { status, stdout, stderr } = spawnSync("/usr/bin/python3", ["-c", script, ...args], {
    encoding: "utf8",
  });
  expect([status, stderr]).toEqual([0, ""]);
  return stdout;
};

/** A workbook that another program made: guidance, a styled sheet with a formula, a drop-down, a note and rows of examples. */
const template = join(temporaryFolder(), "template.xlsx");
python(
  `
import openpyxl, sys
from openpyxl.styles import Font, PatternFill
from openpyxl.worksheet.datavalidation import DataValidation
from openpyxl.comments import Comment
b=openpyxl.Workbook(); g=b.active; g.title="Guide"; g["A1"]="Fill the sheet Goods"; g["B1"]="=COUNTA(Goods!A3:A99)"
s=b.create_sheet("Goods"); s.append(["made up"]); s.append(["Code","Hue & shade","Sum"])
s["A2"].font=Font(bold=True); s["B2"].comment=Comment("one of two","x"); s["B3"].fill=PatternFill("solid",fgColor="FFEEDD"); s["A3"]="EXAMPLE"
s["C50"]="=SUM(1,2)"
v=DataValidation(type="list",formula1='"red,green"'); v.add("B3:B99"); s.add_data_validation(v)
b.save(sys.argv[1])`,
  template,
);
const bytes = readFileSync(template);
const open = () => workbookFill(bytes, "template.xlsx", { sheet: "Goods", headerRow: 2, firstRow: 3 });

describe("filling somebody else's workbook", () => {
  it("when rows are put in, then only that sheet's part changes", async () => {
    const fill = await open();
    expect(fill.header).toEqual(["Code", "Hue & shade", "Sum"]);
    const filled = fill.bytes([
      ["0012", "red", ""],
      ["=1+1", "gr<een>\nx", "9"],
    ]);
    const [before, after] = [unzipSync(bytes), unzipSync(filled)];
    const changed = Object.keys(before).filter(
      (name) => !Buffer.from(before[name] ?? []).equals(Buffer.from(after[name] ?? [])),
    );
    expect(Object.keys(after)).toEqual(Object.keys(before));
    // The workbook says already that formulas are worked out when it is opened.
    expect(changed).toEqual(["xl/worksheets/sheet2.xml"]);
    const path = join(temporaryFolder(), "filled.xlsx");
    writeFileSync(path, filled);
    const seen: unknown = JSON.parse(
      python(
        `
import openpyxl,sys,json
b=openpyxl.load_workbook(sys.argv[1]); s=b["Goods"]
print(json.dumps([[[c.value for c in r] for r in s["A1:C4"]], s["A3"].data_type, s["A4"].data_type, s["B3"].fill.fgColor.rgb, s["B4"].fill.fgColor.rgb, s["A2"].font.bold, s["B2"].comment.text, s["C50"].value, b["Guide"]["B1"].value, str(s.data_validations.dataValidation[0].sqref)]))`,
        path,
      ),
    );
    expect(seen).toEqual([
      [
        ["made up", null, null],
        ["Code", "Hue & shade", "Sum"],
        ["0012", "red", null],
        ["=1+1", "gr<een>\nx", "9"],
      ],
      ...[
        "s",
        "s",
        "00FFEEDD",
        "00FFEEDD",
        true,
        "one of two",
        "=SUM(1,2)",
        "=COUNTA(Goods!A3:A99)",
        "B3:B99",
      ],
    ]);
  });

  it("when any texts are put in, then another program reads the same, and the same rows give the same bytes", async () => {
    const fill = await open();
    const path = join(temporaryFolder(), "any.xlsx");
    const cell = fc.string({ unit: fc.constantFrom("a", "<", "&", '"', "é", "\n", " ", "$&", "0", "=") });
    fc.assert(
      fc.property(fc.array(fc.tuple(cell, cell), { minLength: 1, maxLength: 20 }), (rows) => {
        const filled = fill.bytes(rows);
        expect(Buffer.from(fill.bytes(rows)).equals(Buffer.from(filled))).toBe(true);
        writeFileSync(path, filled);
        const seen: unknown = JSON.parse(
          python(
            `import openpyxl,sys,json\ns=openpyxl.load_workbook(sys.argv[1])["Goods"]\nprint(json.dumps([[c.value or "" for c in r] for r in s.iter_rows(min_row=3,max_row=${2 + rows.length},max_col=2)]))`,
            path,
          ),
        );
        expect(seen).toEqual(rows);
      }),
      { numRuns: 8 },
    );
  });

  it("when the sheet is not there or the file is none, then that is told", async () => {
    const other = { sheet: "Things", headerRow: 1, firstRow: 2 };
    await expect(workbookFill(bytes, "t.xlsx", other)).rejects.toThrow("unknown-sheet");
    await expect(workbookFill(Buffer.from("no workbook"), "t.xlsx", other)).rejects.toThrow();
  });

  it("when examples stand below the head, then they are cleared behind the listings, and what the sheet works out stays", async () => {
    const fill = await workbookFill(bytes, "template.xlsx", {
      sheet: "Goods",
      headerRow: 2,
      firstRow: 3,
      examples: 60,
    });
    const sheet = Buffer.from(unzipSync(fill.bytes([]))["xl/worksheets/sheet2.xml"] ?? []).toString();
    expect(sheet).not.toContain("EXAMPLE");
    expect(sheet).toMatch(/<c r="A3"[^>]*\/>/);
    expect(sheet).toMatch(/<c r="B3" s="\d+"\s*\/>/);
    expect(sheet).toContain("<f>SUM(1,2)</f>");
    const long = fill.bytes(Array.from({ length: 60 }, (_, at) => [`A-${at}`, "", ""]));
    expect(Buffer.from(unzipSync(long)["xl/worksheets/sheet2.xml"] ?? []).toString()).toContain(
      "<f>SUM(1,2)</f>",
    );
  });

  it("when a program wrote its elements with a prefix, then they are filled with it", async () => {
    const parts = unzipSync(bytes);
    const prefixed = Buffer.from(parts["xl/worksheets/sheet2.xml"] ?? [])
      .toString()
      .replace(/<(\/?)(?!\?)([a-zA-Z])/g, "<$1x:$2")
      .replace(' xmlns="', ' xmlns:x="');
    const own = Buffer.from(
      zipSync({ ...parts, "xl/worksheets/sheet2.xml": new TextEncoder().encode(prefixed) }),
    );
    const fill = await workbookFill(own, "template.xlsx", { sheet: "Goods", headerRow: 2, firstRow: 3 });
    expect(fill.header).toEqual(["Code", "Hue & shade", "Sum"]);
    const file = join(temporaryFolder(), "prefixed.xlsx");
    writeFileSync(file, fill.bytes([["0012", "red", ""]]));
    expect(
      python(
        "import openpyxl,sys\ns=openpyxl.load_workbook(sys.argv[1])['Goods']\nprint(s['A3'].value,s['B3'].value,s['C50'].value)",
        file,
      ).trim(),
    ).toBe("0012 red =SUM(1,2)");
  });
});
