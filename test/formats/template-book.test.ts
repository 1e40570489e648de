import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import ExcelJS from "exceljs";
import { unzipSync, zipSync } from "fflate";
import { describe, expect, it } from "vitest";
import { readPapers } from "../../src/formats/paper-files.js";
import { templateBook, type TemplateBook } from "../../src/formats/template-book.js";
import { temporaryFolder } from "../kit/run.js";

const saved = new URL("../../bench/templates/resaved/", import.meta.url);

/** A workbook by somebody else's writer, read as a template. */
const bookOf = async (make: (book: ExcelJS.Workbook) => void): Promise<TemplateBook> => {
  const book = new ExcelJS.Workbook();
  make(book);
  return templateBook(Buffer.from(await book.xlsx.writeBuffer()), "t.xlsx");
};

const solid = (argb: string): ExcelJS.Fill => ({ type: "pattern", pattern: "solid", fgColor: { argb } });

interface Ruled {
  readonly dataValidations: { add(range: string, rule: unknown): void };
}

const ruled = (sheet: ExcelJS.Worksheet): Ruled["dataValidations"] =>
  (sheet as unknown as Ruled).dataValidations;

describe("a workbook as whoever fills it sees it", () => {
  it("when cells have colours, bold letters, notes and neighbours that they are merged with, then all is seen", async () => {
    const { sheets } = await bookOf((book) => {
      const sheet = book.addWorksheet("Goods", { views: [{ state: "frozen", ySplit: 2 }] });
      sheet.getCell("A1").value = "Basics";
      sheet.mergeCells("A1:B1");
      sheet.getCell("A2").value = "Title";
      Object.assign(sheet.getCell("A2"), {
        fill: solid("FFF4B183"),
        font: { bold: true, color: { argb: "FFC00000" } },
        note: "Max. 80 characters",
      });
      sheet.getCell("B2").value = 12.5;
      book.addWorksheet("lists", { state: "veryHidden" });
    });
    expect(sheets.map(({ sheet, isHidden }) => [sheet, isHidden])).toEqual([
      ["Goods", false],
      ["lists", true],
    ]);
    const [goods] = sheets;
    expect(goods!.merges).toEqual([{ row: 0, lastRow: 0, column: 0, lastColumn: 1 }]);
    expect(goods!.frozenRows).toBe(2);
    expect(goods!.rows[1]![0]).toEqual({
      text: "Title",
      fill: "F4B183",
      ink: "C00000",
      isBold: true,
      note: "Max. 80 characters",
    });
    expect(goods!.rows[1]![1]!.text).toBe("12.5");
  });

  it("when cells have rules, then lists are worked out, also those of hidden sheets that are longer than what is looked at", async () => {
    const { sheets, unread } = await bookOf((book) => {
      const sheet = book.addWorksheet("Goods");
      sheet.addRow(["Kind", "Long", "Size", "Stock", "Odd"]);
      const lists = book.addWorksheet("my lists", { state: "hidden" });
      for (let row = 1; row <= 5000; row++) lists.getCell(row, 1).value = `value ${row}`;
      ["Tools", "Books"].forEach((text, row) => (lists.getCell(row + 1, 2).value = text));
      ["long", "short"].forEach((text, row) => (lists.getCell(row + 1, 3).value = text));
      book.definedNames.add("'my lists'!$C$1:$C$2", "of_Tools");
      ruled(sheet).add("A2:A99", {
        type: "list",
        formulae: ["'my lists'!$B$1:$B$2"],
        showErrorMessage: true,
        errorStyle: "warning",
      });
      ruled(sheet).add("B2:B99", { type: "list", formulae: ["'my lists'!$A$1:$A$5000"] });
      ruled(sheet).add("C2:C99", { type: "list", formulae: ['INDIRECT("of_"&A2)'] });
      ruled(sheet).add("D2:D99", {
        type: "whole",
        operator: "between",
        formulae: [0, 99],
        promptTitle: "Stock",
        prompt: "How many",
      });
      ruled(sheet).add("E2:E99", { type: "list", formulae: ["VLOOKUP(A2,A:B,2)"] });
    });
    const rules = [...sheets[0]!.rules].sort((a, b) => a.firstColumn - b.firstColumn);
    expect(rules.map(({ kind, firstRow }) => [kind, firstRow])).toEqual([
      ["list", 1],
      ["list", 1],
      ["list", 1],
      ["whole", 1],
      ["list", 1],
    ]);
    expect([rules[0]!.values, rules[0]!.isOpen]).toEqual([["Tools", "Books"], true]);
    expect([rules[1]!.values.length, rules[1]!.values.at(-1)]).toEqual([5000, "value 5000"]);
    expect(rules[2]!.hangs).toEqual({ column: 0, lists: [{ when: "Tools", values: ["long", "short"] }] });
    expect([rules[3]!.first, rules[3]!.second, rules[3]!.message]).toEqual(["0", "99", "Stock. How many"]);
    expect(unread.map(({ formula }) => formula)).toEqual(["VLOOKUP(A2,A:B,2)"]);
  });

  it("when a workbook is protected and has macros, then that is told, and they are only looked at", async () => {
    const book = new ExcelJS.Workbook();
    const sheet = book.addWorksheet("Goods");
    sheet.addRow(["SKU", "Title", "Price"]);
    await sheet.protect("secret", {});
    const parts = unzipSync(new Uint8Array(await book.xlsx.writeBuffer()));
    const path = join(temporaryFolder(), "goods.xlsm");
    writeFileSync(path, zipSync({ ...parts, "xl/vbaProject.bin": new Uint8Array(100) }));
    const { told, papers } = await readPapers(path, "goods.xlsm");
    expect(papers).toHaveLength(1);
    expect(told.map((text) => text.replace(/^.*?(?=holds|is)/, "").slice(0, 12))).toEqual([
      "holds macros",
      "is protected",
    ]);
  });

  it.each(["reedbank/reedbank.xlsx", "saltmarket/saltmarket-items.xlsx", "oakhanger/oakhanger.xlsx"])(
    "when LibreOffice saved %s, then its notes, colours and lists are still there",
    async (file) => {
      const { sheets } = await templateBook(readFileSync(new URL(file, saved)), file);
      const cells = sheets.flatMap(({ rows }) => rows.flat());
      const rules = sheets.flatMap((sheet) => sheet.rules);
      expect(rules.filter(({ kind, values }) => kind === "list" && values.length > 1).length).toBeGreaterThan(
        3,
      );
      if (file.startsWith("reedbank")) {
        expect(cells.filter(({ note }) => note !== "").length).toBeGreaterThan(10);
        expect(new Set(cells.map(({ fill }) => fill)).size).toBeGreaterThan(2);
      }
    },
  );

  it("when a part of the workbook is missing or cut off, then it is refused, not half read", async () => {
    const book = new ExcelJS.Workbook();
    book.addWorksheet("Goods").addRow(["SKU", "Title", "Price"]);
    const parts = unzipSync(new Uint8Array(await book.xlsx.writeBuffer()));
    const half = { ...parts, "xl/worksheets/sheet1.xml": parts["xl/worksheets/sheet1.xml"]!.slice(0, 300) };
    await expect(templateBook(Buffer.from(zipSync(half)), "t.xlsx")).rejects.toMatchObject({
      findings: [{ code: "broken-data" }],
    });
    await expect(
      templateBook(Buffer.from(zipSync({ a: new Uint8Array(3) })), "t.xlsx"),
    ).rejects.toMatchObject({ findings: [{ code: "not-a-table" }] });
  });
});
