/** Attributes of the shop's own, what a person sets, days at home, and what stays out or inside on the way in. */
import { readFileSync } from "node:fs";
import { join } from "node:path";
import { parse } from "csv-parse/sync";
import { describe, expect, it } from "vitest";
import { emptyShop } from "../kit/demo-shop.js";
import { jsonLines, lexicant, read, write } from "../kit/run.js";

type Line = Readonly<Record<string, unknown>>;

const shopWith = (settings: string): string => {
  const shop = emptyShop();
  write(
    shop,
    "lexicant.yaml",
    `shop: B\nlanguage: en\ncurrency: GBP\nlayers: [shop, stock, { layer: fair, channel: lanternlist }]\n${settings}`,
  );
  return shop;
};

const goods = (shop: string): ReadonlyMap<string, Line> =>
  new Map(jsonLines(lexicant(shop, ["list", "--json"]).out).map((one) => [String(one["sku"]), one]));

const findings = (out: string): readonly Line[] => jsonLines(out).filter(({ type }) => type === "finding");

const hasSeparator = (text: string): boolean =>
  [...text].some((sign) => sign.charCodeAt(0) >= 28 && sign.charCodeAt(0) <= 31);

describe("attributes of the shop's own", () => {
  const shop = shopWith(
    "attributes:\n  länge: measure\n  strung: yes-no\n  finish: [oil, shellac]\n  fits: { several: yes, values: [viola, violin] }\n",
  );
  write(
    shop,
    "pegs.csv",
    "sku,name,Lang,Strung,Finish,Fits\nP-1,Peg,12 cm,yes,Oil,viola|violin\nP-2,Pin,about a hand,maybe,varnish,cello\n",
  );
  write(
    shop,
    "sources/pegs.yaml",
    'layer: shop\nlist_separator: "|"\ncolumns:\n  sku: sku\n  name: name\n  länge: Lang\n  strung: Strung\n  finish: Finish\n  fits: Fits\n',
  );
  const imported = lexicant(shop, ["import", "pegs.csv", "--json"]);

  it("when cells are of the kind that is declared, then they are read as such", () => {
    expect(goods(shop).get("P-1")).toMatchObject({ länge: "12 cm", strung: "yes", finish: "oil" });
    expect(goods(shop).get("P-1")?.["fits"]).toEqual(["viola", "violin"]);
  });

  it("when they are not, then each is told and none is taken", () => {
    expect(Object.keys(goods(shop).get("P-2") ?? {}).sort()).toEqual(["name", "sku", "type"]);
    const told = findings(imported.out).map(({ facts }) => (facts as Line)["attribute"]);
    expect([...new Set(told)].sort()).toEqual(["finish", "fits", "länge", "strung"]);
  });

  it("when a person sets a list and an attribute that is new, then both hold, and the new one is told", () => {
    const { exit, out } = lexicant(shop, ["set", "P-1", "fits=violin", "bouquet=dry|sweet"]);
    expect([exit, out]).toEqual([0, expect.stringContaining("bouquet is an attribute that no product had")]);
    expect(goods(shop).get("P-1")).toMatchObject({ fits: ["violin"] });
    expect(lexicant(shop, ["set", "P-1", "nmae=Peg"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining('nearest: "name"'),
    });
    expect(lexicant(shop, ["set", "P-1", "finish=tar"]).exit).toBe(2);
  });
});

describe("what a shop's day is", () => {
  it.each([
    ["Pacific/Kiritimati", 14],
    ["Pacific/Pago_Pago", -11],
  ])("when its clock is that of %s, then today is the day there", (zone, hours) => {
    const shop = shopWith(`time_zone: ${zone}\n`);
    write(shop, "goods.csv", "sku,name\nG-1,Bell\n");
    lexicant(shop, ["import", "goods.csv", "--accept"]);
    const there = (): string => new Date(Date.now() + hours * 3_600_000).toISOString().slice(0, 10);
    const before = there();
    const { out } = lexicant(shop, ["try", "today()", "--sku", "G-1"], {
      env: { LEXICANT_TODAY: undefined as never },
    });
    expect([before, there()].some((day) => out.includes(day))).toBe(true);
  });

  it("when there is no such clock, then it is told where that stands", () => {
    const shop = shopWith("time_zone: Brindlecote/Weir\n");
    expect(lexicant(shop, ["list"])).toMatchObject({ exit: 2, err: expect.stringContaining("time_zone") });
  });
});

describe("where a value came from", () => {
  it("when options stand in another order in each row, then no column is named that it cannot be from", () => {
    const shop = emptyShop();
    write(
      shop,
      "sources/coats.yaml",
      "layer: shop\noptions:\n  - { name: n1, value: v1 }\n  - { name: n2, value: v2 }\ncolumns: { sku: sku, name: name }\n",
    );
    write(
      shop,
      "lexicant.yaml",
      "shop: B\nlanguage: en\ncurrency: GBP\nlayers: [shop]\nattributes: { length: measure }\n",
    );
    write(
      shop,
      "coats.csv",
      "sku,name,n1,v1,n2,v2\nA,Coat,Colour,red,Size,M\nB,Hat,Length,ell,Colour,blue\nC,Cap,Colour,grey,Length,1.2 m\nD,Bag,Size,S,Length,broad\n",
    );
    const findings = jsonLines(lexicant(shop, ["import", "coats.csv", "--json"]).out).filter(
      ({ code }) => code === "unreadable-value",
    );
    // What is told of a cell names the very column.
    expect(findings.map(({ place }) => place)).toEqual([
      { file: "coats.csv", row: 3, column: "v1" },
      { file: "coats.csv", row: 5, column: "v2" },
    ]);
    const columnOf = (sku: string, attribute: string): string =>
      new RegExp(`^${attribute} .*\\n +column "([^"]*)"$`, "m").exec(
        lexicant(shop, ["show", sku]).out,
      )?.[1] ?? "";
    expect([columnOf("A", "color"), columnOf("B", "color"), columnOf("A", "size")]).toEqual([
      "v1, v2",
      "v1, v2",
      "v2, v1",
    ]);
    expect(columnOf("A", "name")).toBe("name");
  });
});

describe("what was settled stays settled", () => {
  it("when removed products come again in the same file, then they stay out, are told, and have no twins", () => {
    const shop = shopWith("");
    write(
      shop,
      "goods.csv",
      "sku,name,gtin\nT-1,Bell,9524000001016\nt-1,Other bell,9524000001023\nT-2,Cup,9524000001016\n",
    );
    lexicant(shop, ["import", "goods.csv", "--accept"]);
    expect(lexicant(shop, ["remove", "t-1", "T-2"]).exit).toBe(0);
    const again = lexicant(shop, ["import", "--again", "--json"]);
    expect([...goods(shop).keys()]).toEqual(["T-1"]);
    const told = findings(again.out).map(({ code }) => code);
    expect(told.filter((code) => code === "removed-before").length).toBe(2);
    expect(told).not.toContain("same-gtin");
    expect(told).not.toContain("sku-twin");
  });

  it("when a value that was given for one channel is unset there, then nothing of the channel's cell is left", () => {
    const shop = shopWith("");
    write(shop, "goods.csv", "sku,name\nT-1,Bell\n");
    lexicant(shop, ["import", "goods.csv", "--accept"]);
    lexicant(shop, ["init", "--channel", "lanternlist"]);
    write(
      shop,
      "sources/fair.yaml",
      "layer: fair\nkey: sku\nmode: update\nfiles: fair*.csv\ncolumns:\n  sku: sku\n  weight: w\n",
    );
    for (const cell of ["3 kg", "a handful"]) {
      write(shop, "fair.csv", `sku,w\nT-1,${cell}\n`);
      lexicant(shop, ["import", "fair.csv"]);
    }
    lexicant(shop, ["unset", "lanternlist"]);
    const { out } = lexicant(shop, ["show", "T-1", "--channel", "lanternlist"]);
    expect(out).not.toMatch(/3 kg|a handful/);
  });

  it("when what a second delivery only said again is left by an undo of the first, then no row is named that is none", () => {
    const shop = shopWith("");
    write(shop, "goods.csv", "sku,name\nT-1,Bell\nT-2,Cup\n");
    lexicant(shop, ["import", "goods.csv", "--accept"]);
    write(shop, "goods.csv", "sku,name\nT-0,Peal\nT-1,Bell\nT-2,Cup\n");
    lexicant(shop, ["import", "goods.csv"]);
    expect(lexicant(shop, ["undo", "1", "--alone"]).exit).toBe(0);
    const { out } = lexicant(shop, ["show", "T-1"]);
    expect(out).toMatch(/Bell\n[^]*goods\.csv/);
    expect(out).not.toMatch(/row 0/);
  });

  it("when values have several items, then no answer and no file of rejected rows shows what parts them inside", () => {
    const shop = shopWith("");
    write(
      shop,
      "sources/goods.yaml",
      "layer: shop\nfurther_rows: [images]\ncolumns:\n  sku: sku\n  name: name\n  images: picture\n  price: price\n",
    );
    const picture = (name: string): string => `https://brindlecote.example/${name}.jpg`;
    write(
      shop,
      "goods.csv",
      `sku,name,picture,price\nT-1,Bell,${picture("a")}|${picture("b")},4\nT-1,Bowl,${picture("c")},5\n,,${picture("d")},x\n`,
    );
    const imported = lexicant(shop, ["import", "goods.csv", "--json"]);
    const shown = ["list", "show T-1", "history", "check"].map(
      (words) => lexicant(shop, [...words.split(" "), "--json"]).out,
    );
    for (const text of [imported.out, ...shown])
      expect([text.includes("\\u001"), hasSeparator(text)]).toEqual([false, false]);
    const sheet = join(shop, "list.csv");
    lexicant(shop, ["export", "list.csv"]);
    expect(hasSeparator(readFileSync(sheet, "utf8"))).toBe(false);
    expect((parse(read(shop, "list.csv"), { columns: true }) as Line[]).length).toBe(1);
  });
});
