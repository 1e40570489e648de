import { spawnSync } from "node:child_process";
import { existsSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { parse } from "csv-parse/sync";
import { readXlsx } from "hucre/xlsx";
import { describe, expect, it } from "vitest";
import { demoShop, emptyShop } from "../kit/demo-shop.js";
import { goodsCsv, withGoodsSource } from "../kit/goods.js";
import { jsonLines, lexicant, read, write } from "../kit/run.js";

const catalogue = (shop: string): string => lexicant(shop, ["list", "--json"]).out;
const one = (shop: string, sku: string, ...args: readonly string[]) =>
  jsonLines(lexicant(shop, ["show", sku, "--json", ...args]).out)[0] ?? {};

describe("steps that can be taken back", () => {
  it("when imports and edits are undone and redone, then the catalogue is what it was at each point", () => {
    const shop = emptyShop();
    withGoodsSource(shop);
    const states = [catalogue(shop)];
    write(shop, "goods.csv", goodsCsv(5));
    lexicant(shop, ["import", "goods.csv"]);
    states.push(catalogue(shop));
    write(
      shop,
      "goods.csv",
      goodsCsv(6, (row, number) => number === 2 && (row[3] = "77.00")),
    );
    lexicant(shop, ["import", "goods.csv"]);
    states.push(catalogue(shop));
    lexicant(shop, ["set", "G-3", "price=5", "name=Low stool"]);
    states.push(catalogue(shop));
    expect(new Set(states).size).toBe(4);
    for (const step of [2, 1, 0]) {
      expect(lexicant(shop, ["undo"]).exit).toBe(0);
      expect(catalogue(shop)).toBe(states[step]);
    }
    expect(lexicant(shop, ["undo"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining("nothing to undo"),
    });
    for (const [undo, step] of [
      [6, 1],
      [5, 2],
      [4, 3],
    ] as const) {
      expect(lexicant(shop, ["undo", String(undo)]).exit).toBe(0);
      expect(catalogue(shop)).toBe(states[step]);
    }
    const history = jsonLines(lexicant(shop, ["history", "--json"]).out);
    expect(history.map(({ revision, kind, undoneBy }) => [revision, kind, undoneBy])).toEqual([
      [9, "undo", undefined],
      [8, "undo", undefined],
      [7, "undo", undefined],
      [6, "undo", 7],
      [5, "undo", 8],
      [4, "undo", 9],
      [3, "edit", undefined],
      [2, "import", undefined],
      [1, "import", undefined],
    ]);
  });

  it("when an older revision is to be undone, then later ones of its layer are named, and each way is open", () => {
    const shop = emptyShop();
    withGoodsSource(shop);
    for (const price of ["1.00", "2.00", "3.00"]) {
      write(
        shop,
        "goods.csv",
        goodsCsv(1, (row) => (row[3] = price)),
      );
      lexicant(shop, ["import", "goods.csv"]);
    }
    expect(lexicant(shop, ["undo", "2"])).toMatchObject({
      exit: 2,
      err: expect.stringMatching(/came another into\s+shop \(3\)/),
    });
    lexicant(shop, ["undo", "2", "--alone"]);
    expect(one(shop, "G-0")).toMatchObject({ price: "3.00 GBP" });
    expect(lexicant(shop, ["undo", "2"]).err).toContain("was undone by revision 4");
    lexicant(shop, ["undo", "4"]);
    lexicant(shop, ["undo", "2", "--through"]);
    expect(one(shop, "G-0")).toMatchObject({ price: "1.00 GBP" });
  });

  it("when a product's history is asked for, then every opinion is there with its place, undone ones too", () => {
    const shop = emptyShop();
    withGoodsSource(shop);
    write(shop, "goods.csv", goodsCsv(1));
    lexicant(shop, ["import", "goods.csv"]);
    lexicant(shop, ["set", "G-0", "price=9"]);
    lexicant(shop, ["undo"]);
    const prices = jsonLines(lexicant(shop, ["show", "G-0", "--history", "--json"]).out).filter(
      ({ attribute }) => attribute === "price",
    );
    expect(prices).toMatchObject([
      { text: "9.00 GBP", undone: true, revision: 2 },
      {
        text: "10.50 GBP",
        undone: false,
        place: { layer: "shop", file: "goods.csv", row: 2, column: "Price" },
      },
    ]);
    expect(lexicant(shop, ["show", "G-0", "--history"]).out).toContain("undone");
  });

  it("when an edit is for one channel, is cleared or taken back, then each shows where it should", () => {
    const shop = demoShop();
    const before = one(shop, "BC-1402");
    lexicant(shop, ["set", "BC-1402", "price=8.5", "material=(none)", "features=soft|long"]);
    expect(one(shop, "BC-1402")).toMatchObject({ price: "8.50 GBP", features: ["soft", "long"] });
    expect(one(shop, "BC-1402")).not.toHaveProperty("material");
    lexicant(shop, ["set", "BC-1402", "--channel", "lanternlist", "name=Brush for Lanternlist"]);
    expect(one(shop, "BC-1402")["name"]).toBe(before["name"]);
    expect(one(shop, "BC-1402", "--channel", "lanternlist")["name"]).toBe("Brush for Lanternlist");
    lexicant(shop, ["build"]);
    expect(read(shop, "out/lanternlist/lanternlist.tsv")).toContain("Brush for Lanternlist");
    lexicant(shop, ["set", "BC-1402", "price=", "material=", "features="]);
    expect(one(shop, "BC-1402")["price"]).toBe(before["price"]);
    expect(one(shop, "BC-1402")["material"]).toBe(before["material"]);
    expect(lexicant(shop, ["set", "BC-1402", "price=cheap"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining('price "cheap"'),
    });
  });
});

describe("out to a sheet and back", () => {
  const shop = demoShop();

  it.each(["sheet.csv", "sheet.xlsx"])(
    "when all products go out to %s and come back, then nothing changes",
    (name) => {
      const before = catalogue(shop);
      expect(lexicant(shop, ["export", name]).exit).toBe(0);
      const back = lexicant(shop, ["import", name, "--json"]);
      expect(jsonLines(back.out).at(-1)).toMatchObject({
        type: "import",
        readAs: "sheet",
        read: 288,
        unchanged: 288,
        changed: 0,
        rejected: 0,
      });
      expect(catalogue(shop)).toBe(before);
    },
  );

  it("when one cell is edited, then that value changes and no other", () => {
    lexicant(shop, ["export", "edit.csv", "--only", "gtin,price,quantity"]);
    const text = read(shop, "edit.csv");
    const line = /^BC-1602,(\d+),1149.00 GBP,(\d+)$/m.exec(text)?.[0] ?? "";
    write(shop, "edit.csv", text.replace(line, line.replace("1149.00 GBP", "1099")));
    const before = jsonLines(catalogue(shop));
    lexicant(shop, ["import", "edit.csv"]);
    const after = jsonLines(catalogue(shop));
    const changed = after.filter(
      (product, index) => JSON.stringify(product) !== JSON.stringify(before[index]),
    );
    expect(changed).toMatchObject([{ sku: "BC-1602", price: "1099.00 GBP" }]);
    lexicant(shop, ["undo"]);
    expect(jsonLines(catalogue(shop))).toEqual(before);
  });

  it("when products are chosen, then only they go out", () => {
    const skus = (...args: readonly string[]): readonly string[] => {
      const { out, exit } = lexicant(shop, ["export", "-", "--only", "sku", ...args]);
      expect(exit).toBe(0);
      return (parse(out, { columns: true }) as { sku: string }[]).map(({ sku }) => sku);
    };
    expect(skus("--group", "BC-1102")).toEqual(["BC-1102-MOSS", "BC-1102-CHALK", "BC-1102-SLATE"]);
    expect(skus("--category", "Seeds > Herbs")).toContain("BC-2302");
    expect(skus("--where", 'brand = "Fernditch" and quantity = 0').length).toBeGreaterThan(0);
    expect(skus("--sku", "BC-1402,BC-1602")).toEqual(["BC-1402", "BC-1602"]);
    write(shop, "some.txt", "BC-1602\r\nBC-1402\n");
    expect(skus("--sku", "@some.txt")).toEqual(["BC-1402", "BC-1602"]);
    const held = jsonLines(lexicant(shop, ["check", "lanternlist", "--json"]).out).at(-1)?.["held"];
    expect(skus("--lacking", "lanternlist")).toHaveLength(Number(held));
    expect(lexicant(shop, ["export", "-", "--sku", "BC-14O2"]).err).toContain('nearest: "BC-1402"');
  });

  it("when a workbook is written, then other programs read it and every code in it is a text", async () => {
    lexicant(shop, ["export", "codes.xlsx", "--only", "gtin,isbn,size,features"]);
    const path = join(shop, "codes.xlsx");
    const script =
      "import openpyxl,sys,json; s=openpyxl.load_workbook(sys.argv[1]).active; print(json.dumps([[c.value for c in r] for r in s.iter_rows()])); print(json.dumps(sorted({c.data_type for r in s.iter_rows() for c in r if c.value is not None})))";
    const other = spawnSync("/usr/bin/python3", ["-c", script, path], { encoding: "utf8" });
    expect([other.status, other.stderr]).toEqual([0, ""]);
    const [rows = "[]", types = "[]"] = other.stdout.split("\n");
    expect(JSON.parse(types)).toEqual(["s"]);
    const cells = JSON.parse(rows) as (string | null)[][];
    expect(cells[0]).toEqual(["sku", "gtin", "isbn", "size", "features"]);
    expect(cells).toHaveLength(289);
    const ours = await readXlsx(new Uint8Array(readFileSync(path)));
    expect(ours.sheets[0]?.rows[1]?.[1]).toBe("9524000001016");
  });

  it("when a file is there already, then it is not written over unasked", () => {
    write(shop, "mine.csv", "kept");
    expect(lexicant(shop, ["export", "mine.csv"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining("--force"),
    });
    expect(read(shop, "mine.csv")).toBe("kept");
    expect(lexicant(shop, ["export", "mine.csv", "--force"]).exit).toBe(0);
    expect(read(shop, "mine.csv")).toContain("BC-1101-10");
  });

  it("when cells would run as formulas, then a spreadsheet sees texts and they come back as they were", () => {
    const own = emptyShop();
    withGoodsSource(own);
    write(
      own,
      "goods.csv",
      goodsCsv(1, (row) => (row[2] = "=HYPERLINK(1)")),
    );
    lexicant(own, ["import", "goods.csv"]);
    lexicant(own, ["export", "out.csv"]);
    expect(read(own, "out.csv")).toContain("'=HYPERLINK(1)");
    expect(jsonLines(lexicant(own, ["import", "out.csv", "--json"]).out).at(-1)).toMatchObject({
      changed: 0,
      unchanged: 1,
    });
    expect(one(own, "G-0")["name"]).toBe("=HYPERLINK(1)");
  });

  it("when nothing is meant, then that is told, and no file is written", () => {
    const { err } = lexicant(shop, ["export", "none.csv", "--where", 'brand = "Nobody"']);
    expect(err).toContain("no product is meant");
    expect(existsSync(join(shop, "none.csv"))).toBe(false);
  });
});
