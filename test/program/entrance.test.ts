import { spawnSync } from "node:child_process";
import { rmSync } from "node:fs";
import { join } from "node:path";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { smallShop, emptyShop } from "../kit/demo-shop.js";
import { gtinOf } from "../kit/goods.js";
import { copyOf, jsonLines, lexicant, read, write } from "../kit/run.js";

type Json = Readonly<Record<string, unknown>>;

/** A shop with sources of its own: each text of `sources` by name, its layers from low to high. */
const shopWith = (sources: Readonly<Record<string, string>>, layers = "[low, high]"): string => {
  const shop = emptyShop();
  write(shop, "lexicant.yaml", `shop: B\nlanguage: en\ncurrency: GBP\nlayers: ${layers}\n`);
  for (const [name, text] of Object.entries(sources)) write(shop, `sources/${name}.yaml`, text);
  return shop;
};

const take = (shop: string, file: string, text: string, ...args: readonly string[]) => {
  write(shop, file, text);
  const ran = lexicant(shop, ["import", file, "--json", ...args]);
  const lines = jsonLines(ran.out);
  return {
    ...ran,
    summary: lines.find(({ type }) => type === "import") ?? {},
    codes: lines.filter(({ type }) => type === "finding").map(({ code }) => String(code)),
  };
};

const listed = (shop: string): ReadonlyMap<unknown, Json> =>
  new Map(jsonLines(lexicant(shop, ["list", "--json"]).out).map((one) => [one["sku"], one]));

const shown = (shop: string, sku: string): Json =>
  jsonLines(lexicant(shop, ["show", sku, "--json"]).out)[0] ?? {};

const columns = "columns: { sku: sku, name: name, quantity: stock, weight: weight }\n";

describe("a value that could not be read", () => {
  const sources = { low: `layer: low\n${columns}`, high: `layer: high\nmode: update\n${columns}` };
  const low = "sku,name,stock,weight\nA,Stool,5,2 kg\n";

  it("when it stands in a higher layer, then the lower one shows, and what was written is to be found", () => {
    const shop = shopWith(sources);
    take(shop, "low.csv", low);
    const { codes } = take(shop, "high.csv", "sku,name,stock,weight\nA,Stool,sold out,n/a\n");
    expect(codes).toEqual(["unreadable-value", "unreadable-value"]);
    expect(listed(shop).get("A")).toMatchObject({ quantity: "5", weight: "2 kg" });
    expect(shown(shop, "A")["unread"]).toMatchObject([
      { attribute: "quantity", text: "sold out", from: { file: "high.csv", row: 2, column: "stock" } },
      { attribute: "weight", text: "n/a" },
    ]);
    expect(lexicant(shop, ["show", "A"]).out).toMatch(/Could not be read[^]*quantity +sold out/);
    expect(lexicant(shop, ["show", "A", "--history"]).out).toContain("(not read) sold out");
  });

  it("when the same comes again, then nothing is new; when it is readable at last, then it shows", () => {
    const shop = shopWith(sources);
    take(shop, "low.csv", low);
    const high = "sku,name,stock,weight\nA,Stool,sold out,3 kg\n";
    take(shop, "high.csv", high);
    expect(take(shop, "high.csv", high).summary).toMatchObject({ unchanged: 1, changed: 0 });
    take(shop, "high.csv", high.replace("sold out", "0"));
    expect([listed(shop).get("A")?.["quantity"], shown(shop, "A")["unread"]]).toEqual(["0", []]);
    lexicant(shop, ["undo"]);
    expect(listed(shop).get("A")?.["quantity"]).toBe("5");
  });

  it("when a delivery replaces its layer, then what the layer said before does not stand in its place", () => {
    const shop = shopWith({ ...sources, high: `layer: high\nmode: update\nreplaces: yes\n${columns}` });
    take(shop, "low.csv", low);
    take(shop, "high.csv", "sku,name,stock,weight\nA,Stool,9,3 kg\n");
    expect(listed(shop).get("A")?.["quantity"]).toBe("9");
    take(shop, "high.csv", "sku,name,stock,weight\nA,Stool,??,3 kg\n");
    expect(listed(shop).get("A")?.["quantity"]).toBe("5");
    expect(shown(shop, "A")["unread"]).toMatchObject([{ attribute: "quantity", text: "??" }]);
  });

  it("when a channel would be given it, then its file has none of it, and the check names the cell", () => {
    const shop = copyOf(smallShop());
    write(
      shop,
      "sources/late.yaml",
      "layer: copy\nmode: update\ncolumns: { sku: sku, package_weight: weight }\n",
    );
    const wanted = jsonLines(lexicant(shop, ["check", "lanternlist", "--json"]).out).find(
      ({ code, field }) => code === "missing-required" && field === "parcel_weight",
    );
    const sku = String(wanted?.["product"]);
    take(shop, "late.csv", `sku,weight\n${sku},about 3 furlongs\n`, "--source", "late");
    const { out } = lexicant(shop, ["check", "lanternlist", "--sku", sku]);
    expect(out.replace(/\s+/g, " ")).toContain('package_weight "about 3 furlongs" could not be read');
    expect(out).toContain("late.csv, row 2");
    lexicant(shop, ["build", "lanternlist"]);
    expect(read(shop, "out/lanternlist/lanternlist.tsv")).not.toContain("furlongs");
  });
});

describe("rows that come back", () => {
  const source = { low: "layer: low\ncolumns: { sku: sku, name: name, price: price }\n" };

  it("when a row has a cell too many and ends in a blank one, then it is refused, not shifted", () => {
    const shop = shopWith(source);
    const { codes } = take(shop, "low.csv", "sku,name,price,note\nA,Stool,5.00,\nB,Stool, oak,7.00,\n");
    expect([codes, [...listed(shop).keys()]]).toEqual([["ragged-row"], ["A"]]);
  });

  it("when each row of a file ends in further blank cells, then that is its way, and all are read", () => {
    const shop = shopWith(source);
    expect(take(shop, "low.csv", "sku,name,price\nA,Stool,5.00,,\nB,Bench,7.00,,\n").summary).toMatchObject({
      added: 2,
    });
  });

  it("when rejected rows are imported as they are, then they are rejected again; corrected, they land", () => {
    const shop = shopWith(source);
    const rows = ["A,Stool,5.00", "B,Stool, oak,7.00", "C,Short", "A,Again,6.00"];
    expect(take(shop, "low.csv", `sku,name,price\n${rows.join("\n")}\n`).summary).toMatchObject({ added: 1 });
    const file = "out/rejected/low.csv";
    const first = read(shop, file);
    const again = jsonLines(lexicant(shop, ["import", file, "--json"]).out).find(
      ({ type }) => type === "import",
    );
    expect(again).toMatchObject({ added: 0, changed: 0, unchanged: 0 });
    expect([...listed(shop).keys()]).toEqual(["A"]);
    expect(read(shop, file).split("\n").length).toBe(first.split("\n").length);
    write(
      shop,
      file,
      first.replace("B,Stool, oak,7.00", 'B,"Stool, oak",7.00').replace(",A,Again", ",A2,Again"),
    );
    lexicant(shop, ["import", file]);
    expect([...listed(shop).keys()].sort()).toEqual(["A", "A2", "B"]);
  });

  it("when rows are sums, headings, bare or nameless, or a second table follows, then each is told and none slips in", () => {
    const shop = shopWith(source);
    const { codes } = take(
      shop,
      "low.csv",
      "sku,name,price\nLAMPS,,\nA,Lamp,5.00\nsku,name,price\nB,,6.00\nTotal,,11.00\n\n\nName,Price,Stock\nHandling,3.00,1\n",
    );
    expect([...codes].sort()).toEqual(["another-table", "another-table", "bare-row", "no-name", "total-row"]);
    expect([...listed(shop).keys()]).toEqual(["A", "B"]);
  });

  it("when a group has a row of its own and no member, then that is told", () => {
    const shop = shopWith({
      low: 'layer: low\ngroups: { layout: own-row, when: kind = "g" }\ncolumns: { sku: sku, group: group, name: name }\n',
    });
    const { codes } = take(shop, "low.csv", "kind,sku,group,name\ng,G1,,Hats\ni,A,G2,Hat\ng,G2,,Caps\n");
    expect(codes.filter((code) => code === "empty-group")).toHaveLength(1);
  });
});

describe("names of options", () => {
  it("when rows of a group come in any order and layout, with rows of pictures between, then each member has its own value", () => {
    const shop = shopWith({
      first:
        "layer: low\ngroups: { layout: first-row, shared: [name] }\nfurther_rows: images\noptions: [{ name: Opt, value: Val }]\ncolumns: { sku: SKU, group: Fam, name: Title, images: Pic }\n",
      own: 'layer: low\ngroups: { layout: own-row, when: Kind = "h" }\nfurther_rows: images\noptions: [{ name: Opt, value: Val }]\ncolumns: { sku: SKU, group: Fam, name: Title, images: Pic }\n',
    });
    const group = fc.record({
      values: fc.uniqueArray(fc.constantFrom("red", "blue", "green", "rust", "moss"), {
        minLength: 1,
        maxLength: 4,
      }),
      pictures: fc.array(fc.nat(2), { minLength: 5, maxLength: 5 }),
      headAt: fc.nat(4),
    });
    fc.assert(
      fc.property(
        fc.constantFrom("first", "own"),
        fc.array(group, { minLength: 1, maxLength: 3 }),
        (layout, groups) => {
          const rows: string[] = [];
          const expected: string[] = [];
          groups.forEach(({ values, pictures, headAt }, number) => {
            const name = `F${number}`;
            const members = values.flatMap((value, at) => {
              const opt = layout === "first" && at === 0 ? "Colour" : "";
              expected.push(`${name}-${at}=${value}`);
              const further = Array.from({ length: pictures[at] ?? 0 }, (_, n) => [
                `,,,,,,https://p.example/${number}-${at}-${n}.jpg`,
              ]);
              return [[`i,${name},${name}-${at},Cap,${opt},${value},`], ...further].map((one) =>
                one.join(""),
              );
            });
            // A head stands anywhere between members, but never between one and its pictures.
            const places = members
              .flatMap((row, at) => (row.startsWith("i,") ? [at] : []))
              .concat(members.length);
            const place = places[headAt % places.length] ?? 0;
            if (layout === "own") members.splice(place, 0, `h,,${name},Cap,Colour,,`);
            rows.push(...members);
          });
          take(shop, `${layout}.csv`, `Kind,Fam,SKU,Title,Opt,Val,Pic\n${rows.join("\n")}\n`);
          const found = [...listed(shop).values()].map(
            (one) => `${String(one["sku"])}=${String(one["color"])}`,
          );
          lexicant(shop, ["undo"]);
          expect(found.sort()).toEqual(expected.sort());
        },
      ),
      { numRuns: 12 },
    );
  });
});

describe("a source that is corrected", () => {
  const text = "sku,name,shade,origin\nA,Stool,red,GB\nB,Bench,blue,GB\n";
  const before = "layer: low\ncolumns: { sku: sku, name: name, color: shade, country_of_origin: origin }\n";

  it("when it no longer gives an attribute, then its values go with the next import, and that is told", () => {
    const shop = shopWith({ low: before });
    take(shop, "low.csv", text);
    write(shop, "sources/low.yaml", before.replace("color: shade", "material: shade"));
    const { codes, summary } = take(shop, "low.csv", text);
    expect([codes, summary["changed"]]).toEqual([["rules-changed"], 2]);
    expect(listed(shop).get("A")).toEqual({
      type: "product",
      sku: "A",
      name: "Stool",
      material: "red",
      country_of_origin: "GB",
    });
    expect(take(shop, "low.csv", text).codes).toEqual([]);
    lexicant(shop, ["undo"]);
    expect(listed(shop).get("A")).toMatchObject({ color: "red" });
  });

  it("when a cell is blank and its rule is the same, then what was said stands", () => {
    const shop = shopWith({ low: before });
    take(shop, "low.csv", text);
    write(shop, "sources/low.yaml", before.replace(", country_of_origin: origin", ""));
    take(shop, "low.csv", text.replace("Stool,red", "Stool,"));
    const product = listed(shop).get("A") ?? {};
    expect([product["color"], product["country_of_origin"]]).toEqual(["red", undefined]);
  });

  it("when its files are read again, then all are, each by its source; one that is gone or another is named", () => {
    const shop = shopWith({ low: before });
    take(shop, "low.csv", text);
    take(shop, "low-2.csv", "sku,name,shade,origin\nC,Table,oak,GB\n", "--source", "low");
    write(shop, "sources/low.yaml", before.replace("color: shade", "material: shade"));
    expect(lexicant(shop, ["import", "--again"]).exit).toBe(0);
    expect([...listed(shop).values()].map(({ material }) => material)).toEqual(["red", "blue", "oak"]);
    write(shop, "low.csv", text.replace("Stool", "Chair"));
    rmSync(join(shop, "low-2.csv"));
    const { exit, err } = lexicant(shop, ["import", "--again", "low"]);
    expect([exit, err.replace(/\s+/g, " ")]).toEqual([
      2,
      expect.stringMatching(/"low.csv" is another file.*"low-2.csv" is not there any more/),
    ]);
    expect(lexicant(shop, ["import", "--again", "lo"]).err).toContain('nearest: "low"');
  });
});

describe("proposals at the command line", () => {
  it("when a file that updates comes, then it is proposed by what the catalogue knows, and adds nothing", () => {
    const shop = shopWith({ low: "layer: low\ncolumns: { sku: sku, name: name, mpn: part }\n" });
    take(
      shop,
      "low.csv",
      `sku,name,part\n${Array.from({ length: 9 }, (_, at) => `A${at},Stool ${at},KN-${at}`).join("\n")}\n`,
    );
    const { summary, out } = take(shop, "counted.csv", "Part,Free\nKN-1,4\nKN-2,5\nKN-99,6\n", "--accept");
    expect(jsonLines(out)[0]).toMatchObject({ type: "proposal", keys: ["mpn"], mode: "update" });
    expect(summary).toMatchObject({ added: 0, changed: 2, rejected: 1 });
  });

  it("when it is only to be written down, then the source is there, its layer too, and nothing is imported", () => {
    const shop = shopWith({});
    write(shop, "new.csv", `Article,Title,EAN\nA,Stool,${gtinOf(1)}\nB,Bench,${gtinOf(2)}\n`);
    const { exit, out } = lexicant(shop, ["import", "new.csv", "--propose"]);
    expect([exit, out]).toEqual([0, expect.stringContaining("Written: sources/new.yaml")]);
    expect([read(shop, "lexicant.yaml").includes("new"), listed(shop).size]).toEqual([true, 0]);
    expect(lexicant(shop, ["import", "new.csv", "--propose"]).out).toContain("already; nothing was written");
    expect(lexicant(shop, ["import", "new.csv"]).exit).toBe(0);
    const sources = jsonLines(lexicant(shop, ["sources", "--json"]).out);
    expect(sources).toMatchObject([
      { source: "new", key: ["sku"], imports: [{ file: "new.csv", added: 2 }] },
    ]);
    expect(lexicant(shop, ["sources", "show", "new"]).out).toMatch(/gtin +EAN[^]*Read once/);
  });

  it("when no column can be the key, then the proposal is shown all the same, with the nearest and why", () => {
    const shop = shopWith({});
    write(shop, "prices.csv", "Product,Price\nHoney,6.50\nHoney,7.00\nWax,3.00\n");
    const { exit, out, err } = lexicant(shop, ["import", "prices.csv", "--accept"]);
    expect([exit, out, err.replace(/\s+/g, " ")]).toEqual([
      2,
      expect.stringMatching(/name +Product/),
      expect.stringContaining(
        'nearest: "Price" holds texts rather than codes, "Product" has values that come again',
      ),
    ]);
  });

  it("when a sheet of terms stands before the table, then the table is read, and the source names its sheet", () => {
    const shop = shopWith({});
    const script = `
import openpyxl,sys
w=openpyxl.Workbook(); s=w.active; s.title='Terms'; s.append(['Carriage paid above 250']); s.append(['Orders by post'])
g=w.create_sheet('Winter list'); g.append(['SKU','Name','Colour']); g.append(['A','Stool','red'])
w.save(sys.argv[1])`;
    expect(spawnSync("/usr/bin/python3", ["-c", script, join(shop, "list.xlsx")]).status).toBe(0);
    expect(lexicant(shop, ["import", "list.xlsx", "--accept"]).exit).toBe(0);
    expect([[...listed(shop).keys()], read(shop, "sources/list.yaml")]).toEqual([
      ["A"],
      expect.stringContaining('sheet: "Winter list"'),
    ]);
  });

  it("when a workbook hides sheets and columns, then neither is proposed", () => {
    const shop = shopWith({});
    const script = `
import openpyxl,sys
w=openpyxl.Workbook(); s=w.active; s.title='Notes'; s.append(['SKU','Name']); s.append(['X','wrong']); s.sheet_state='hidden'
g=w.create_sheet('Goods'); g.append(['SKU','Name','Cost','Colour']); g.append(['A','Stool',2.5,'red']); g.append(['B','Bench',3.5,'blue'])
g.column_dimensions['C'].hidden=True
w.active=1
w.save(sys.argv[1])`;
    expect(spawnSync("/usr/bin/python3", ["-c", script, join(shop, "book.xlsx")]).status).toBe(0);
    expect(lexicant(shop, ["import", "book.xlsx", "--accept"]).exit).toBe(0);
    expect([...listed(shop).values()].map(({ sku, color, cost }) => [sku, color, cost])).toEqual([
      ["A", "red", undefined],
      ["B", "blue", undefined],
    ]);
  });
});

describe("what came by mistake", () => {
  it("when products are removed, then all layers' words go, what hangs on them is told, and an undo brings them back", () => {
    const shop = copyOf(smallShop());
    lexicant(shop, ["build", "chatterquay"]);
    lexicant(shop, ["sent", "chatterquay"]);
    const bundle =
      jsonLines(lexicant(shop, ["list", "--json", "--where", "bundle_of is not blank"]).out)[0] ?? {};
    const part = String([bundle["bundle_of"]].flat()[0])
      .replace(/^\d+ ?x /, "")
      .replace(/[:x×*] ?\d+$/, "")
      .trim();
    const before = lexicant(shop, ["list", "--json"]).out;
    const dry = lexicant(shop, ["remove", part, "--dry-run"]);
    expect([dry.exit, lexicant(shop, ["list", "--json"]).out === before]).toEqual([0, true]);
    const { out } = lexicant(shop, ["remove", part]);
    expect(out).toContain(`1 product removed: ${part}`);
    expect(out).toContain(String(bundle["sku"]));
    expect(lexicant(shop, ["show", part]).exit).toBe(2);
    lexicant(shop, ["undo"]);
    expect(lexicant(shop, ["list", "--json"]).out).toBe(before);
  });

  it("when a condition chooses, then it is asked for, and none is removed unseen", () => {
    const shop = copyOf(smallShop());
    const { exit, err } = lexicant(shop, ["remove", "--where", "amount(price) > 200"]);
    expect([exit, err.replace(/\s+/g, " ")]).toEqual([
      2,
      expect.stringMatching(/choose \d+ products; say --yes/),
    ]);
    expect(lexicant(shop, ["remove", "--where", "amount(price) > 200", "--yes"]).exit).toBe(0);
    expect(lexicant(shop, ["list", "--where", "amount(price) > 200"])).toMatchObject({
      ...{ exit: 1, out: "" },
      err: expect.stringContaining("no product is meant"),
    });
    expect(lexicant(shop, ["remove"]).err).toContain("name the products to remove");
    expect(lexicant(shop, ["remove", "BC-1301-WHITE"]).err).toContain("nearest:");
  });
});

describe("an option that a source makes idle", () => {
  it("when a source reads the file, then --sku-column is refused, and nothing is changed", () => {
    const shop = shopWith({});
    write(shop, "idle.csv", "SKU,Name\nI-1,One\n");
    expect(lexicant(shop, ["import", "idle.csv", "--accept", "--sku-column", "SKU"]).exit).toBe(0);
    const { exit, err } = lexicant(shop, ["import", "idle.csv", "--sku-column", "Name"]);
    expect([exit, err.replace(/\s+/g, " ")]).toEqual([
      2,
      expect.stringContaining("--sku-column does nothing here: sources/idle.yaml reads idle.csv"),
    ]);
  });
});

describe("codes that look the same and are not", () => {
  it("when a SKU has signs that are not seen, or letters put together, then it is told, and with its twin", () => {
    const shop = shopWith({});
    write(
      shop,
      "codes.csv",
      ["SKU,Name", "Z-1,a", "Z-\u200b1,b", "K\u00e4-2,c", "Ka\u0308-2,d", "\u200eR-3,e"].join("\n"),
    );
    const { out } = lexicant(shop, ["import", "codes.csv", "--accept", "--json"]);
    const told = jsonLines(out).filter(({ code }) => code === "hidden-signs" || code === "sku-twin");
    const said = told.map(({ message }) => String(message)).sort();
    expect(said).toEqual([
      expect.stringMatching(/^"Ka.*-2" and "K.*-2" differ only in case/),
      expect.stringMatching(/^sku "Kä-2" holds what is not seen \(U\+0308\)/),
    ]);
    // What nobody sees is taken out: the row below is that of a product that is there.
    const repaired = jsonLines(out).filter(
      ({ code }) => code === "repaired-value" || code === "repeated-key",
    );
    expect(repaired.map(({ message }) => String(message)).sort()).toEqual([
      expect.stringMatching(/^sku "Z-1" stands in an earlier row/),
      expect.stringMatching(/^sku ".*Z-.*1" was read as "Z-1"/),
      expect.stringMatching(/^sku ".*R-3" was read as "R-3": signs that are not seen stood in it/),
    ]);
  });
});

describe("what a data file says to a terminal", () => {
  it("when cells, headers and names hold escapes, then no command lets one through", () => {
    const shop = shopWith({});
    const evil = "\u001b]0;owned\u0007\u001b[2J\u009b31m";
    write(
      shop,
      "evil.csv",
      `SKU,Na${evil}me,Title,Price\nA${evil},x${evil},Sto${evil}ol,5${evil}\nB,${evil},Bench,7.00\nC,,,\n`,
    );
    const named = `ev${evil.replaceAll("\u0007", "")}il.csv`;
    write(shop, named, "SKU,Name\nD,Stool\n");
    const runs = [
      ["import", named],
      ["import", named, "--accept"],
      ["import", `no${evil}file.csv`],
      [`ch${evil}eck`],
      ["import", "evil.csv"],
      ["import", "evil.csv", "--accept"],
      ["list"],
      ["list", "--where", `name contains "Sto"`],
      ["show", "B"],
      ["show", `A${evil}`],
      ["history"],
      ["sources"],
      ["sources", "show", "evil"],
      ["check"],
      ["export", "sheet.csv"],
      ["set", "B", `name=${evil}`],
      ["show", "B", "--history"],
      ["remove", "B", "--dry-run"],
      ["undo"],
    ];
    for (const args of runs) {
      const { out, err } = lexicant(shop, args);
      // eslint-disable-next-line no-control-regex
      expect([args, /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f]/.exec(out + err)]).toEqual([
        args,
        null,
      ]);
    }
  });
});
