import { join } from "node:path";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { proposeSource } from "../../src/core/catalogue/proposal/propose.js";
import { Refusal } from "../../src/core/diagnostics/refusal.js";
import { placeText } from "../../src/core/diagnostics/place.js";
import { sentence } from "../../src/workspace/wording.js";
import { fileSource } from "../../src/formats/byte-source.js";
import { openTable } from "../../src/formats/open-table.js";
import { rowReader } from "../../src/core/catalogue/row-reader.js";
import { namePattern } from "../../src/workspace/name-pattern.js";
import { settingsCache } from "../../src/workspace/settings-cache.js";
import {
  loadSource,
  sourceForFile,
  sourceFromText,
  sourceNameFor,
} from "../../src/workspace/source-files.js";
import { readingFor } from "../../src/workspace/source-reading.js";
import { proposedSourceText } from "../../src/workspace/source-text.js";
import { openWorkspace, type Workspace } from "../../src/workspace/workspace.js";
import { surroundings } from "../kit/evaluate.js";
import { temporaryFolder, write } from "../kit/run.js";

const workspaceOf = async (files: Readonly<Record<string, string>> = {}): Promise<Workspace> => {
  const folder = temporaryFolder();
  write(
    folder,
    "lexicant.yaml",
    "shop: Brindlecote\nlanguage: en\ncurrency: GBP\nlayers: [low, { layer: copy, channel: stall }, high]\n",
  );
  for (const [name, text] of Object.entries(files)) write(folder, name, text);
  return openWorkspace(folder);
};

const told = async (work: () => unknown): Promise<readonly string[]> => {
  try {
    await work();
    return [];
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    return error.findings.map(
      (finding) => `${finding.place === undefined ? "" : `${placeText(finding.place)} `}${sentence(finding)}`,
    );
  }
};

/** Ties a source's text to a table and reads its rows: texts by attribute. */
const readBy = async (
  text: string,
  table: string,
  name = "goods.csv",
): Promise<{ rows: readonly Readonly<Record<string, string>>[]; told: readonly string[] }> => {
  const workspace = await workspaceOf();
  const opened = await openTable(await fileSource(write(workspace.root, name, table), name));
  const tied = readingFor(
    await sourceFromText("goods", `layer: low\n${text}`),
    opened,
    workspace,
    surroundings,
  );
  const reader = rowReader(tied.reading);
  const rows: Record<string, string>[] = [];
  for await (const batch of opened.batches)
    for (const record of batch) {
      const row = reader.read(record.row, record.cells);
      if ("texts" in row)
        rows.push(
          Object.fromEntries(
            reader.attributes.flatMap(({ attribute }, at) =>
              (row.texts[at] ?? "") === ""
                ? []
                : [[attribute, (row.texts[at] ?? "").replaceAll("\u001e", "+")]],
            ),
          ),
        );
    }
  return { rows, told: tied.told };
};

describe("which source reads a file", () => {
  it.each([
    ["Shop Export.csv", "shop-export"],
    ["data/STOCK_2026-11-25.csv.gz", "stock-2026-11-25"],
    ["goods.zip/a b.xml", "a-b"],
    ["...", "source"],
  ])("when it is %s, then its own name is %s", (file, name) => {
    expect(sourceNameFor(file)).toBe(name);
  });

  it("when a source is named like it, like it without its date, or names it, then that one reads it", async () => {
    const text = "layer: low\ncolumns: { sku: A }\n";
    const workspace = await workspaceOf({
      "sources/stock.yaml": text,
      "sources/stock-2026.yaml": text,
      "sources/prices.yaml": `files: ["list*.xlsx", "PRICE?.csv"]\n${text}`,
    });
    const found = async (file: string) => (await sourceForFile(workspace, file))?.name;
    expect([
      await found("stock-2026.csv"),
      await found("stock-2026-11-25.csv"),
      await found("List winter.xlsx"),
      await found("price7.csv"),
      await found("price77.csv"),
    ]).toEqual(["stock-2026", "stock", "prices", "prices", undefined]);
  });

  it("when a pattern has signs of other languages of patterns, then they are plain characters", () => {
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom(..."a.+(){}[]^$|\\ "), minLength: 1 }), (name) => {
        expect(namePattern(name).test(name)).toBe(true);
        expect(namePattern(`${name}*`).test(`${name}more`)).toBe(true);
      }),
    );
  });
});

describe("what a source file may say", () => {
  it.each([
    [
      "layer: low\nkeys: sku\ncolumns: { sku: A }\n",
      'sources/x.yaml:2:1 "keys" is no setting here; nearest: "key"',
    ],
    [
      "layer: low\nkey: [SKU]\ncolumns: { sku: A }\n",
      "sources/x.yaml:2:1 key: is an attribute, or a list of attributes tried in order",
    ],
    [
      "layer: low\nmode: upsert\ncolumns: { sku: A }\n",
      "sources/x.yaml:2:1 mode: is one of add, update, both",
    ],
    ["layer: low\nreplaces: maybe\ncolumns: { sku: A }\n", "sources/x.yaml:2:1 replaces: is yes or no"],
    [
      "layer: low\nsheet: 0\ncolumns: { sku: A }\n",
      "sources/x.yaml:2:1 sheet: is a sheet's name, or its number from 1",
    ],
    [
      "layer: low\nunits: { weight: stone-ish }\ncolumns: { sku: A }\n",
      "sources/x.yaml:2:1 units: gives each attribute a unit such as kg, cm or l",
    ],
    [
      "layer: low\ngroups: { layout: rowss }\ncolumns: { sku: A }\n",
      "sources/x.yaml:2:11 groups.layout: is one of rows, first-row, own-row",
    ],
    [
      "layer: low\noptions: [{ name: A }]\ncolumns: { sku: A }\n",
      "options.0.value: is the column with the value",
    ],
    [
      "layer: hihg\ncolumns: { sku: A }\n",
      'sources/x.yaml:1:1 "hihg" is no layer of lexicant.yaml; nearest: "high"; add it to the list of layers there',
    ],
  ])("when it says %j, then that is told with its place", async (text, expected) => {
    const workspace = await workspaceOf({ "sources/x.yaml": text });
    expect((await told(() => loadSource(workspace, "x"))).join("\n")).toContain(expected);
  });

  it("when settings are in either way of writing, then they mean the same", async () => {
    const one = await sourceFromText(
      "a",
      "layer: low\nkey: gtin\nreplaces: yes\nfurther_rows: images\nfiles: a.csv\nsheet: 2\ncolumns: { sku: A }\n",
    );
    const list = await sourceFromText(
      "a",
      "layer: low\nkey: [gtin]\nreplaces: true\nfurther_rows: [images]\nfiles: [a.csv]\nsheet: 2\ncolumns: { sku: A }\n",
    );
    expect({ ...one.settings }).toEqual({ ...list.settings });
  });

  it("when layers are named with and without a channel, then the workspace knows both", async () => {
    expect((await workspaceOf()).layers).toEqual([
      { layer: "low" },
      { layer: "copy", channel: "stall" },
      { layer: "high" },
    ]);
    const folder = temporaryFolder();
    write(
      folder,
      "lexicant.yaml",
      "shop: B\nlanguage: en\ncurrency: GBP\nlayers: [low, { layer: low, channel: x }]\n",
    );
    expect(await told(() => openWorkspace(folder))).toEqual([
      expect.stringContaining("layers: lists layers from lowest to highest, each once"),
    ]);
  });

  it("when settings were found good before, then they are taken as they were; others are judged again", () => {
    const cache = settingsCache(join(temporaryFolder(), "settings"));
    cache.keep("source", "layer: low", { layer: "low" });
    expect(cache.find("source", "layer: low")).toEqual({ layer: "low" });
    expect([cache.find("source", "layer: high"), cache.find("manifest", "layer: low")]).toEqual([
      undefined,
      undefined,
    ]);
    const closed = settingsCache("/dev/null/nowhere");
    closed.keep("source", "x", {});
    expect(closed.find("source", "x")).toBeUndefined();
  });
});

describe("a source tied to a file", () => {
  it("when columns have odd names, units, currencies and constants, then values are read by them", async () => {
    const { rows } = await readBy(
      "units: { weight: lb }\ncolumns:\n  sku: '`Art. no`'\n  name@de: '`Titel (de)`'\n  price@EUR: '`Preis, €`'\n  weight: Wt\n  brand: '\"Oakapple\"'\n",
      'Art. no,Titel (de),"Preis, €",Wt\nA,Hocker,49.00,2.5\n',
    );
    expect(rows).toEqual([
      { sku: "A", "name@de": "Hocker", "price@EUR": "49.00 EUR", weight: "2.5 lb", brand: "Oakapple" },
    ]);
  });

  it("when a file has decimal commas and days first, then both are found out and told, and stated ones hold", async () => {
    const table = "sku;price;from\nA;12,50;25/11/2026\nB;1.149,00;03/12/2026\n";
    const columns = "columns:\n  sku: sku\n  price: price\n  sale_from: from\n";
    const found = await readBy(columns, table);
    expect(found.told).toEqual(["decimal comma", "day before month"]);
    expect(found.rows.map(({ price, sale_from: day }) => [price, day])).toEqual([
      ["12.50 GBP", "2026-11-25"],
      ["1149.00 GBP", "2026-12-03"],
    ]);
    const stated = await readBy(
      `decimal_mark: "."\n${columns}`,
      "sku;price;from\nA;1,149;25/11/2026\nB;9.00;\n",
    );
    expect(stated.rows[0]?.["price"]).toBe("1149.00 GBP");
  });

  it("when prices stand either way round, then the higher is the price and the lower the reduced one", async () => {
    const { rows } = await readBy(
      "columns:\n  sku: sku\n  price: regular_price(now, was)\n  sale_price: reduced_price(now, was)\n",
      "sku,now,was\nA,8.00,10.00\nB,10.00,8.00\nC,9.00,\nD,9.00,0.00\nE,9.00,9.00\n",
    );
    expect(rows.map(({ price, sale_price: reduced = "-" }) => `${price ?? ""} ${reduced}`)).toEqual([
      "10.00 GBP 8.00 GBP",
      "10.00 GBP 8.00 GBP",
      "9.00 GBP -",
      "9.00 GBP -",
      "9.00 GBP -",
    ]);
  });

  it("when XML has paths that the first records lack, then a source may name them, and expressions read lists", async () => {
    const xml =
      "<list><g no='A'><n xml:lang='de'>Hocker</n><m>May</m><m>June</m></g><g no='B'><late>yes</late></g></list>";
    const { rows } = await readBy(
      "columns:\n  sku: '`@no`'\n  name@de: n@de\n  months: join(m, \"; \")\n  digital: late\n",
      xml,
      "goods.xml",
    );
    expect(rows).toEqual([
      { sku: "A", "name@de": "Hocker", months: "May; June" },
      { sku: "B", digital: "yes" },
    ]);
  });

  it.each([
    ["columns:\n  sku: Sku\n", 'there is no column "Sku"; nearest: "sku"'],
    ["columns:\n  Name: sku\n  sku: sku\n", "Name: an attribute's name has small letters"],
    ["columns:\n  name: sku\n", "no column gives the sku"],
    ["key: gtin\ncolumns:\n  sku: sku\n", "no column gives the gtin"],
    [
      "groups: { layout: own-row }\ncolumns:\n  sku: sku\n",
      "the condition is wanted by which a group's own row is told",
    ],
    [
      "pairs: [{ name: sku, value: valeu }]\ncolumns:\n  sku: sku\n",
      'the source reads a column "valeu" that the file does not have; nearest: "value"',
    ],
    ["take: value\ncolumns:\n  sku: sku\n", "yes or no is wanted here, this is a text"],
  ])("when it says %j, then the file is refused and told why", async (text, expected) => {
    expect((await told(() => readBy(text, "sku,value\nA,1\n"))).join("; ")).toContain(expected);
  });

  it("when any proposal is written as a file, then it is a source that can be read", async () => {
    const column = fc.constantFrom(
      "SKU",
      "Title",
      "Price £",
      "Old price",
      "it's odd",
      "Size (L x W x H)",
      "Image 1",
      "Image 2",
      "Feature 1 name",
      "Feature 1 value",
      "in",
      "yes",
      "Größe",
      "a`b",
      "x: y",
      "#no",
    );
    const cell = fc.constantFrom(
      "",
      "A-1",
      "12.50",
      "30 x 20 x 12 cm",
      "https://a.example/1.jpg",
      "yes",
      "text with: signs",
    );
    await fc.assert(
      fc.asyncProperty(
        fc.uniqueArray(column, { minLength: 1, maxLength: 8 }),
        fc.array(fc.array(cell, { minLength: 8, maxLength: 8 }), { minLength: 1, maxLength: 4 }),
        async (header, rows) => {
          const proposal = proposeSource({ header, rows }, "en");
          // Without a key nothing is proposed to anybody: the import ends before.
          fc.pre(proposal.keys.length > 0);
          const source = await sourceFromText(
            "x",
            proposedSourceText("x", "x", "GBP", { ...proposal, keys: ["sku"] }),
          );
          expect(Object.keys(source.settings.columns)).toEqual(
            proposal.attributes.map(({ attribute }) => attribute),
          );
        },
      ),
      { numRuns: 60 },
    );
  });
});
