import { parse } from "csv-parse/sync";
import fc from "fast-check";
import iconv from "iconv-lite";
import { describe, expect, it } from "vitest";
import { editedTable } from "../../src/workspace/edit-table.js";

const columns = ["our_category", "sku", "channel_category"];

const edited = async (text: string, ...edits: readonly Readonly<Record<string, string>>[]) => {
  const bytes = editedTable(Buffer.from(text), { columns, keys: ["our_category", "sku"], edits });
  return Promise.resolve(bytes.toString());
};

describe("editing a decision table", () => {
  it("when a row is there, then it is changed in its place, and what stands beside it stays", async () => {
    const text = 'our_category,note,sku,channel_category\n# tools,,,\nTools,"a, b",,OLD\nSeeds,,,S1\n';
    expect(await edited(text, { our_category: "Tools", sku: "", channel_category: "NEW" })).toBe(
      'our_category,note,sku,channel_category\n# tools,,,\nTools,"a, b",,NEW\nSeeds,,,S1\n',
    );
  });

  it("when a column or the last line's end is missing, then it is added", async () => {
    expect(
      await edited("our_category,channel_category\nTools,T1", {
        our_category: "Tools",
        sku: "A-1",
        channel_category: "T2",
      }),
    ).toBe("our_category,channel_category,sku\nTools,T1\nTools,T2,A-1\n");
  });

  it("when a comment looks like a row of that key, then it is no row", async () => {
    const text = "our_category,sku,channel_category\n#Tools,,T0\n";
    expect(await edited(text, { our_category: "#Tools", sku: "", channel_category: "T1" })).toContain(
      "#Tools,,T0\n",
    );
  });

  const cell = fc.stringMatching(/^[a-zA-Z0-9 ,"'äß>-]{0,12}$/).map((text) => text.trim());
  const key = fc.stringMatching(/^[a-zA-Z][a-zA-Z ,">]{0,10}$/).map((text) => text.trim());

  it("when any table is edited, then others read the edit, and every other row is as it was", async () => {
    const quoted = (text: string) => `"${text.replaceAll('"', '""')}"`;
    await fc.assert(
      fc.asyncProperty(
        fc.uniqueArray(fc.tuple(key, cell, cell), { minLength: 1, maxLength: 8, selector: ([name]) => name }),
        fc.nat(),
        cell,
        async (rows, which, value) => {
          const [name] = rows[which % rows.length] ?? [""];
          const text = [
            "our_category,sku,channel_category,note",
            "# mine,,,",
            ...rows.map(([own, to, note]) => [own, "", to, note].map(quoted).join(",")),
          ].join("\n");
          const after = await edited(`${text}\n`, { our_category: name, sku: "", channel_category: value });
          const written = (text: string) => (/^[=+@]|^-(?![\d.,]+$)/.test(text) ? `'${text}` : text);
          const read = parse(after, { columns: true, trim: true }) as readonly Record<string, string>[];
          expect(read.slice(1)).toEqual(
            rows.map(([own, to, note]) => ({
              our_category: own,
              sku: "",
              channel_category: own === name ? written(value) : to,
              note,
            })),
          );
          const others = (all: string) => all.split("\n").filter((line) => !line.startsWith(quoted(name)));
          expect(after).toContain("# mine,,,\n");
          for (const line of others(text)) expect(after).toContain(line);
        },
      ),
    );
  });
});

describe("a table as a spreadsheet saved it", () => {
  const forms = fc.record({
    delimiter: fc.constantFrom(",", ";", "\t"),
    lineEnd: fc.constantFrom("\n", "\r\n", "\r"),
    encoding: fc.constantFrom("utf-8", "utf-8 marked", "utf-16le marked", "utf-16be marked", "windows-1252"),
  });
  const words = fc.constantFrom(
    "Bienenkästen",
    "Räucher; Zubehör",
    'the 5" pots',
    "Tools, big",
    "Crème",
    "plain",
  );

  const encode = (text: string, encoding: string): Buffer => {
    const [name = "", marked] = encoding.split(" ");
    return iconv.encode(text, name, { addBOM: marked !== undefined });
  };

  /** Another's reading: the encoding is known here, and csv-parse does the rest. */
  const rowsIn = (bytes: Buffer, encoding: string, delimiter: string, lineEnd: string) =>
    parse(iconv.decode(bytes, encoding.split(" ")[0] ?? ""), {
      delimiter,
      record_delimiter: lineEnd,
      bom: true,
      relax_quotes: true,
      relax_column_count: true,
    }) as unknown as readonly (readonly string[])[];

  it("when a row is set in any form, then every other row keeps its bytes, and the new one is written in that form", () => {
    fc.assert(
      fc.property(
        forms,
        fc.uniqueArray(words, { minLength: 1, maxLength: 4 }),
        words,
        fc.boolean(),
        ({ delimiter, lineEnd, encoding }, names, added, endsWithLine) => {
          const cell = (text: string): string =>
            text.includes(delimiter) || text.includes('"') ? `"${text.replaceAll('"', '""')}"` : text;
          const line = (...cells: readonly string[]): string => cells.map(cell).join(delimiter);
          const rows = [
            line("our_category", "sku", "channel_category", "Notiz"),
            // A quote inside of a comment is only a quote.
            `# the 5" pots are "open"${delimiter}${delimiter}${delimiter}`,
            ...names.map((name, index) => line(name, "", `C${index}`, "für später")),
          ];
          const text = rows.join(lineEnd) + (endsWithLine ? lineEnd : "");
          const edit = { our_category: added, sku: "", channel_category: "NEW" };
          const bytes = editedTable(encode(text, encoding), {
            columns,
            keys: ["our_category", "sku"],
            edits: [edit],
          });
          const expected = names.map((name, index) => [
            name,
            "",
            name === added ? "NEW" : `C${index}`,
            "für später",
          ]);
          if (!names.includes(added)) expected.push([added, "", "NEW", ""]);
          expect(rowsIn(bytes, encoding, delimiter, lineEnd).slice(2)).toEqual(expected);
          const kept = rows.filter((_, index) => index < 2 || names[index - 2] !== added).join(lineEnd);
          if (!names.includes(added)) expect(bytes.includes(encode(kept, encoding))).toBe(true);
        },
      ),
      { numRuns: 300 },
    );
  });

  it("when the encoding has no sign for a letter, then the whole table goes on in UTF-8, which says so itself", () => {
    const before = iconv.encode("our_category;sku;channel_category\r\nKästen;;C1\r\n", "windows-1252");
    const after = editedTable(before, {
      columns,
      keys: ["our_category", "sku"],
      edits: [{ our_category: "Méhkas ű", sku: "", channel_category: "C2" }],
    });
    expect(after.toString()).toBe(
      "\ufeffour_category;sku;channel_category\r\nKästen;;C1\r\nMéhkas ű;;C2\r\n",
    );
  });
});
