import Database from "better-sqlite3";
import fc from "fast-check";
import { readdirSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { describe, expect, it } from "vitest";
import { emptyShop, smallShop } from "../kit/demo-shop.js";
import { runs } from "../kit/runs.js";
import { copyOf, lexicant, lexicantProcess, read, write } from "../kit/run.js";

/** All that the catalogue holds, but the times. */
const held = (shop: string): readonly unknown[] => {
  const store = new Database(join(shop, ".lexicant", "store.db"), { readonly: true });
  const tables = ["record", "product", "family", "key_value", "attribute"];
  const found = tables.map((table) => store.prepare(`SELECT * FROM ${table}`).all());
  const revisions = store
    .prepare("SELECT id, layer, file, columns, counts, same, touched FROM revision")
    .all();
  store.close();
  return [...found, revisions];
};

const rejectedIn = (shop: string): readonly string[] =>
  readdirSync(join(shop, "out"), { recursive: true })
    .map(String)
    .filter((name) => name.endsWith(".csv") && name.includes("rejected"))
    .sort()
    .map((name) => `${name}\n${read(shop, join("out", name))}`);

/** How a file is delivered again and again: what is said, what the catalogue holds, and what was set aside. */
const delivered = (shop: string, workers: number, files: readonly string[]): unknown => {
  const own = copyOf(shop);
  return files.map((rows) => {
    write(own, "data/kit.csv", rows);
    const spread = ["--workers", String(workers)];
    const { exit, out, err } = lexicant(own, [
      "import",
      "data/kit.csv",
      "--source",
      "kit",
      "--json",
      ...spread,
    ]);
    return { exit, out, err, held: held(own), rejected: rejectedIn(own) };
  });
};

/** Rows that stand for themselves, have values beside their names, or belong to groups in either way. */
const sources = [
  "further_rows: images\n",
  "options:\n  - {name: option, value: chosen}\ngroups: {layout: rows}\n",
  "pairs:\n  - {name: option, value: chosen}\n  - {name: option, value: name}\n",
  "groups:\n  layout: own-row\n  when: is_blank(price)\n",
  "groups:\n  layout: first-row\n  shared: [name, images]\n",
];
const usual =
  "layer: shop\ncurrency: GBP\nclear_word: (none)\ncolumns:\n  sku: sku\n  group: family\n  name: name\n  price: price\n  size: size\n  images: images\n";

const header = "sku,family,name,price,size,images,option,chosen";

const cells = fc.tuple(
  fc.constantFrom("K-1", "K-2", "K-3", "K-4", "K-5", "Total", "1.2E+05", ""),
  fc.constantFrom("", "F-1", "F-2"),
  fc.constantFrom("Kneeler", " Kneeler ", "M\u00fcller's kneeler", "K\ufffdeler", "n/a", ""),
  fc.constantFrom("5.00", "6,50", "many", "", "#REF!"),
  fc.constantFrom("10-Dec", "10-12", "L", "(none)", ""),
  fc.constantFrom("https://brindlecote.example/k.jpg", "https://brindlecote.example/1.jpg", ""),
  fc.constantFrom("Colour", "Länge", ""),
  fc.constantFrom("green", "2 m", ""),
);

const line = cells.map((row) => row.map((cell) => (cell.includes(",") ? `"${cell}"` : cell)).join(","));
/** Rows that cannot be rows, among those that are. */
const lines = fc.array(
  fc.oneof(
    { weight: 12, arbitrary: line },
    { weight: 1, arbitrary: fc.constantFrom("K-9,F-1", 'K-9,"a"b,c', header) },
  ),
  { minLength: 2, maxLength: 9 },
);
const file = lines.map((rows) => [header, ...rows].join("\r\n"));

/** Rows that come just so again are not read again, whoever reads. */
const plainly = [1, 2, 3, 4].map((at) => `K-${at},,Kneeler,5.00,L,,,`);
const again: [string, string, string] = [
  sources[0] ?? "",
  [header, ...plainly].join("\n"),
  [header, ...plainly.slice(1), "K-9,,Kneeler,5.00,L,,,", ...plainly].join("\n"),
];

describe("a file that another thread reads", () => {
  it("when any rows come by any source, then the same is told, kept and set aside as by one thread", () =>
    fc.assert(
      fc.property(fc.constantFrom(...sources), file, file, (rules, first, second) => {
        const shop = smallShop();
        write(shop, "sources/kit.yaml", `${rules}${usual}`);
        const deliveries = [first, second, second];
        expect(delivered(shop, 2, deliveries)).toEqual(delivered(shop, 1, deliveries));
      }),
      { numRuns: runs(1, 40), endOnFailure: true, examples: [again] },
    ));

  it("when a file has no quote at its end, then it is refused as by one thread, and nothing is there", () => {
    const shop = smallShop();
    write(shop, "data/kit.csv", `${header}\n${"K-1,,Kneeler,5.00,,,,\n".repeat(2000)}K-2,,"Kneeler,5.00`);
    const before = held(shop);
    const [alone, beside] = ["1", "2"].map((workers) =>
      lexicant(shop, ["import", "data/kit.csv", "--accept", "--workers", workers]),
    );
    expect(beside).toEqual(alone);
    expect([beside?.exit, beside?.err]).toEqual([2, expect.stringContaining("quote")]);
    expect(held(shop)).toEqual(before);
  });

  it("when another file stands there by the time it is read, then it is refused, and nothing is there", () => {
    const shop = emptyShop();
    const file = write(shop, "kit.csv", [header, "K-1,,Kneeler,5.00,,,,"].join("\n"));
    const hook = fileURLToPath(new URL("../kit/change-file.mjs", import.meta.url));
    const { exit, err } = lexicantProcess(shop, ["import", "kit.csv", "--accept", "--workers", "2"], {
      env: { NODE_OPTIONS: `--import ${hook}`, LEXICANT_CHANGED_FILE: file },
    });
    expect([exit, err.replace(/\s+/g, " ")]).toEqual([
      3,
      expect.stringContaining("changed while it was read"),
    ]);
    expect(held(shop)[1]).toEqual([]);
  });

  it("when the thread ends before its file does, then nothing is there, and the next import brings it", () => {
    const shop = emptyShop();
    const rows = Array.from({ length: 40 }, (_, at) => `K-${at},,Kneeler ${at} for long days,5.00,,,,`);
    write(shop, "kit.csv", [header, ...rows].join("\n"));
    const hook = fileURLToPath(new URL("../kit/end-worker.mjs", import.meta.url));
    const importing = ["import", "kit.csv", "--accept", "--workers", "2"];
    const { exit, err } = lexicantProcess(shop, importing, { env: { NODE_OPTIONS: `--import ${hook}` } });
    expect([exit, err.replace(/\s+/g, " ")]).toEqual([
      3,
      expect.stringContaining("ended before it was done"),
    ]);
    expect(held(shop)[1]).toEqual([]);
    expect(lexicant(shop, importing).exit).toBe(0);
    expect(held(shop)[1]).toHaveLength(40);
  });
});
