import { appendFileSync, existsSync, readFileSync, writeFileSync } from "node:fs";
import ExcelJS from "exceljs";
import { join } from "node:path";
import { unzipSync } from "fflate";
import { describe, expect, it } from "vitest";
import { demoShop } from "../kit/demo-shop.js";
import { lexicant } from "../kit/run.js";

const page = readFileSync(new URL("../../docs/your-channel.md", import.meta.url), "utf8");

type Block = { readonly kind: string; readonly file: string; readonly text: string };

const blocks: readonly Block[] = [...page.matchAll(/^```(\w+)(?: (\S+))?\n(.*?)^```$/gms)].map(
  ([, kind = "", file = "", text = ""]) => ({ kind, file, text }),
);

const argumentsOf = (line: string): readonly string[] =>
  [...line.matchAll(/(?:[^\s"]|"[^"]*")+/g)].map(([word]) => word.replaceAll('"', ""));

const squeezed = (text: string): string => text.replace(/ +/g, " ").trim();

/** Does one block's work in the shop, and gives what was printed last. */
const follow = (shop: string, { kind, file, text }: Block, printed: string): string => {
  switch (kind) {
    case "sh":
      return text
        .trim()
        .split("\n")
        .filter((line) => !/^(?:lexicant demo|cd )/.test(line))
        .reduce((_, line) => {
          const ran = lexicant(shop, argumentsOf(line).slice(1));
          expect([line, (ran.exit ?? 9) < 2, ran.err]).toEqual([line, true, ""]);
          return ran.out;
        }, printed);
    case "csv":
      appendFileSync(join(shop, file), text);
      return printed;
    case "diff": {
      const before = readFileSync(join(shop, file), "utf8");
      const [old = "", next = ""] = text
        .trimEnd()
        .split("\n")
        .map((line) => line.slice(1));
      expect(before).toContain(`${old}\n`);
      writeFileSync(
        join(shop, file),
        before.replace(old, () => next),
      );
      return printed;
    }
    default:
      for (const line of text.trim().split("\n")) expect(squeezed(printed)).toContain(squeezed(line));
      return printed;
  }
};

/** Somebody else's reading of a workbook: what each row's cells show, from column A on. */
const readByOthers = async (path: string, sheet: string): Promise<readonly (readonly string[])[]> => {
  const book = new ExcelJS.Workbook();
  await book.xlsx.readFile(path);
  const rows: string[][] = [];
  const own = book.getWorksheet(sheet)!;
  own.eachRow({ includeEmpty: true }, (row, number) => {
    rows[number - 1] = Array.from({ length: own.columnCount }, (_, at) => row.getCell(at + 1).text);
  });
  return rows;
};

describe("the page on a channel of one's own", () => {
  it("when it is followed word by word, then it says what comes of it, and the filled workbook is the channel's own", async () => {
    const shop = demoShop();
    const upTo = blocks.findIndex(({ text }) => text.includes("--as 2027"));
    let printed = "";
    for (const block of blocks.slice(0, upTo)) printed = follow(shop, block, printed);
    const template = join(shop, "papers", "tansyfield", "goods-2026.xlsx");
    const built = join(shop, "out", "tansyfield", "tansyfield.xlsx");
    // Byte for byte the channel's workbook, but for the sheet that was filled and the mark that formulas are worked out anew.
    const [before, after] = [unzipSync(readFileSync(template)), unzipSync(readFileSync(built))];
    expect(Object.keys(after).sort()).toEqual(Object.keys(before).sort());
    const changed = Object.keys(before).filter(
      (name) => !Buffer.from(before[name]!).equals(Buffer.from(after[name]!)),
    );
    expect(changed.sort()).toEqual(["xl/workbook.xml", "xl/worksheets/sheet2.xml"]);
    const sheet = (parts: typeof before): string =>
      Buffer.from(parts["xl/worksheets/sheet2.xml"]!).toString();
    const around = (xml: string): string =>
      xml.replace(/<sheetData>.*<\/sheetData>/s, "").replace(/<dimension[^>]*>/, "");
    expect(around(sheet(after))).toBe(around(sheet(before)));
    const formulas = (xml: string): readonly string[] =>
      [...xml.matchAll(/<f[ >][^<]*<\/f>|<f>[^<]*<\/f>/g)].map(([formula]) => formula);
    expect(formulas(sheet(after))).toEqual(formulas(sheet(before)));
    const lists = new Map([["Condition", ["New", "Opened", "Mended"]]]);
    const [rows, empty] = [await readByOthers(built, "Goods"), await readByOthers(template, "Goods")];
    expect(rows.slice(0, 7)).toEqual(empty.slice(0, 7));
    const heads = rows[3]!;
    const listings = rows.slice(7).filter((row) => row[1] !== "");
    expect(listings.length).toBe(85);
    for (const row of listings) {
      heads.forEach((head, at) => {
        if (rows[5]![at] === "Must") expect([row[1], head, row[at]]).not.toEqual([row[1], head, ""]);
        const known = lists.get(head);
        if (known !== undefined) expect(known).toContain(row[at]);
      });
      expect(row[heads.indexOf("Picture 1")]).toMatch(/^https:/);
      expect(row[heads.indexOf("Selling price")]).toMatch(/^\d+\.\d\d$/);
    }
    // The rest of the page: the channel re-issues its workbook.
    const decisions = readFileSync(join(shop, "channels", "tansyfield", "fills.yaml"), "utf8");
    for (const block of blocks.slice(upTo)) printed = follow(shop, block, printed);
    expect(existsSync(join(shop, "definitions", "tansyfield", "versions", "1", "fields.csv"))).toBe(true);
    expect(lexicant(shop, ["channels", "upgrade", "tansyfield", "--back"]).exit).toBe(0);
    expect(readFileSync(join(shop, "channels", "tansyfield", "fills.yaml"), "utf8")).toBe(decisions);
  });
});
