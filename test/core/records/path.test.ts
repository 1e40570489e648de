import { describe, expect, it } from "vitest";
import fc from "fast-check";
import { LIST_SEPARATOR } from "../../../src/core/catalogue/record.js";
import { recordPath } from "../../../src/core/records/path.js";
import { leavesOf } from "../../../src/core/records/leaves.js";
import { fileSource } from "../../../src/formats/byte-source.js";
import { openTable } from "../../../src/formats/open-table.js";
import { temporaryFolder, write } from "../../kit/run.js";

const folder = temporaryFolder();

/** The cells of a path in each record of a file. */
const read = async (text: string, records: string, ...paths: readonly string[]) => {
  const name = text.startsWith("<") ? "list.xml" : "list.json";
  const table = await openTable(await fileSource(write(folder, name, text), name), { records });
  const slots = paths.map((path) => table.column(path) ?? -1);
  const rows: string[][] = [];
  for await (const batch of table.batches)
    for (const { cells } of batch)
      rows.push(slots.map((at) => (cells[at] ?? "").replaceAll(LIST_SEPARATOR, "|")));
  return paths.length === 1 ? rows.map(([cell]) => cell) : rows;
};

const xml = `<feed currency="GBP"><shop>Brindlecote</shop>
  <range brand="Tarnbeck"><title xml:lang="en">Hives</title><title xml:lang="de">Beuten</title>
    <item id="A"><price kind="trade">4.00</price><price kind="retail">9.00</price>
      <name xml:lang="en">Hive</name><name xml:lang="de">Beute</name>
      <spec name="Wood">cedar</spec><spec name="Frames">10</spec>
      <image><url>1.jpg</url><alt>front</alt></image><image><url>2.jpg</url></image><image><url>3.jpg</url><alt>top</alt></image></item>
    <item id="B"><price kind="retail">8.00</price></item>
    <season>spring</season></range>
  <range brand="Copsewood"><title xml:lang="en">Tools</title></range></feed>`;

const json = JSON.stringify({
  currency: "GBP",
  ranges: [
    {
      brand: "Tarnbeck",
      title: { en: "Hives", de: "Beuten" },
      items: [
        {
          id: "A",
          prices: [
            { kind: "trade", amount: 4 },
            { kind: "retail", amount: 9 },
          ],
          specs: [
            ["Wood", "cedar"],
            ["Frames", "10"],
          ],
          facts: { Height: "40 cm", "Made in": "GB" },
          images: [{ url: "1.jpg", alt: "front" }, { url: "2.jpg" }, { url: "3.jpg", alt: null }],
        },
        { id: "B", prices: [], specs: [], facts: {}, images: [] },
      ],
    },
    { brand: "Copsewood", title: { en: "Tools" }, items: [] },
  ],
  shop: "Brindlecote",
});

describe("paths into records", () => {
  it.each([
    ["@id", ["A", "B"]],
    ["price[kind=retail]", ["9.00", "8.00"]],
    ["price[@kind=retail]", ["9.00", "8.00"]],
    ["price[@kind='trade']", ["4.00", ""]],
    ["name@de", ["Beute", ""]],
    ["name[@lang=en]", ["Hive", ""]],
    ["spec[name=Wood]", ["cedar", ""]],
    ["spec/@name", ["Wood|Frames", ""]],
    ["image[2]/url", ["2.jpg", ""]],
    ["image/url", ["1.jpg|2.jpg|3.jpg", ""]],
    ["image/alt", ["front||top", ""]],
  ])("when XML is read by %s, then it finds %j", async (path, expected) => {
    expect(await read(xml, "item", path)).toEqual(expected);
  });

  it.each([
    ["../@brand", ["Tarnbeck", "Tarnbeck", "Copsewood"]],
    ["../title@de", ["Beuten", "Beuten", ""]],
    ["../../@currency", ["GBP", "GBP", "GBP"]],
    ["/feed/@currency", ["GBP", "GBP", "GBP"]],
    ["/feed/shop", ["Brindlecote", "Brindlecote", "Brindlecote"]],
    // What stands behind the records of a range is waited for.
    ["../season", ["spring", "spring", ""]],
  ])(
    "when XML is read by %s, then the levels above are found, and a range without items is one",
    async (path, expected) => {
      expect(await read(xml, "item", path)).toEqual(expected);
    },
  );

  it.each([
    ["id", ["A", "B"]],
    ["prices[kind=retail]/amount", ["9", ""]],
    ["prices.amount", ["4|9", ""]],
    ["specs/1", ["Wood|Frames", ""]],
    ["specs/2", ["cedar|10", ""]],
    ["facts/Height", ["40 cm", ""]],
    ["facts/Made in", ["GB", ""]],
    ["facts/*/name()", ["Height|Made in", ""]],
    ["facts/*", ["40 cm|GB", ""]],
    ["images/alt", ["front||", ""]],
  ])("when JSON is read by %s, then it finds %j", async (path, expected) => {
    expect(await read(json, "items", path)).toEqual(expected);
  });

  it.each([
    ["../brand", ["Tarnbeck", "Tarnbeck", "Copsewood"]],
    ["../title/de", ["Beuten", "Beuten", ""]],
    ["/currency", ["GBP", "GBP", "GBP"]],
    ["/shop", ["Brindlecote", "Brindlecote", "Brindlecote"]],
  ])(
    "when JSON is read by %s, then the levels above are found, those behind it too",
    async (path, expected) => {
      expect(await read(json, "items", path)).toEqual(expected);
    },
  );

  it("when an element holds texts among others, then its markup is its text", async () => {
    const text =
      "<list><g><t>Strong <b>oak</b> &amp; light</t></g><g><t><p>One</p><ul><li>two</li></ul></t></g></list>";
    expect(await read(text, "g", "t")).toEqual([
      "Strong <b>oak</b> &amp; light",
      "<p>One</p><ul><li>two</li></ul>",
    ]);
  });

  it.each(["", "a//b", "a[", "a[]", "@", "a]b"])("when %j is no path, then it is none", (text) => {
    expect(recordPath(text)).toBeUndefined();
  });

  it("when a record has any shape, then each of its texts is found by its own path", async () => {
    const name = fc.constantFrom("a", "b", "two words", "x/y", "3", "..");
    const value = fc.letrec((tie) => ({
      any: fc.oneof(
        { maxDepth: 3 },
        fc.string({ minLength: 1, maxLength: 3 }),
        tie("object"),
        fc.array(tie("object"), { maxLength: 2 }),
      ),
      object: fc.dictionary(name, tie("any"), { maxKeys: 3 }),
    }));
    await fc.assert(
      fc.asyncProperty(value.object, async (record) => {
        const text = JSON.stringify([{ ...record, sku: "A" }]);
        const table = await openTable(await fileSource(write(folder, "any.json", text), "any.json"), {
          format: "json",
        });
        const [tree] = table.trees ?? [];
        if (tree === undefined) throw new Error("no record");
        for (const { path, text: wanted } of leavesOf(tree))
          expect([path, recordPath(path)?.valuesIn(tree)]).toEqual([path, expect.arrayContaining([wanted])]);
      }),
      { numRuns: 200 },
    );
  });
});
