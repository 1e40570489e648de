import { isUtf8 } from "node:buffer";
import { readdirSync, readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { dirname, join } from "node:path";
import { parse } from "csv-parse/sync";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { sentence } from "../../src/workspace/wording.js";
import { Refusal } from "../../src/core/diagnostics/refusal.js";
import { fileSource } from "../../src/formats/byte-source.js";
import { openCsv, type CsvOptions } from "../../src/formats/csv-reader.js";
import { refuseRepeatedColumns } from "../../src/formats/table-stream.js";
import { csvLine } from "../../src/formats/csv-writer.js";
import { temporaryFolder, write } from "../kit/run.js";

const folder = temporaryFolder();

const readAll = async (content: string | Buffer, options: CsvOptions = {}) => {
  const table = await openCsv(await fileSource(write(folder, "table.csv", content), "table.csv"), options);
  const rows = [];
  for await (const batch of table.batches) rows.push(...batch);
  return { ...table, rows };
};

const refused = async (content: string | Buffer, options: CsvOptions = {}): Promise<string> => {
  try {
    await readAll(content, options);
    return "not refused";
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    return error.findings
      .map((finding) => `${finding.place?.line ?? finding.place?.row ?? ""} ${sentence(finding)}`)
      .join("; ");
  }
};

describe("reading CSV", () => {
  it("when whoever takes the rows is busy, then no more of the file is read than a few pieces", async () => {
    const content = `sku,name\n${"K-1,Kneeler for long days in the garden\n".repeat(400_000)}`;
    const source = await fileSource(write(folder, "long.csv", content), "long.csv");
    const { batches } = await openCsv(source);
    await batches.next();
    for (let turn = 0; turn < 200; turn++) await new Promise((resolve) => setImmediate(resolve));
    expect(source.bytesRead()).toBeLessThan(6 << 20);
    let rows = 0;
    for await (const batch of batches) rows += batch.length;
    expect(rows).toBeGreaterThan(300_000);
    expect(source.bytesRead()).toBe(source.size);
  });

  it.each([
    ["commas", "a,b\n1,2\n"],
    ["semicolons", "a;b\n1;2\n"],
    ["tabs", "a\tb\n1\t2\n"],
    ["bars", "a|b\n1|2\n"],
    ["semicolons", '"a, the first, and so on";b\n1;2\n'],
    ["semicolons", "Price list, spring, all prices net\n\na;b\n1;2\n"],
  ])("when a file is cut by %s, then it is seen", async (delimiter, content) => {
    const table = await readAll(content);
    expect(table.told()).toContain(delimiter);
    expect([table.header.length, table.rows[0]?.cells]).toEqual([2, ["1", "2"]]);
  });

  it.each([
    ["UTF-8 with a mark", Buffer.from("\ufeffnäme\nä\n"), {}, "utf-8"],
    ["UTF-16 with a mark", Buffer.from("\ufeffnäme\nä\n", "utf16le"), {}, "utf-16le"],
    ["UTF-16 without one", Buffer.from("näme\nä\n", "utf16le"), {}, "utf-16le"],
    ["UTF-16, big end first", Buffer.from("\ufeffnäme\nä\n", "utf16le").swap16(), {}, "utf-16be"],
    ["Windows-1252, which shows itself", Buffer.from("näme\nä\n", "latin1"), {}, "windows-1252"],
    [
      "Windows-1252, stated",
      Buffer.from("näme\nä\n", "latin1"),
      { encoding: "windows-1252" },
      "windows-1252",
    ],
  ] as const)("when a file is in %s, then its letters arrive", async (_, content, options, encoding) => {
    const table = await readAll(content, options);
    expect([table.told()[0]?.toLowerCase(), table.header, table.rows[0]?.cells]).toEqual([
      encoding,
      ["näme"],
      ["ä"],
    ]);
  });

  it("when cells hold quotes, delimiters, line ends and rows end in CR LF, then each row has its number", async () => {
    const { rows } = await readAll('a,b\r\n"1,\r\n""x""",2\r\n\r\n3,4\r\n');
    expect(rows).toEqual([
      { row: 2, cells: ['1,\r\n"x"', "2"] },
      { row: 4, cells: ["3", "4"] },
    ]);
  });

  it("when a quote is stray, then that row carries the fault and the next is fine", async () => {
    const { rows } = await readAll('a,b\n"in "the" middle",2\n3,4\n');
    expect(rows[0]?.fault?.code).toBe("stray-quote");
    expect(rows.at(-1)?.cells).toEqual(["3", "4"]);
  });

  it.each([
    ["an empty file", "", "is empty"],
    ["blank lines alone", "\n\n", "is empty"],
    [
      "a workbook under a CSV name",
      Buffer.from("504b030414000600", "hex"),
      "a ZIP archive or an XLSX workbook",
    ],
    ["NUL bytes", Buffer.from("a,b\n1,\0\n"), "binary data with NUL bytes"],
    [
      "a wrong byte among letters that are UTF-8",
      Buffer.concat([Buffer.from("name\nfür\n"), Buffer.from("caf\xe9\n", "latin1")]),
      "3 line 3 holds the byte 0xE9",
    ],
    ["a quote that never ends", 'a,b\n1,"open\n2,3\n', "opens at line 2 and is never closed"],
  ])("when it is %s, then the whole file is refused and told why", async (_, content, expected) => {
    expect(await refused(content)).toContain(expected);
  });

  it("when one line never ends, then it is refused long before memory is", async () => {
    const line = Buffer.alloc(12 << 20, "a");
    expect(await refused(Buffer.concat([Buffer.from('a\n"'), line]))).toContain(
      "longer than 4194304 characters",
    );
  });

  it("when two columns have one name, then both are named as a spreadsheet names them", async () => {
    const table = await readAll("sku,Price,sku\n1,2,3\n");
    expect(() => refuseRepeatedColumns(table)).toThrow("repeated-column");
  });
});

describe("the reader beside others' parsers and files", () => {
  const require = createRequire(import.meta.url);
  const spectrum = join(dirname(require.resolve("csv-spectrum")), "csvs");
  // One of the set's files is not UTF-8 on purpose: it belongs to the encodings above.
  const files = readdirSync(spectrum).filter(
    (name) => name.endsWith(".csv") && isUtf8(readFileSync(join(spectrum, name))),
  );

  it.each(files)(
    "when %s of the public edge cases is read, then it reads as csv-parse reads it",
    async (name) => {
      const bytes = readFileSync(join(spectrum, name));
      const expected = parse(bytes, {
        bom: true,
        skip_empty_lines: true,
        relax_column_count: true,
        relax_quotes: true,
      }) as string[][];
      const { header, rows } = await readAll(bytes);
      expect([header, ...rows.map(({ cells }) => cells)]).toEqual(
        expected.map((cells, i) => (i === 0 ? cells.map((cell) => cell.trim()) : cells)),
      );
    },
  );

  it("when any table is written and read, then our reader and csv-parse see the same cells", async () => {
    const cell = fc.string({ unit: fc.constantFrom("a", "é", '"', ",", "\n", " ", ";", "1", "🐝") });
    const table = fc.array(fc.array(cell, { minLength: 3, maxLength: 3 }), { minLength: 1, maxLength: 6 });
    await fc.assert(
      fc.asyncProperty(table, async (rows) => {
        const kept = rows.map((cells) => cells.map((text, i) => (i === 0 ? `x${text}` : text)));
        const content = csvLine(["one", "two", "three"]) + kept.map(csvLine).join("");
        const { rows: read } = await readAll(content, { delimiter: "," });
        expect(read.map(({ cells }) => cells)).toEqual(kept);
        expect(parse(content).slice(1)).toEqual(kept);
      }),
      { numRuns: 60 },
    );
  });

  it("when every cell of any table stands in quotes, then its mark is found and the quotes are no part of the cells", async () => {
    const cell = fc.string({ unit: fc.constantFrom("a", "é", '"', ",", ";", "|", "\t", " ", "1") });
    const row = fc.tuple(cell, cell, cell);
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(",", ";", "\t", "|"),
        fc.array(row, { minLength: 1, maxLength: 4 }),
        async (mark, rows) => {
          const kept = rows.map(([first, ...others]) => [`x${first}`, ...others]);
          const line = (cells: readonly string[]): string =>
            cells.map((text) => `"${text.replaceAll('"', '""')}"`).join(mark);
          const content = [["one", "two", "three"], ...kept].map(line).join("\n");
          const { header, rows: found } = await readAll(content);
          expect([header, found.map(({ cells }) => cells)]).toEqual([["one", "two", "three"], kept]);
        },
      ),
      { numRuns: 60 },
    );
  });

  it("when any bytes are read, then reading ends with rows or a refusal", async () => {
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ maxLength: 400 }), async (bytes) => {
        await refused(Buffer.from(bytes));
      }),
      { numRuns: 100 },
    );
  });
});

describe("writing CSV for spreadsheets", () => {
  it("when a cell would run as a formula, then an apostrophe keeps it a text", () => {
    expect(csvLine(["=1+1", "+44", "@x", "-3.5", "-a", "fine"])).toBe("'=1+1,'+44,'@x,-3.5,'-a,fine\n");
  });
});
