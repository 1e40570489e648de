import { parse } from "csv-parse/sync";
import fc from "fast-check";
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
