import { spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { cpSync, readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { parse } from "csv-parse/sync";
import jsonld from "jsonld";
import { describe, expect, it } from "vitest";
import { sayFacts } from "../kit/facts.js";
import { demoShop } from "../kit/demo-shop.js";
import { notInSchemaOrg } from "../kit/schema-org.js";
import { copyOf, jsonLines, lexicant, projectRoot, read, write } from "../kit/run.js";

const shop = demoShop();
const built = lexicant(shop, ["build", "--json"]);

type Json = Readonly<Record<string, unknown>>;

const build = (channel: string): Json =>
  jsonLines(built.out).find((line) => line["channel"] === channel) ?? {};

const xpath = (file: string, query: string): string => {
  const { status, stdout, stderr } = spawnSync("xmllint", ["--xpath", query, join(shop, file)], {
    encoding: "utf8",
  });
  if (status !== 0) throw new Error(stderr);
  return stdout.trim();
};

/** All rows of a sheet as another program reads them. */
const sheetRows = (path: string): { rows: (string | null)[][]; notes: number; lists: number } => {
  const script =
    "import openpyxl,sys,json\ns=openpyxl.load_workbook(sys.argv[1])['Items']\nprint(json.dumps({'rows':[[c.value for c in r] for r in s.iter_rows()],'notes':sum(1 for c in s[1] if c.comment),'lists':len(s.data_validations.dataValidation)}))";
  const { status, stdout, stderr } = spawnSync("/usr/bin/python3", ["-c", script, path], {
    encoding: "utf8",
  });
  if (status !== 0) throw new Error(stderr);
  return JSON.parse(stdout) as ReturnType<typeof sheetRows>;
};

describe("every channel's files, read by others", () => {
  it("when all channels are built, then each has its files with their checksums", () => {
    expect(built.exit).toBe(0);
    for (const channel of ["lanternlist", "merrowgate", "gavelstead", "fjordhandel", "chatterquay"]) {
      const files = build(channel)["files"] as { name: string; bytes: number; sha256: string }[];
      expect(files.length).toBeGreaterThan(0);
      for (const { name, bytes, sha256 } of files) {
        const text = readFileSync(join(shop, "out", channel, name));
        expect([text.length, createHash("sha256").update(text).digest("hex")]).toEqual([bytes, sha256]);
      }
    }
  });

  it("when Gavelstead's XML is read, then each lot stands once, members inside their batch", () => {
    const file = "out/gavelstead/gavelstead-1.xml";
    const lot = "//*[local-name()='lot']";
    expect(xpath(file, `count(${lot})`)).toBe(String(build("gavelstead")["ready"]));
    expect(xpath(file, `count(//*[local-name()='batch'][@reference='BC-1301']/*[local-name()='lot'])`)).toBe(
      String(jsonLines(lexicant(shop, ["list", "--where", 'group = "BC-1301"', "--json"]).out).length),
    );
    const suit = `${lot}[*[local-name()='number']='BC-1301-WHITE-M']`;
    expect(xpath(file, `string(${suit}/*[local-name()='asked_price'])`)).toMatch(/^\d+\.\d\d GBP$/);
    expect(xpath(file, `string(${suit}/../*[local-name()='heading'])`)).toBe("Sallowfield Orchard Bee Suit");
    expect(xpath(file, "string(//*[local-name()='batch'][1]/@do)")).toBe("enter");
  });

  it("when Fjordhandel's CSV is read, then family rows stand above their members, and values are the catalogue's", () => {
    const rows: Record<string, string>[] = parse(read(shop, "out/fjordhandel/fjordhandel.csv"), {
      columns: true,
      delimiter: ";",
    });
    expect(rows.filter(({ row_kind }) => row_kind === "member")).toHaveLength(
      Number(build("fjordhandel")["ready"]),
    );
    const families = rows.filter(({ row_kind }) => row_kind === "family");
    expect(families.length).toBeGreaterThan(20);
    for (const family of families) {
      const at = rows.indexOf(family);
      expect(rows[at + 1]?.["family_no"]).toBe(family["family_no"]);
      expect([family["price_eur"], family["colour"]]).toEqual(["", ""]);
    }
    const suit = rows.find(({ stock_no }) => stock_no === "BC-1301-WHITE-M");
    const product = jsonLines(lexicant(shop, ["show", "BC-1301-WHITE-M", "--json"]).out)[0];
    expect([suit?.["gtin"], suit?.["colour"], suit?.["todo"]]).toEqual([product?.["gtin"], "white", "put"]);
    expect(suit?.["price_eur"]).toMatch(/^\d+,\d\d$/);
    expect(suit?.["title_en"]).toBe("");
  });

  it("when Chatterquay's two files are read, then they hold the same, and one member leads its group", () => {
    const rows: Record<string, string>[] = parse(read(shop, "out/chatterquay/chatterquay.csv"), {
      columns: true,
    });
    const lines = jsonLines(read(shop, "out/chatterquay/chatterquay.jsonl"));
    expect(lines.map(({ post_no }) => post_no)).toEqual(rows.map(({ post_no }) => post_no));
    expect(rows).toHaveLength(Number(build("chatterquay")["ready"]));
    const numbers = new Set(rows.map(({ post_no }) => post_no));
    const led = rows.filter(({ led_by }) => led_by !== "");
    expect(led.length).toBeGreaterThan(50);
    for (const { led_by } of led) {
      expect(numbers.has(led_by)).toBe(true);
      expect(rows.find(({ post_no }) => post_no === led_by)?.["led_by"]).toBe("");
    }
  });

  it("when Merrowgate's workbooks are read, then each branch has its own columns, notes and drop-downs", () => {
    const folder = join(shop, "out", "merrowgate");
    const books = readdirSync(folder).filter((name) => name.endsWith(".xlsx"));
    const sheets = books.map((name) => sheetRows(join(folder, name)));
    expect(sheets.reduce((sum, { rows }) => sum + rows.length - 1, 0)).toBe(build("merrowgate")["ready"]);
    const bees = sheets[books.indexOf("merrowgate-beekeeping.xlsx")];
    const clothes = sheets[books.indexOf("merrowgate-women-s-clothing.xlsx")];
    expect(bees?.rows[0]).toContain("Hive pattern");
    expect(clothes?.rows[0]).not.toContain("Hive pattern");
    expect(bees?.notes).toBe(bees?.rows[0]?.length);
    expect(bees?.lists).toBeGreaterThan(3);
    const [head = [], ...rows] = bees?.rows ?? [];
    const suit = rows.find((row) => row[head.indexOf("Item reference")] === "BC-1301-WHITE-M");
    expect(suit?.[head.indexOf("Range reference")]).toBe("BC-1301");
  });

  it("when the Storefront's pages are read by a JSON-LD processor, then groups hold their variants with offers", async () => {
    const own = copyOf(shop);
    lexicant(own, ["channels", "add", "storefront"]);
    sayFacts(own, "storefront");
    lexicant(own, ["place", "storefront", "--accept-above", "10"]);
    const { exit } = lexicant(own, ["build", "storefront"]);
    expect([0, 1]).toContain(exit);
    const page = JSON.parse(read(own, "out/storefront/storefront.jsonld")) as jsonld.JsonLdDocument;
    const expanded = await jsonld.expand(page, {
      documentLoader: (url) =>
        Promise.resolve({
          contextUrl: undefined,
          documentUrl: url,
          document: { "@context": { "@vocab": "https://schema.org/" } },
        }) as never,
    });
    const property = (node: Json, name: string): Json[] =>
      (node[`https://schema.org/${name}`] ?? []) as Json[];
    const groups = expanded.filter((node) =>
      (node["@type"] ?? []).includes("https://schema.org/ProductGroup"),
    );
    expect(groups.length).toBeGreaterThan(10);
    const [variant] = property(groups[0] as Json, "hasVariant");
    expect(variant?.["@type"]).toEqual(["https://schema.org/Product"]);
    const [offer] = property(variant ?? {}, "offers");
    expect(property(offer ?? {}, "priceCurrency")).toEqual([{ "@value": "GBP" }]);
    expect(String(property(offer ?? {}, "availability")[0]?.["@value"])).toMatch(/^https:\/\/schema\.org\//);
    const { "@graph": graph } = page as { "@graph": Json[] };
    expect([graph.length > 100, [...new Set(notInSchemaOrg(graph))]]).toEqual([true, []]);
    // A term on a type that has none, and one that is not in the vocabulary, would be noticed.
    const spoilt = { "@type": "Product", priceCurrency: "GBP", offers: { "@type": "Brand", isbn: "1" } };
    expect(notInSchemaOrg(spoilt)).toEqual([
      "Product has no priceCurrency",
      "offers holds no Brand",
      "Brand has no isbn",
    ]);
  });

  it("when it is built again, then every file has the same bytes", () => {
    const sums = (out: string) =>
      jsonLines(out).map(({ files }) => (files as { sha256: string }[]).map(({ sha256 }) => sha256));
    const again = lexicant(shop, ["build", "--json", "--out-folder", "again"]);
    expect(sums(again.out)).toEqual(sums(built.out));
    // Gavelstead takes a file's name once: the second build has another.
    expect(again.out).toContain('"gavelstead-2.xml"');
  });
});

describe("a workbook that the channel has issued anew", () => {
  it("when its columns stand elsewhere and some are new, then it is filled by their names, and the new ones are told", () => {
    const own = copyOf(shop);
    const path = join(own, "channels", "merrowgate", "templates", "books.xlsx");
    write(
      own,
      "channels/merrowgate/templates/books.xlsx",
      readFileSync(join(projectRoot, "definitions/merrowgate/templates/books.xlsx")),
    );
    const script = `
import openpyxl,sys
b=openpyxl.load_workbook(sys.argv[1]); s=b["Items"]
s.insert_cols(1); s["A1"]="Season code"; s["C1"], s["B1"] = s["B1"].value, s["C1"].value
for c in range(1, s.max_column+1):
  if s.cell(1,c).value=="Price": s.delete_cols(c); break
b.save(sys.argv[1])`;
    spawnSync("/usr/bin/python3", ["-c", script, path]);
    const { out } = lexicant(own, ["build", "merrowgate"]);
    expect(out).toContain('templates/books.xlsx: nobody fills "Season code"');
    expect(out).toContain('has no column for "Price", which the channel requires');
    const { rows } = sheetRows(join(own, "out/merrowgate/merrowgate-books.xlsx"));
    expect(rows[0]?.slice(0, 3)).toEqual(["Season code", "Item reference", "Branch"]);
    expect(rows[1]?.[1]).toMatch(/^BC-71/);
  });
});

/** A workspace with a definition of its own that differs from the shipped one. */
const changed = (channel: string, change: (yaml: string) => string): string => {
  const own = copyOf(shop);
  const folder = join("definitions", channel);
  cpSync(join(projectRoot, folder), join(own, folder), { recursive: true });
  const file = join(folder, "definition.yaml");
  write(own, file, change(read(own, file)));
  return own;
};

describe("names, encodings and packages", () => {
  const layout = (settings: string) => (yaml: string) =>
    yaml.replace('settings: { separator: "," }', `settings: { separator: ",", ${settings} }`);

  it("when the channel wants its own encoding, then its signs are told and the rest is encoded", () => {
    const own = changed("chatterquay", layout("encoding: windows-1252"));
    lexicant(own, ["set", "BC-1402", "name=Bürste № 7 ☕"]);
    const { out } = lexicant(own, ["build", "chatterquay"]);
    expect(out).toContain('BC-1402: "№", "☕" cannot be said in windows-1252');
    const text = readFileSync(join(own, "out/chatterquay/chatterquay.csv")).toString("latin1");
    expect(text).toContain("Bürste ? 7 ?");
  });

  it.each([
    ["gzip", "chatterquay.csv.gz", (path: string) => spawnSync("gzip", ["-dc", path])],
    [
      "zip",
      "chatterquay.csv.zip",
      (path: string) =>
        spawnSync("/usr/bin/python3", [
          "-c",
          "import zipfile,sys;sys.stdout.buffer.write(zipfile.ZipFile(sys.argv[1]).read('chatterquay.csv'))",
          path,
        ]),
    ],
  ])(
    "when files go as %s, then another program unpacks the same bytes, and they are the same again",
    (packing, name, unpack) => {
      const own = changed("chatterquay", layout(`packing: ${packing}`));
      lexicant(own, ["build", "chatterquay"]);
      const path = join(own, "out/chatterquay", name);
      const first = readFileSync(path);
      expect(unpack(path).stdout.equals(readFileSync(join(shop, "out/chatterquay/chatterquay.csv")))).toBe(
        true,
      );
      lexicant(own, ["build", "chatterquay"]);
      expect(readFileSync(path).equals(first)).toBe(true);
    },
  );

  it("when a name has a day and a number, then each build has its own from the next number on, and sent takes none but the last", () => {
    const own = changed("chatterquay", (yaml) =>
      yaml.replace("file: chatterquay.csv", "file: quay-{date}-{count}.csv"),
    );
    lexicant(own, ["build", "chatterquay"]);
    lexicant(own, ["build", "chatterquay"]);
    expect(readdirSync(join(own, "out/chatterquay"))).toEqual(
      expect.arrayContaining(["quay-2026-11-25-3.csv", "quay-2026-11-25-4.csv"]),
    );
    expect(lexicant(own, ["sent", "chatterquay", "quay-2026-11-25-3.csv"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining("is no file of the last build"),
    });
    expect(lexicant(own, ["sent", "chatterquay", "out/chatterquay/quay-2026-11-25-4.csv"]).exit).toBe(0);
  });

  it("when a list stands in columns side by side, then each value has its own", () => {
    const own = changed("chatterquay", (yaml) =>
      yaml.replace(/- \{ name: more_photos, .*\}/, "- { name: photo_more, field: more_photos, repeat: 2 }"),
    );
    lexicant(own, ["build", "chatterquay"]);
    const rows: Record<string, string>[] = parse(read(own, "out/chatterquay/chatterquay.csv"), {
      columns: true,
    });
    expect(Object.keys(rows[0] ?? {})).toEqual(expect.arrayContaining(["photo_more_1", "photo_more_2"]));
    expect(
      rows.some((row) => row["photo_more_1"]?.startsWith("https://") && row["photo_more_2"] === ""),
    ).toBe(true);
  });
});

describe("files that would grow too long", () => {
  it("when the channel bounds the rows, then files are split, and no group is torn over two", () => {
    const own = changed("fjordhandel", (yaml) =>
      yaml.replace(/file_limits: .*/, "file_limits: { rows: 40 }"),
    );
    const [line] = jsonLines(lexicant(own, ["build", "fjordhandel", "--json"]).out);
    const files = line?.["files"] as { name: string }[];
    expect(files.map(({ name }) => name).slice(0, 2)).toEqual(["fjordhandel.csv", "fjordhandel-2.csv"]);
    const seen = new Map<string, string>();
    let members = 0;
    for (const { name } of files) {
      const rows: Record<string, string>[] = parse(read(own, join("out/fjordhandel", name)), {
        columns: true,
        delimiter: ";",
      });
      expect(rows.length).toBeLessThanOrEqual(40);
      for (const { family_no = "", row_kind } of rows) {
        if (row_kind === "member") members++;
        if (family_no !== "") expect(seen.get(family_no) ?? name).toBe(name);
        seen.set(family_no, name);
      }
    }
    expect(members).toBe(line?.["ready"]);
  });

  it("when texts hold what ends a page's script, then JSON-LD that stands in one has none of it, and reads back", () => {
    const shop = demoShop();
    const evil = 'Brush </script><script>alert(1)</script> <!-- "quoted" --> end';
    const listed = (): string => read(shop, "out/storefront/storefront.jsonld");
    lexicant(shop, ["channels", "add", "storefront"]);
    sayFacts(shop, "storefront");
    lexicant(shop, ["place", "storefront", "--accept-above", "10"]);
    expect(lexicant(shop, ["build", "storefront"]).exit).toBe(0);
    const [sku = ""] = /"sku":"([^"]+)"/.exec(listed())?.slice(1) ?? [];
    lexicant(shop, ["set", sku, `name=${evil}`]);
    expect(lexicant(shop, ["build", "storefront"]).exit).toBe(0);
    const text = listed();
    expect(text).not.toMatch(/<\/|<!--/);
    expect(JSON.stringify(JSON.parse(text))).toContain(JSON.stringify("</script><script>").slice(1, -1));
  });
});
