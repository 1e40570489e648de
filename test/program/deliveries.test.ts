import { spawnSync } from "node:child_process";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { smallShop, emptyShop } from "../kit/demo-shop.js";
import { copyOf, jsonLines, lexicant, read, write } from "../kit/run.js";

type Shown = Readonly<Record<string, unknown>>;

const listed = (shop: string): ReadonlyMap<string, Shown> =>
  new Map(jsonLines(lexicant(shop, ["list", "--json"]).out).map((one) => [String(one["sku"]), one]));

const imported = (shop: string, file: string, text: string, ...options: readonly string[]) => {
  write(shop, file, text);
  return lexicant(shop, ["import", file, ...options]);
};

const shopWith = (
  layers: string,
  sources: Readonly<Record<string, string>>,
  ...options: string[]
): string => {
  const shop = emptyShop(...options);
  const text = read(shop, "lexicant.yaml").replace(/^layers:.*$/m, `layers: ${layers}`);
  write(shop, "lexicant.yaml", text);
  for (const [name, source] of Object.entries(sources)) write(shop, `sources/${name}.yaml`, source);
  return shop;
};

describe("what is settled by one delivery, and read by it in the next", () => {
  it("when the first has decimal commas, then a thousand of the next is a thousand", () => {
    const shop = emptyShop("--currency", "EUR", "--language", "de");
    const head = "SKU;Bezeichnung;Preis\n";
    const { out } = imported(shop, "g.csv", `${head}H-1;Beute;1.299,00 €\nH-2;Rauch;12,50 €\n`, "--accept");
    expect(out).toContain("(UTF-8, semicolons, decimal comma)");
    expect(read(shop, "sources/g.yaml")).toMatch(/decimal_mark: ['"]?,/);
    imported(shop, "g.csv", `${head}H-1;Beute;1.399\n`);
    expect(listed(shop).get("H-1")).toMatchObject({ price: "1399.00 EUR" });
  });

  it("when a number or a day reads two ways and nothing settles it, then it is told and taken as neither", () => {
    const shop = emptyShop();
    const { out, err } = imported(
      shop,
      "g.csv",
      "SKU,Name,Weight,Launch\nA,Hive,1.250 kg,04.03.2026\n",
      "--accept",
    );
    expect(out + err).toContain("1.250");
    expect(listed(shop).get("A")).toMatchObject({ name: "Hive" });
    const said = lexicant(shop, ["show", "A"]).out;
    expect(said).not.toContain("1250 kg");
    expect(said).not.toMatch(/1\.25 kg/);
  });

  it("when a text is the clear word itself, then it goes out and comes back as that text", () => {
    const shop = emptyShop();
    imported(shop, "g.csv", "SKU,Name,Material\nA,Hive,pine\nB,Roof,cedar\n", "--accept");
    lexicant(shop, ["set", "A", "material=\\(none)"]);
    lexicant(shop, ["set", "B", "material=(none)"]);
    const before = lexicant(shop, ["list", "--json"]).out;
    expect(listed(shop).get("A")).toMatchObject({ material: "(none)" });
    expect(listed(shop).get("B")).not.toHaveProperty("material");
    lexicant(shop, ["export", "all.csv"]);
    const again = lexicant(shop, ["import", "all.csv", "--accept"]);
    expect([again.exit, lexicant(shop, ["list", "--json"]).out]).toEqual([0, before]);
  });

  it("when every cell of a tab-separated file is quoted, then the quotes are no part of the cells", () => {
    const shop = emptyShop();
    imported(shop, "g.tsv", '"SKU"\t"Name"\t"Material"\n"A"\t"A ""flat"" roof"\t"cedar"\n', "--accept");
    expect(listed(shop).get("A")).toMatchObject({ name: 'A "flat" roof', material: "cedar" });
  });

  it("when good letters stand in quotes of any kind, then they arrive as they are", () => {
    const shop = emptyShop();
    const names = ["Honig „süß“", "Strauß’ Honig", "Schild “CAFÉ”", "Å ‘ö’"];
    const rows = names.map((name, at) => `S-${at},${name}`).join("\n");
    imported(shop, "g.csv", `SKU,Name\n${rows}\n`, "--accept");
    expect([...listed(shop).values()].map(({ name }) => name)).toEqual(names);
  });
});

describe("cells that show another text than their digits", () => {
  it("when a workbook shows percent, zeros or parts of dates, then what it shows is read, as from CSV", () => {
    const shop = emptyShop();
    const script = `
import openpyxl,sys
w=openpyxl.Workbook(); s=w.active
s.append(['SKU','Name','VAT rate','Batch','Note'])
s.append(['T','t',0.2,42,46000]); s.append(['U','u',0.055,7,12])
for c,f in (('C2','0%'),('C3','0.0%'),('D2','00000'),('E2','d-mmm')): s[c].number_format=f
w.save(sys.argv[1])`;
    spawnSync("/usr/bin/python3", ["-c", script, join(shop, "t.xlsx")]);
    lexicant(shop, ["import", "t.xlsx", "--accept"]);
    const of = (sku: string): Shown => listed(shop).get(sku) ?? {};
    expect([of("T")["tax_rate"], of("U")["tax_rate"]]).toEqual(["20", "5.5"]);
    expect([of("T")["batch"], of("U")["batch"]]).toEqual(["00042", "7"]);
    expect(JSON.stringify(of("T"))).not.toContain("46000");
  });

  it("when JSON has numbers of many digits, then all of them arrive", () => {
    const shop = emptyShop();
    imported(shop, "j.json", '[{"sku":"A","name":"x","shop_id":123456789012345678}]', "--accept");
    expect(listed(shop).get("A")).toMatchObject({ shop_id: "123456789012345678" });
  });
});

describe("options and rows between members", () => {
  const source =
    "layer: s\ngroups: { layout: first-row, shared: [name] }\nfurther_rows: images\noptions: [{ name: Opt, value: Val }]\ncolumns: { sku: SKU, group: Handle, name: Title, quantity: Stock, images: Picture }\n";
  const head = "Handle,SKU,Title,Opt,Val,Stock,Picture\n";

  it("when an option is named like an attribute that is no axis, then neither takes the other's value", () => {
    const shop = shopWith("[s]", { s: source });
    imported(shop, "s.csv", `${head}nails,N-100,Nails,Pieces,100,3,\nnails,N-500,,,500,0,\n`);
    expect([listed(shop).get("N-100"), listed(shop).get("N-500")]).toEqual([
      expect.objectContaining({ name: "Nails", quantity: "3" }),
      expect.objectContaining({ name: "Nails", quantity: "0" }),
    ]);
    expect(Object.values(listed(shop).get("N-500") ?? {})).toContain("500");
  });

  it("when a row brings a picture between two members, then all members keep their options", () => {
    const shop = shopWith("[s]", { s: source });
    const picture = "https://x.example/2.jpg";
    const { exit } = imported(
      shop,
      "s.csv",
      `${head}sack,A1,Sack,Size,5 kg,1,https://x.example/1.jpg\nsack,A2,,,10 kg,1,\nsack,,,,,,${picture}\nsack,A3,,,25 kg,1,\n`,
    );
    const all = [...listed(shop).values()];
    expect([exit, all.map(({ size }) => size)]).toEqual([0, ["5 kg", "10 kg", "25 kg"]]);
    expect(JSON.stringify(all)).toContain(picture);
  });
});

describe("deliveries that go away again", () => {
  const layers = { low: "layer: low\n", high: "layer: high\n" };
  const columns = "columns: { sku: SKU, name: Name, price: Price }\n";
  const twoLayers = (): string =>
    shopWith("[low, high]", { low: layers.low + columns, high: layers.high + columns });

  it("when one of two layers is undone, then what the other says is there still", () => {
    const shop = twoLayers();
    imported(shop, "low.csv", "SKU,Name,Price\nA,Alpha,5.00\n");
    imported(shop, "high.csv", "SKU,Name,Price\nA,Alpha two,7.00\n");
    lexicant(shop, ["undo", "1", "--alone"]);
    expect(listed(shop).get("A")).toMatchObject({ name: "Alpha two", price: "7.00 GBP" });
  });

  it("when a delivery drops what vanished, then a product that another layer names stays", () => {
    const shop = twoLayers();
    imported(shop, "low.csv", "SKU,Name,Price\nA,Alpha,5.00\nB,Beta,6.00\n");
    imported(shop, "high.csv", "SKU,Name,Price\nA,Alpha two,7.00\n");
    imported(shop, "low.csv", "SKU,Name,Price\nC,Gamma,1.00\n", "--replace", "--drop-vanished");
    expect([...listed(shop).keys()].sort()).toEqual(["A", "C"]);
    expect(listed(shop).get("A")).toMatchObject({ name: "Alpha two" });
    lexicant(shop, ["undo"]);
    expect([...listed(shop).keys()].sort()).toEqual(["A", "B"]);
  });
});

describe("what a channel was sent", () => {
  const shop = smallShop();
  lexicant(shop, ["build", "lanternlist", "gavelstead", "merrowgate", "--quiet"]);

  it("when a price or a picture is blank now and kept, then each column shows its part of it", () => {
    const own = copyOf(shop);
    lexicant(own, ["sent", "lanternlist"]);
    lexicant(own, ["set", "BC-1301-WHITE-S", "sale_price=(none)"]);
    lexicant(own, ["build", "lanternlist", "--keep-live", "--sku", "BC-1301-WHITE-S", "--quiet"]);
    const [head = [], row = []] = read(own, "out/lanternlist/chosen/lanternlist-chosen.tsv")
      .split("\n")
      .map((line) => line.split("\t"));
    const cell = (name: string) => row[head.indexOf(name)];
    expect([cell("offer_amount"), cell("offer_currency")]).toEqual([
      expect.stringMatching(/^\d+\.\d\d$/),
      "GBP",
    ]);
  });

  it("when nothing was sent, then a file of stock holds nothing, and nothing counts as live", () => {
    const own = smallShop();
    const { out, err } = lexicant(own, ["build", "gavelstead", "--purpose", "stock"]);
    expect(out + err).toContain("no listing is for this file");
    lexicant(own, ["sent", "gavelstead"]);
    expect(jsonLines(lexicant(own, ["ledger", "gavelstead", "--json"]).out)).toEqual([]);
  });

  it("when a placement moves and an amend goes out, then the ledger has the new place", () => {
    const own = copyOf(shop);
    lexicant(own, ["sent", "merrowgate"]);
    const path = "channels/merrowgate/placements.csv";
    const before = read(own, path);
    write(own, path, before.replace("Beekeeping > Smokers,,BCFB,", "Beekeeping > Smokers,,BCFD,"));
    expect(read(own, path)).not.toBe(before);
    expect(lexicant(own, ["check", "merrowgate", "--code", "category-moved", "--json"]).out).toContain(
      "category-moved",
    );
    lexicant(own, ["build", "merrowgate", "--purpose", "amend", "--quiet"]);
    lexicant(own, ["sent", "merrowgate"]);
    expect(lexicant(own, ["check", "merrowgate", "--code", "category-moved", "--json"]).out).not.toContain(
      '"category-moved"',
    );
  });

  it("when a barcode is wrong, then that is one error, not one of each rule that asks for a barcode", () => {
    const own = copyOf(shop);
    const fills = "channels/merrowgate/fills.yaml";
    write(own, fills, read(own, fills).replace(/^( +)barcode: .*$/m, '$1barcode: "9524000001017"'));
    const found = jsonLines(lexicant(own, ["check", "merrowgate", "--sku", "BC-1402", "--json"]).out);
    const errors = found.filter(({ severity }) => severity === "error");
    expect(errors).toEqual([expect.objectContaining({ code: "wrong-kind", field: "barcode" })]);
  });

  it("when a channel's prices are worked out by a rule, then file and explanation apply it once", () => {
    const own = copyOf(shop);
    const policy = "channels/lanternlist/channel.yaml";
    write(own, policy, `${read(own, policy)}\nprices:\n  rules:\n    price: price * 1.1\n`);
    lexicant(own, ["set", "BC-1402", "price=10"]);
    lexicant(own, ["build", "lanternlist", "--quiet"]);
    const [head = [], ...rows] = read(own, "out/lanternlist/lanternlist.tsv")
      .split("\n")
      .map((line) => line.split("\t"));
    const row = rows.find((cells) => cells[head.indexOf("ref")] === "BC-1402") ?? [];
    expect(row[head.indexOf("amount")]).toBe("11.00");
    expect(lexicant(own, ["explain", "BC-1402", "lanternlist", "price"]).out).toMatch(/^value +11\.00 GBP/m);
  });
});
