import { gzipSync } from "node:zlib";
import { zipSync, strToU8 } from "fflate";
import { Decimal } from "decimal.js";
import fc from "fast-check";
import { writeXlsx } from "hucre/xlsx";
import { describe, expect, it } from "vitest";
import { LIST_SEPARATOR } from "../../src/core/catalogue/record.js";
import { sentence } from "../../src/workspace/wording.js";
import { Refusal } from "../../src/core/diagnostics/refusal.js";
import { fileSource } from "../../src/formats/byte-source.js";
import { openTable, unpacked } from "../../src/formats/open-table.js";
import type { TableOptions } from "../../src/formats/kinds/file-kind.js";
import { temporaryFolder, write } from "../kit/run.js";
import { runs } from "../kit/runs.js";

const folder = temporaryFolder();

interface ReadTable {
  readonly file: string;
  readonly header: readonly string[];
  readonly rows: readonly (readonly string[])[];
  readonly numbers: readonly number[];
  readonly told: readonly string[];
}

const readFiles = async (
  name: string,
  content: string | Uint8Array,
  options: TableOptions = {},
): Promise<readonly ReadTable[]> => {
  const source = await fileSource(write(folder, name, Buffer.from(content)), name);
  const tables: ReadTable[] = [];
  for (const one of await unpacked(source)) {
    const table = await openTable(one, options);
    const records = [];
    for await (const batch of table.batches) records.push(...batch);
    tables.push({
      file: table.file,
      header: [...table.header],
      rows: records.map(({ cells, fault }) => (fault === undefined ? cells : [`fault: ${sentence(fault)}`])),
      numbers: records.map(({ row }) => row),
      told: table.told(),
    });
  }
  return tables;
};

const readOne = async (
  name: string,
  content: string | Uint8Array,
  options?: TableOptions,
): Promise<ReadTable> => {
  const [table] = await readFiles(name, content, options);
  if (table === undefined) throw new Error("no table");
  return table;
};

const refusal = async (
  name: string,
  content: string | Uint8Array,
  options?: TableOptions,
): Promise<string> => {
  try {
    await readFiles(name, content, options);
    return "not refused";
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    return error.findings.map(sentence).join("; ");
  }
};

describe("reading workbooks", () => {
  const sheet = (
    rows: readonly (readonly (string | number | boolean | Date | null)[])[],
    name = "Goods",
  ) => ({ name, rows: rows.map((row) => [...row]) });

  it("when titles stand above the header, then the header is found and rows keep the sheet's numbers", async () => {
    const bytes = await writeXlsx({
      sheets: [
        sheet([
          ["Winter list"],
          [],
          ["Our no.", "Title", "Price"],
          ["A-1", "Stool", 49],
          [null, null, null],
          ["A-2", "Bench", 89.5],
        ]),
      ],
    });
    const table = await readOne("list.xlsx", bytes);
    expect(table.header).toEqual(["Our no.", "Title", "Price"]);
    expect(table.rows).toEqual([
      ["A-1", "Stool", "49"],
      ["A-2", "Bench", "89.5"],
    ]);
    expect(table.numbers).toEqual([4, 6]);
    expect(table.told).toEqual(['sheet "Goods"', "header in row 3"]);
  });

  it("when cells are numbers, days or yes and no, then their texts are exact", async () => {
    const bytes = await writeXlsx({
      sheets: [
        sheet([
          ["code", "sum", "small", "day", "on"],
          [9524000001016, 0.1 + 0.2, 0.0000012, new Date(Date.UTC(2026, 2, 4)), true],
        ]),
      ],
    });
    const [row = []] = (await readOne("numbers.xlsx", bytes)).rows;
    expect([row[0], row[1], row[2], row[4]]).toEqual(["9524000001016", "0.3", "0.0000012", "yes"]);
    expect(row[3]).toMatch(/^2026-03-04|^46085$/);
  });

  it("when a sheet is chosen by name or number, then that one is read; an unknown one is refused with those there are", async () => {
    const bytes = await writeXlsx({
      sheets: [sheet([["a"], ["1"]], "First & foremost"), sheet([["b"], ["2"]], "Second")],
    });
    expect((await readOne("two.xlsx", bytes, { sheet: "Second" })).header).toEqual(["b"]);
    expect((await readOne("two.xlsx", bytes, { sheet: 1 })).told[0]).toContain(
      'sheet "First & foremost" (1 more: Second)',
    );
    expect(await refusal("two.xlsx", bytes, { sheet: "Secnd" })).toBe(
      'there is no sheet "Secnd"; nearest: "Second"',
    );
    expect(await refusal("two.xlsx", bytes, { sheet: 3 })).toContain(
      'there are: "First & foremost", "Second"',
    );
  });

  it("when any bytes of a workbook or an archive are changed, then reading ends with rows or a refusal", async () => {
    const workbook = await writeXlsx({
      sheets: [sheet(Array.from({ length: 20 }, (_, row) => [`A-${row}`, row, row % 2 === 0]))],
    });
    const zip = zipSync({ "a.csv": strToU8("sku,name\nA,Stool\n".repeat(20)), "w.xlsx": workbook });
    const change = fc.tuple(fc.nat(), fc.nat(255));
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom("x.xlsx", "x.zip"),
        fc.array(change, { minLength: 1, maxLength: 6 }),
        async (name, changes) => {
          const bytes = Buffer.from(name === "x.zip" ? zip : workbook);
          for (const [at, byte] of changes) bytes[at % bytes.length] = byte;
          expect(typeof (await refusal(name, bytes))).toBe("string");
        },
      ),
      { numRuns: runs(60, 1500) },
    );
  });

  it("when the workbook is cut off, then it is refused as damaged", async () => {
    const bytes = await writeXlsx({ sheets: [sheet([["a"], ["1"]])] });
    expect(await refusal("cut.xlsx", bytes.slice(0, bytes.length - 40))).toMatch(/^the file is not whole as/);
  });
});

describe("reading XML", () => {
  const xml = `<?xml version="1.0"?>
    <k:list xmlns:k="https://k.example/"><k:info>spring</k:info>
      <k:goods no="A-1"><k:name xml:lang="en">Stool</k:name><k:name xml:lang="de">Hocker</k:name>
        <k:price currency="GBP">49.00</k:price><k:text><![CDATA[<b>Oak</b> & ash]]></k:text>
        <k:pictures><k:picture href="1.jpg"/><k:picture href="2.jpg"/></k:pictures><k:month>May</k:month><k:month>June</k:month></k:goods>
      <k:goods no="A-2"><k:name>Bench &amp; more</k:name><k:late>yes</k:late></k:goods>
    </k:list>`;

  it("when elements repeat below the root, then each is a record with paths, attributes, languages and lists", async () => {
    const { header, rows, numbers, told } = await readOne("goods.xml", xml);
    const cells = (row: number) =>
      Object.fromEntries(header.map((name, at) => [name, rows[row]?.[at] ?? ""]));
    expect(cells(0)).toMatchObject({
      "@no": "A-1",
      "name@en": "Stool",
      "name@de": "Hocker",
      price: "49.00",
      "price/@currency": "GBP",
      text: "<b>Oak</b> & ash",
      "pictures/picture/@href": `1.jpg${LIST_SEPARATOR}2.jpg`,
      month: `May${LIST_SEPARATOR}June`,
    });
    expect(cells(1)).toMatchObject({ "@no": "A-2", name: "Bench & more", late: "yes", price: "" });
    expect([numbers, told]).toEqual([
      [1, 2],
      ["UTF-8", "one <goods> a record"],
    ]);
  });

  it("when the record's element is stated, then that one is taken", async () => {
    const { rows } = await readOne("goods.xml", xml, { records: "pictures/picture" });
    expect(rows).toEqual([["1.jpg"], ["2.jpg"]]);
  });

  it("when the XML says it is Latin-1, then its letters arrive", async () => {
    const latin = Buffer.from(
      '<?xml version="1.0" encoding="ISO-8859-1"?><a><g><n>Büro</n></g><g><n>Café</n></g></a>',
      "latin1",
    );
    expect((await readOne("latin.xml", latin)).rows).toEqual([["Büro"], ["Café"]]);
  });

  it.each([
    [
      "entities that grow",
      '<!DOCTYPE a [<!ENTITY x "yyyy"><!ENTITY z "&x;&x;&x;">]><a><g><n>&z;</n></g><g><n>1</n></g></a>',
      "declares entities",
    ],
    [
      "an entity from another file",
      '<!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/passwd">]><a><g><n>&x;</n></g><g><n>1</n></g></a>',
      "declares entities",
    ],
    ["an entity that nobody declared", "<a><g><n>&x;</n></g><g><n>1</n></g></a>", "not whole as XML"],
    ["an element that is not closed", "<a><g><n>1</n></g><g><n>1</n>", "not whole as XML"],
    ["no repeated element", "<a>1</a>", "no records are found"],
    ["nothing", "", "is empty"],
    ["elements without end", `<a><g><n>1</n></g>${"<g>".repeat(300)}`, "nest deeper than 200"],
  ])("when it has %s, then it is refused and told why", async (_, text, expected) => {
    expect(await refusal("bad.xml", text)).toContain(expected);
  });

  it("when any bytes stand where XML should, then it ends with records or a refusal", async () => {
    const piece = fc.constantFrom(
      "<a>",
      "</a>",
      "<g x='1'>",
      "</g>",
      "&amp;",
      "&x;",
      "<![CDATA[",
      "]]>",
      "<!--",
      "-->",
      "é",
      "<?xml?>",
      "\u0000",
    );
    await fc.assert(
      fc.asyncProperty(fc.array(piece, { maxLength: 12 }), async (pieces) => {
        await refusal("fuzz.xml", `<list>${pieces.join("")}`);
      }),
      { numRuns: runs(50, 1200) },
    );
  });
});

const Exact = Decimal.clone({ precision: 100 });

describe("reading JSON", () => {
  it("when objects stand in a list, then their leaves are columns by path and lists are lists", async () => {
    const { header, rows } = await readOne(
      "goods.json",
      '[{"sku":"A","price":{"amount":49.0,"currency":"GBP"},"tags":["x","y"],"on":true,"none":null},{"sku":"B","late":"z","code":9524000001016}]',
    );
    expect(header).toEqual(["sku", "price/amount", "price/currency", "tags", "on", "late", "code"]);
    expect(rows[0]?.slice(0, 5)).toEqual(["A", "49", "GBP", `x${LIST_SEPARATOR}y`, "yes"]);
    expect(rows[1]).toEqual(["B", "", "", "", "", "z", "9524000001016"]);
  });

  it("when any number is written, in whatever way JSON has, then its digits arrive as another reader counts them", async () => {
    const written = fc
      .tuple(
        fc.constantFrom("", "-"),
        fc.stringMatching(/^(0|[1-9]\d{0,24})$/),
        fc.stringMatching(/^(\.\d{1,12})?$/),
        fc.constantFrom("", "e3", "E-4", "e+12", "e0"),
      )
      .map((parts) => parts.join(""));
    await fc.assert(
      fc.asyncProperty(written, async (number) => {
        const { rows } = await readOne("n.json", `[{"n":${number}}]`, { format: "json" });
        const expected = new Exact(number).toFixed();
        expect(rows).toEqual([[expected === "-0" ? "0" : expected]]);
      }),
      { numRuns: runs(40, 1000) },
    );
  });

  it("when the list stands deeper, then it is found, or taken where it is stated", async () => {
    const text =
      '{"info":{"season":"spring"},"page":[1,2],"catalogue":{"items":[{"sku":"A"}]},"extra":[{"sku":"X"}]}';
    expect((await readOne("deep.json", text)).rows).toEqual([["A"]]);
    expect((await readOne("deep.json", text, { records: "extra" })).rows).toEqual([["X"]]);
  });

  it("when each line is an object, then each is a record and a spoilt line is a fault of that line", async () => {
    const { rows, numbers } = await readOne("goods.jsonl", '{"sku":"A"}\n\n{"sku":"B"\n[1]\n{"sku":"C"}');
    expect(numbers).toEqual([1, 3, 4, 5]);
    expect([rows[0], rows[3]]).toEqual([["A"], ["C"]]);
    expect(rows[1]?.[0]).toMatch(/^fault: the line is no JSON object/);
    expect(rows[2]?.[0]).toBe("fault: the line is no JSON object: it is no object");
  });

  it.each([
    ["it is cut off", '[{"sku":"A"},{"sku":', "ends in the middle of a value"],
    ["it is broken", '[{"sku":"A"},{sku:"B"}]', "not whole as JSON"],
    ["it has no list", '{"sku":"A"}', "no records are found"],
  ])("when %s, then it is refused", async (_, text, expected) => {
    expect(await refusal("bad.json", text)).toContain(expected);
  });

  it("when any JSON is read, then every text in it arrives", async () => {
    const record = fc.dictionary(
      fc.stringMatching(/^[a-z]{1,5}$/),
      fc.string({ minLength: 1, maxLength: 8 }),
      { minKeys: 1, maxKeys: 4 },
    );
    await fc.assert(
      fc.asyncProperty(fc.array(record, { minLength: 1, maxLength: 6 }), async (records) => {
        const { header, rows } = await readOne("any.json", JSON.stringify(records), { format: "json" });
        const back = rows.map((cells) =>
          Object.fromEntries(
            header.flatMap((name, at) => ((cells[at] ?? "") === "" ? [] : [[name, cells[at]]])),
          ),
        );
        expect(back).toEqual(records.map((one) => ({ ...one })));
      }),
      { numRuns: 60 },
    );
  });
});

describe("archives", () => {
  it("when an archive holds tables, then each is read under its name; others' clutter is passed over", async () => {
    const zip = zipSync({
      "b.csv": strToU8("sku\nB\n"),
      "a/a.csv": strToU8("sku\nA\n"),
      "__MACOSX/a.csv": strToU8("junk"),
      ".hidden": strToU8("junk"),
    });
    expect((await readFiles("both.zip", zip)).map(({ file, rows }) => [file, rows])).toEqual([
      ["both.zip/a/a.csv", [["A"]]],
      ["both.zip/b.csv", [["B"]]],
    ]);
  });

  it("when a file is packed by gzip, or a workbook by ZIP, then it is read as if it were not", async () => {
    expect((await readOne("goods.csv.gz", gzipSync("sku;name\nA;Stool\n"))).rows).toEqual([["A", "Stool"]]);
    const workbook = await writeXlsx({ sheets: [{ name: "s", rows: [["sku"], ["A"]] }] });
    expect((await readOne("packed.zip", zipSync({ "w.xlsx": workbook }))).rows).toEqual([["A"]]);
  });

  it("when a member's name leads out of the archive, then nothing of it is read", async () => {
    const zip = Buffer.from(zipSync({ "aa/evil.csv": strToU8("sku\nA\n") }));
    const evil = Buffer.from(zip.toString("latin1").replaceAll("aa/evil.csv", "../evil.csv"), "latin1");
    expect(await refusal("evil.zip", evil)).toMatch(/^the archive is not opened: /);
  });

  it("when an archive or a gzip file would unpack without end, then it is refused", async () => {
    const zeros = Buffer.alloc(80 << 20, "a");
    expect(await refusal("bomb.zip", zipSync({ "a.csv": zeros }, { level: 9 }))).toContain(
      "unpacks to 80 MB from almost nothing",
    );
    expect(
      await refusal("bomb.csv.gz", gzipSync(Buffer.concat([Buffer.from("a\n"), zeros]), { level: 9 })),
    ).toMatch(/unpacks without end|longer than/);
  });

  it("when an archive is cut off or empty, then that is told", async () => {
    const zip = zipSync({ "a.csv": strToU8("sku\nA\n") });
    expect(await refusal("cut.zip", zip.slice(0, zip.length - 30))).toContain("not whole as ZIP");
    expect(await refusal("cut.gz", gzipSync("sku\nA\n".repeat(1000)).subarray(0, 30))).toContain(
      "not whole as gzip",
    );
    expect(await refusal("empty.zip", zipSync({ "a/": new Uint8Array() }))).toContain("is empty");
  });
});

describe("files that are not what their names say", () => {
  it("when a CSV is named as a workbook, or the other way round, then it is refused with both named", async () => {
    const workbook = await writeXlsx({ sheets: [{ name: "s", rows: [["sku"], ["A"]] }] });
    expect(await refusal("prices.xlsx", "sku,price\nA,5\n")).toBe(
      '"prices.xlsx" is named as a workbook and holds plain text; rename it, or import it with --format csv',
    );
    expect(await refusal("prices.csv", workbook)).toContain("is named as plain text and holds a workbook");
    expect(await refusal("prices.csv", "<?xml version='1.0'?><a><b>1</b></a>")).toContain("holds XML");
  });

  it("when the format is stated, then the name does not matter", async () => {
    expect((await readOne("prices.xlsx", "sku,price\nA,5\n", { format: "csv" })).rows).toEqual([["A", "5"]]);
    expect((await readOne("data", '{"sku":"A"}\n{"sku":"B"}\n')).rows).toEqual([["A"], ["B"]]);
  });

  it("when a page of HTML or a picture comes instead of a table, then it is no table", async () => {
    expect(await refusal("photo.csv", Buffer.from("89504e470d0a1a0a0000", "hex"))).toContain("a picture");
    expect(await refusal("old.xls", Buffer.from("d0cf11e0a1b11ae1", "hex"))).toContain(
      "an old binary workbook",
    );
  });
});
