import { existsSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { gzipSync } from "node:zlib";
import { describe, expect, it } from "vitest";
import { emptyShop } from "../kit/demo-shop.js";
import { goodsCsv, goodsHeader, gtinOf, withGoodsSource } from "../kit/goods.js";
import { jsonLines, lexicant, lexicantStarted, read, write } from "../kit/run.js";

const goodsShop = (layers?: string): string => {
  const shop = emptyShop();
  withGoodsSource(shop, layers);
  return shop;
};

const importJson = (shop: string, ...args: readonly string[]) => {
  const ran = lexicant(shop, ["import", ...args, "--json"]);
  const lines = jsonLines(ran.out);
  return { ...ran, lines, summary: lines.find(({ type }) => type === "import") ?? {} };
};

const skus = (shop: string): readonly unknown[] =>
  jsonLines(lexicant(shop, ["list", "--json"]).out).map(({ sku }) => sku);

describe("files from wherever they come", () => {
  it("when a file comes by standard input, packed, by a pattern or as several, then all are read in one act", () => {
    const shop = goodsShop();
    const [first, second] = [goodsCsv(2), goodsCsv(4).replace(/G-[01],.*\n/g, "")];
    expect(lexicant(shop, ["import", "-", "--source", "goods"], { input: gzipSync(first) }).exit).toBe(0);
    write(shop, "data/goods-1.csv", second);
    write(
      shop,
      "data/goods-2.csv",
      second
        .replaceAll("G-", "H-")
        .replaceAll("F-", "E-")
        .replace(/952\d+/g, ""),
    );
    const { out, exit } = lexicant(shop, ["import", "data/goods-*.csv", "--source", "goods"]);
    expect([exit, out.match(/2 read = 2 added/g)?.length]).toEqual([0, 2]);
    expect(skus(shop)).toEqual(["G-0", "G-1", "G-2", "G-3", "H-2", "H-3"]);
    lexicant(shop, ["undo"]);
    expect(skus(shop)).toEqual(["G-0", "G-1"]);
  });

  it("when one of several files is broken, then none of them lands", () => {
    const shop = goodsShop();
    write(shop, "goods-1.csv", goodsCsv(2));
    write(shop, "goods-2.csv", `${goodsHeader}\n"G-9,open`);
    const { exit, err } = lexicant(shop, ["import", "goods-1.csv", "goods-2.csv"]);
    expect([exit, err]).toEqual([2, expect.stringContaining("never closed")]);
    expect(skus(shop)).toEqual([]);
  });

  it("when standard input has no source, then it is told to be named", () => {
    expect(lexicant(goodsShop(), ["import", "-"], { input: "a" })).toMatchObject({
      exit: 2,
      err: expect.stringContaining("--source NAME"),
    });
  });
});

describe("files that no source describes", () => {
  const table = "Article,Product,Sell at,EAN\nX-1,Stool,20.00,9524000001016\nX-2,Bench,30.00,9524000001023\n";

  it("when nobody is there to ask, then the proposal is shown, nothing happens, and the way on is told", () => {
    const shop = emptyShop();
    write(shop, "new.csv", table);
    const { exit, out, err } = lexicant(shop, ["import", "new.csv"]);
    expect([exit, out, err]).toEqual([
      2,
      expect.stringContaining("Proposed for sources/new.yaml"),
      expect.stringContaining("--accept"),
    ]);
    expect([existsSync(join(shop, "sources/new.yaml")), skus(shop)]).toEqual([false, []]);
  });

  it("when it is accepted, then the source is kept, and the next delivery needs no asking", () => {
    const shop = emptyShop();
    write(shop, "new-2026-11-25.csv", table);
    expect(lexicant(shop, ["import", "new-2026-11-25.csv", "--source", "new", "--accept"]).exit).toBe(0);
    expect(read(shop, "lexicant.yaml")).toContain("new");
    write(shop, "new-2026-11-26.csv", table.replace("20.00", "21.00"));
    expect(importJson(shop, "new-2026-11-26.csv").summary).toMatchObject({
      source: "new",
      changed: 1,
      unchanged: 1,
    });
  });

  it("when a dry run is asked for, then neither the catalogue nor a file changes, and samples show what would", () => {
    const shop = goodsShop();
    write(shop, "goods.csv", goodsCsv(3));
    lexicant(shop, ["import", "goods.csv"]);
    write(
      shop,
      "goods.csv",
      goodsCsv(4, (row, number) => number === 1 && (row[3] = "99.00")),
    );
    const { out } = lexicant(shop, ["import", "goods.csv", "--dry-run"]);
    expect(out).toContain("would change G-1: price 11.50 GBP → 99.00 GBP");
    expect(out).toContain("would be added: G-3");
    expect(lexicant(shop, ["import", "goods.csv"]).out).toContain("1 added + 1 changed + 2 unchanged");
  });

  it("when a column of the source is gone, then the file is refused with the nearest name", () => {
    const shop = goodsShop();
    write(shop, "goods.csv", goodsCsv(1).replace("Title", "Titel"));
    expect(lexicant(shop, ["import", "goods.csv"]).err).toMatch(
      /there is no column "Title"; nearest: "Titel"\n.*\n.*\n.*sources\/goods\.yaml:6:9/,
    );
  });
});

describe("rejected rows", () => {
  it("when rows are rejected, then their file can be mended and imported, and all rows are accounted for", () => {
    const shop = goodsShop();
    write(
      shop,
      "goods.csv",
      goodsCsv(4, (row, number) => number === 2 && (row[0] = "")),
    );
    expect(importJson(shop, "goods.csv").summary).toMatchObject({
      read: 4,
      added: 3,
      rejected: 1,
      rejectedFile: "out/rejected/goods.csv",
    });
    const rejected = read(shop, "out/rejected/goods.csv");
    expect(rejected).toContain("why rejected");
    expect(rejected).toContain("goods.csv, row 4: the row has no sku");
    write(
      shop,
      "out/rejected/goods.csv",
      rejected.replace(`the row has no sku",,F-0`, `the row has no sku",G-2,F-0`),
    );
    expect(importJson(shop, "out/rejected/goods.csv").summary).toMatchObject({ added: 1, rejected: 0 });
    expect(skus(shop)).toContain("G-2");
  });

  it("when rows of a workbook are rejected, then they come back as CSV by the same source", () => {
    const shop = emptyShop();
    write(
      shop,
      "sources/list.yaml",
      "layer: list\nformat: json\nrecords: goods\ncolumns:\n  sku: no\n  name: title\n",
    );
    write(shop, "lexicant.yaml", "shop: B\nlanguage: en\ncurrency: GBP\nlayers: [list]\n");
    write(shop, "list.json", '{"goods":[{"no":"A","title":"Stool"},{"title":"Bench"}]}');
    expect(importJson(shop, "list.json").summary).toMatchObject({ added: 1, rejected: 1 });
    write(shop, "out/rejected/list.csv", read(shop, "out/rejected/list.csv").replace(",,Bench", ",B,Bench"));
    expect(importJson(shop, "out/rejected/list.csv").summary).toMatchObject({ added: 1, rejected: 0 });
  });
});

describe("what a file says of products together", () => {
  it("when a delivery replaces its layer, then vanished products are listed, and dropped when asked", () => {
    const shop = goodsShop();
    write(shop, "goods.csv", goodsCsv(4));
    lexicant(shop, ["import", "goods.csv"]);
    write(shop, "goods.csv", goodsCsv(3));
    const kept = importJson(shop, "goods.csv", "--replace");
    expect(kept.lines.filter(({ code }) => code === "vanished").map(({ product }) => product)).toEqual([
      "G-3",
    ]);
    expect(skus(shop)).toContain("G-3");
    expect(importJson(shop, "goods.csv", "--replace", "--drop-vanished").summary).toMatchObject({
      vanished: 1,
    });
    expect(skus(shop)).not.toContain("G-3");
  });

  it("when rows show twins, doubles and lonely members, then each is told by its row", () => {
    const shop = goodsShop();
    write(
      shop,
      "goods.csv",
      goodsCsv(9, (row, number) => {
        if (number === 1) row[5] = gtinOf(0);
        if (number === 2) row[6] = "size 3";
        if (number === 5) row[0] = "g-4";
        if (number === 6) row[0] = "G-0";
      }),
    );
    const told = importJson(shop, "goods.csv").lines.map(
      ({ code, product, place }) =>
        `${String(code)} ${String(product)} ${String((place as { row?: number } | undefined)?.row)}`,
    );
    expect(told).toEqual(
      expect.arrayContaining([
        "same-gtin G-1 3",
        "same-axes G-3 5",
        "sku-twin g-4 undefined",
        "repeated-key undefined 8",
        "single-member G-8 10",
      ]),
    );
  });

  it("when a bundle lacks a part, then that is told; when the part comes, then its stock follows", () => {
    const shop = emptyShop();
    write(
      shop,
      "sources/sets.yaml",
      "layer: sets\ncolumns:\n  sku: sku\n  name: name\n  quantity: stock\n  bundle_of: parts\n",
    );
    write(shop, "lexicant.yaml", "shop: B\nlanguage: en\ncurrency: GBP\nlayers: [sets]\n");
    write(shop, "sets.csv", "sku,name,stock,parts\nSET,Set,,JAR: 6|LID: 6\nLID,Lid,60,\n");
    expect(importJson(shop, "sets.csv").lines).toContainEqual(
      expect.objectContaining({ code: "missing-part", product: "SET", place: { file: "sets.csv", row: 2 } }),
    );
    write(shop, "sets.csv", "sku,name,stock,parts\nJAR,Jar,25,\n");
    lexicant(shop, ["import", "sets.csv"]);
    expect(jsonLines(lexicant(shop, ["show", "SET", "--json"]).out)[0]).toMatchObject({ quantity: "4" });
  });

  it("when 100 barcodes get a new stock, then only that value changes", () => {
    const shop = goodsShop("[shop, stock]");
    write(
      shop,
      "sources/stock.yaml",
      "layer: stock\nkey: gtin\nmode: update\ncolumns:\n  gtin: EAN\n  quantity: Count\n",
    );
    write(shop, "goods.csv", goodsCsv(200));
    lexicant(shop, ["import", "goods.csv"]);
    const stock = Array.from({ length: 100 }, (_, number) => `${gtinOf(number * 2)};999`).join("\n");
    write(shop, "stock.csv", `EAN;Count\n${stock}\n9524000999990;1\n`);
    expect(importJson(shop, "stock.csv").summary).toMatchObject({ changed: 100, rejected: 1 });
    const listed = jsonLines(lexicant(shop, ["list", "--json", "--where", "quantity = 999"]).out);
    expect(listed.map(({ sku }) => sku)).toEqual(
      Array.from({ length: 100 }, (_, number) => `G-${number * 2}`),
    );
    expect(listed[7]).toMatchObject({ price: "24.50 GBP", gtin: gtinOf(14) });
  });
});

describe("a thousand rows spoilt in forty ways", () => {
  // Column, what stands there, the finding for the row (or none), and whether the row is rejected.
  const ways: readonly (readonly [number, string, string, boolean])[] = [
    [0, "", "blank-key", true],
    [0, "1.2E+05", "damaged-key", true],
    [0, "10-Dec", "damaged-key", true],
    [0, "G-6", "repeated-key", true],
    [0, " G-x4 ", "repaired-value", false],
    [0, "G\u00a0x5", "repaired-value", false],
    [3, "on request", "unreadable-value", false],
    [3, "12.50.00", "unreadable-value", false],
    [3, "£12.50", "none", false],
    [3, "€12.50", "unreadable-value", false],
    [3, "12.50 XYZ", "unreadable-value", false],
    [3, "#N/A", "damaged-value", false],
    [3, "\u00a012.50 ", "repaired-value", false],
    [3, "", "none", false],
    [4, "3.5", "unreadable-value", false],
    [4, "lots", "unreadable-value", false],
    [4, "-2", "repaired-value", false],
    [4, "12.0", "none", false],
    [4, "#REF!", "damaged-value", false],
    [5, "9.52E+12", "damaged-value", false],
    [5, "9524000001017", "unreadable-value", false],
    [5, "95240000010", "unreadable-value", false],
    [5, "952400000101O", "unreadable-value", false],
    [5, "2000000000008", "restricted-gtin", false],
    [5, `${gtinOf(99001)}.0`, "repaired-value", false],
    [5, `'${gtinOf(99002)}`, "none", false],
    [6, "10-Dec", "damaged-value", false],
    [6, "2026-12-10", "damaged-value", false],
    [6, "GrÃ¶ÃŸe M", "repaired-value", false],
    [6, "M\ufffdll", "damaged-value", false],
    [7, "heavy", "unreadable-value", false],
    [7, '""1 lb 4 oz""', "none", false],
    [7, "2 1/2 lb", "none", false],
    [7, "500 g", "none", false],
    [7, "3 furlongs", "unreadable-value", false],
    [8, "picture.jpg", "unreadable-value", false],
    [8, "https://a.example/1.jpg|https://a.example/2.jpg", "none", false],
    [9, "=cmd()", "none", false],
    [9, "ragged,cell", "ragged-row", true],
    [2, '"Stool ""9"" high"', "none", false],
  ];

  it("when each way is there 25 times, then every row is accounted for, with its reason", () => {
    const shop = goodsShop();
    write(
      shop,
      "goods.csv",
      goodsCsv(1000, (row, number) => {
        const [column, value] = ways[number % 40] ?? [0, ""];
        row[column] = value
          .replace("x4", `x4-${number}`)
          .replace("x5", `x5-${number}`)
          .replace(/^""(.*)""$/, "$1");
      }),
    );
    const { lines, summary, exit } = importJson(shop, "goods.csv");
    const rejected = ways.filter(([, , , isRejected]) => isRejected).length * 25;
    expect([exit, summary["read"], summary["rejected"]]).toEqual([0, 1000, rejected]);
    expect(
      Number(summary["added"]) + Number(summary["changed"]) + Number(summary["unchanged"]) + rejected,
    ).toBe(1000);
    const byRow = new Map<number, string[]>();
    for (const { code, place } of lines) {
      const row = (place as { row?: number } | undefined)?.row;
      if (row !== undefined) byRow.set(row, [...(byRow.get(row) ?? []), String(code)]);
    }
    const about = new Set(["single-member", "same-axes", "same-gtin", "sku-twin"]);
    for (let number = 40; number < 1000; number++) {
      const [column = 0, value = "", expected = "", isRejected = false] = ways[number % 40] ?? [];
      const codes = (byRow.get(number + 2) ?? []).filter((code) => !about.has(code));
      expect(codes, `row ${number + 2}, column ${column}: ${value}`).toEqual(
        expected === "none" ? [] : [expected],
      );
      if (isRejected) expect(read(shop, "out/rejected/goods.csv")).toContain(`row ${number + 2}: `);
    }
    expect(read(shop, "out/rejected/goods.csv").trim().split("\n")).toHaveLength(rejected + 1);
  });
});

describe("two programs on one workspace", () => {
  it("when both import at once, then one waits or is told, and both files are whole", async () => {
    const shop = goodsShop();
    write(shop, "goods-1.csv", goodsCsv(6000));
    write(
      shop,
      "goods-2.csv",
      goodsCsv(6000)
        .replaceAll("G-", "H-")
        .replaceAll("F-", "E-")
        .replaceAll(",952", ",")
        .replace(/,\d{10},/g, ",,"),
    );
    const ended = ["goods-1.csv", "goods-2.csv"].map(
      (file) =>
        new Promise<number | null>((resolve) =>
          lexicantStarted(shop, ["import", file]).on("exit", (code) => resolve(code)),
        ),
    );
    const exits = await Promise.all(ended);
    expect(exits.every((exit) => exit === 0 || exit === 3)).toBe(true);
    expect(skus(shop)).toHaveLength(6000 * exits.filter((exit) => exit === 0).length);
  });
});

describe("a file under the hands of another program", () => {
  it("when it grows while it is read, then it is refused and nothing is changed", async () => {
    const shop = goodsShop();
    const path = write(shop, "goods.csv", goodsCsv(20_000));
    const started = lexicantStarted(shop, ["import", "goods.csv"]);
    const { appendFileSync } = await import("node:fs");
    const timer = setInterval(
      () => appendFileSync(path, `${["G-new", "", "Late", "1.00", "1", "", "", "1", "", ""].join(",")}\n`),
      5,
    );
    const exit = await new Promise((resolve) => started.on("exit", resolve));
    clearInterval(timer);
    expect(exit).toBe(3);
    expect(skus(shop)).toEqual([]);
    expect(readFileSync(path, "utf8")).toContain("G-new");
  });
});
