import { readFileSync } from "node:fs";
import { join } from "node:path";
import Database from "better-sqlite3";
import { parse } from "csv-parse/sync";
import { describe, expect, it } from "vitest";
import { csvLine } from "../../src/formats/csv-writer.js";
import { smallShop, emptyShop } from "../kit/demo-shop.js";
import { gtinOf } from "../kit/goods.js";
import { lexicant, read, write } from "../kit/run.js";

type Cells = Readonly<Record<string, string>>;

/** Ends with the program's own exit code, whatever its reader did. */
const readBy = (reader: string): string => `"$0" "$@" | ${reader}; exit \${PIPESTATUS[0]}`;

const rows = (count: number): string =>
  Array.from({ length: count }, (_, index) => `G-${index},Gadget,abc\n`).join("");

describe("an answer whose reader goes away", () => {
  it("when an import has no reader any more, then it lands whole all the same, and the end says so", () => {
    const shop = emptyShop();
    write(
      shop,
      "sources/goods.yaml",
      "layer: goods\nkey: sku\ncolumns:\n  sku: SKU\n  name: Name\n  price: Price\n",
    );
    write(shop, "goods.csv", `SKU,Name,Price\n${rows(4000)}`);
    write(
      shop,
      "lexicant.yaml",
      readFileSync(join(shop, "lexicant.yaml"), "utf8").replace(/layers:.*/, "layers: [goods]"),
    );
    // Each row has a finding, which are far more than a pipe holds.
    expect(lexicant(shop, ["import", "goods.csv", "--json"], { shell: readBy("head -1") })).toMatchObject({
      ...{ exit: 141, err: "" },
    });
    expect(lexicant(shop, ["list", "--limit", "1"]).err).toContain("4,000 products");
  });

  it("when the work stands already, then it stands, and the end says that nobody read of it", () => {
    const shop = smallShop();
    expect(
      lexicant(shop, ["set", "BC-1402", "name=Smoker", "--json"], { shell: readBy("exec true") }).exit,
    ).toBe(141);
    expect(lexicant(shop, ["show", "BC-1402"]).out).toContain("Smoker");
  });

  it("when two channels are built and nobody reads, then both are published", () => {
    const shop = smallShop();
    expect(
      lexicant(shop, ["build", "lanternlist", "chatterquay"], { shell: `"$0" "$@" | true; exit 0` }).exit,
    ).toBe(0);
    for (const file of ["lanternlist/lanternlist.tsv", "chatterquay/chatterquay.csv"])
      expect(read(shop, `out/${file}`).length).toBeGreaterThan(1000);
    for (const channel of ["lanternlist", "chatterquay"])
      expect(lexicant(shop, ["sent", channel, "--dry-run"]).exit).toBe(0);
  });

  it("when the answer cannot be written, then that is told in a sentence", () => {
    const { exit, err } = lexicant(smallShop(), ["list", "--json"], { shell: '"$0" "$@" > /dev/full' });
    expect(exit).toBe(3);
    expect(err).toBe("error    the answer could not be written: ENOSPC; what had landed stands\n");
  });
});

const ledgerRows = (shop: string): number => {
  const database = new Database(join(shop, ".lexicant/store.db"), { readonly: true });
  try {
    return database.prepare("SELECT count(*) FROM ledger").pluck().get() as number;
  } finally {
    database.close();
  }
};

describe("a dry run of a build", () => {
  it("when it is of more listings than are noted at once, then the ledger has nothing of it", () => {
    const shop = smallShop();
    const exported = parse(read(shop, "data/shop-export.csv"), { columns: true, bom: true }) as Cells[];
    const brush = exported.find((row) => row["Article no"] === "BC-1402") ?? {};
    const columns = Object.keys(brush);
    const many = Array.from({ length: 10_400 }, (_, index): Cells => ({
      ...brush,
      ...{ "Article no": `Z-${index}`, Title: `Bee brush number ${index}`, Barcode: gtinOf(50_000 + index) },
    }));
    const lines = many.map((row) => csvLine(columns.map((column) => row[column] ?? "")));
    write(shop, "many.csv", csvLine(columns) + lines.join(""));
    expect(lexicant(shop, ["import", "many.csv", "--source", "shop-export"])).toMatchObject({ exit: 0 });
    const { out } = lexicant(shop, ["build", "lanternlist", "--dry-run", "--json"]);
    expect((JSON.parse(out) as { readonly written: number }).written).toBeGreaterThan(10_000);
    expect(ledgerRows(shop)).toBe(0);
  });
});
