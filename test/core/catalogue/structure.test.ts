import fc from "fast-check";
import { LIST_SEPARATOR } from "../../../src/core/catalogue/record.js";
import { proposeSource } from "../../../src/core/catalogue/proposal/propose.js";
import { Refusal } from "../../../src/core/diagnostics/refusal.js";
import { recordPath } from "../../../src/core/records/path.js";
import { sourceFromText } from "../../../src/workspace/source-files.js";
import { proposedSourceText } from "../../../src/workspace/source-text.js";
import { describe, expect, it } from "vitest";
import { runs } from "../../kit/runs.js";
import { chooseRecords } from "../../../src/core/catalogue/proposal/choose-records.js";
import { sampleOfTrees } from "../../../src/core/catalogue/proposal/structure.js";
import { fileSource } from "../../../src/formats/byte-source.js";
import { openTable } from "../../../src/formats/open-table.js";
import { temporaryFolder, write } from "../../kit/run.js";

const folder = temporaryFolder();

const opened = async (text: string) => {
  const name = text.startsWith("<") ? "file.xml" : "file.json";
  return openTable(await fileSource(write(folder, name, text), name), { chooseRecords });
};

/** The record that is found, and the columns that it has. */
const looked = async (text: string) => {
  const { records, trees = [] } = await opened(text);
  const { header, pairs, currency } = sampleOfTrees(trees);
  return { records, header, pairs, currency };
};

const shops: Readonly<Record<string, string>> = {
  "a flat list":
    "<l><p><sku>A</sku><name>Stool</name><price>5.00</price></p><p><sku>B</sku><name>Bench</name><price>7.00</price></p></l>",
  "goods in ranges":
    "<l><r n='Seats'><p no='A'><name>Stool</name><price>5.00</price></p><p no='B'><name>Bench</name><price>7.00</price></p></r></l>",
  "sizes in goods":
    "<l><g><id>1</id><name>Hat</name><description>A hat of wool.</description><v sku='A'><size>S</size><price>5.00</price></v><v sku='B'><size>M</size><price>5.00</price></v></g><g><id>2</id><name>Cap</name><description>A cap of felt.</description><v sku='C'><size>S</size><price>6.00</price></v></g></l>",
  "goods with pictures":
    "<l><p><sku>A</sku><name>Stool</name><pic id='1'><src>a.jpg</src></pic><pic id='2'><src>b.jpg</src></pic></p><p><sku>B</sku><name>Bench</name><pic id='3'><src>c.jpg</src></pic></p></l>",
  "JSON by number": '{"goods":{"A":{"name":"Stool","price":5},"B":{"name":"Bench","price":7}}}',
};

describe("what a record is", () => {
  it.each([
    ["a flat list", "p"],
    ["goods in ranges", "p"],
    ["sizes in goods", "v"],
    ["goods with pictures", "p"],
    ["JSON by number", "goods/*"],
  ])("when a file holds %s, then it is %s", async (shop, expected) => {
    expect((await looked(shops[shop] ?? "")).records).toBe(expected);
  });

  it("when nothing in a file looks like goods, then nothing is chosen, and the first that repeats is taken", async () => {
    const table = await opened("<l><x><y>1</y></x><x><y>2</y></x></l>");
    expect(table.records).toBe("l/x");
  });
});

describe("trees as columns", () => {
  it("when values stand above the records, then they are columns too: a group by its number, a range by its name", async () => {
    const { header } = await looked(shops["sizes in goods"] ?? "");
    expect(header).toEqual(
      expect.arrayContaining(["@sku", "size", "price", "../id", "../name", "../description"]),
    );
    expect((await looked(shops["goods in ranges"] ?? "")).header).toContain("../@n");
  });

  it("when elements are told apart by what they say of themselves, then each kind is a column", async () => {
    const { header, pairs, currency } = await looked(
      `{"currency":"EUR","items":[{"sku":"A","name":"Stool","price":1,"amounts":[{"kind":"net","value":1},{"kind":"retail","value":2}],"facts":[{"name":"Wood","value":"oak"},{"name":"Height","value":"40 cm"}],"specs":[["Legs","3"]]},{"sku":"B","name":"Bench","price":2,"amounts":[{"kind":"net","value":3},{"kind":"retail","value":4}],"facts":[{"name":"Length","value":"1 m"}],"specs":[]}]}`,
    );
    expect(header).toEqual(expect.arrayContaining(["amounts[kind=net]/value", "amounts[kind=retail]/value"]));
    expect(pairs).toEqual([
      { name: "facts/name", value: "facts/value" },
      { name: "specs/1", value: "specs/2" },
    ]);
    expect(currency).toBe("EUR");
  });
});

describe("any file of records", () => {
  const name = fc.constantFrom(
    "sku",
    "price",
    "name",
    "items",
    "specs",
    "a",
    "lang",
    "kind",
    "two words",
    "x/y",
    "@n",
    "1",
    "..",
    "value",
    "stock",
  );
  const leaf = fc.oneof(
    fc.constantFrom("A-1", "5.00", "en", "red", "", "9524000001016"),
    fc.integer(),
    fc.boolean(),
    fc.constant(null),
  );
  const { value } = fc.letrec((tie) => ({
    value: fc.oneof({ maxDepth: 4, depthSize: "small" }, leaf, tie("list"), tie("object")),
    list: fc.array(tie("value"), { maxLength: 3 }),
    object: fc.dictionary(name, tie("value"), { maxKeys: 4 }),
  }));

  it("when JSON has any shape, then its proposal is a source whose every column is a path that finds what was shown", async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.dictionary(name, value, { minKeys: 1, maxKeys: 4 }), { minLength: 1, maxLength: 3 }),
        async (goods) => {
          const { trees = [], records = "" } = await opened(JSON.stringify({ goods, currency: "EUR" })).catch(
            (error: unknown) => {
              if (error instanceof Refusal) return { trees: [], records: "" };
              throw error;
            },
          );
          if (trees.length === 0) return;
          const sample = sampleOfTrees(trees);
          for (const [at, path] of sample.header.entries()) {
            const found = trees
              .flatMap((tree) => recordPath(path)?.valuesIn(tree) ?? ["no path"])
              .filter((text) => text !== undefined && text !== "");
            expect([path, found]).toEqual([
              path,
              sample.rows.flatMap((row) => (row[at] ?? "").split(LIST_SEPARATOR)).filter(Boolean),
            ]);
          }
          const proposal = { ...proposeSource(sample, "en"), records };
          const { settings } = await sourceFromText("any", proposedSourceText("any", "any", "GBP", proposal));
          expect(Object.keys(settings.columns)).toEqual(
            proposal.attributes.map(({ attribute }) => attribute),
          );
        },
      ),
      { numRuns: runs(40, 1000) },
    );
  });
});
