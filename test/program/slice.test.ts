import { spawnSync } from "node:child_process";
import { createReadStream, existsSync, readdirSync } from "node:fs";
import { join } from "node:path";
import FeedParser from "feedparser";
import { describe, expect, it } from "vitest";
import { smallShop, emptyShop } from "../kit/demo-shop.js";
import { copyOf, jsonLines, lexicant, read, write } from "../kit/run.js";

const items = (path: string): Promise<readonly FeedParser.Item[]> =>
  new Promise((resolve, reject) => {
    const found: FeedParser.Item[] = [];
    const parser = new FeedParser({});
    parser.on("error", reject);
    parser.on("data", (item: FeedParser.Item) => found.push(item));
    parser.on("end", () => resolve(found));
    createReadStream(path).on("error", reject).pipe(parser);
  });

describe("from the demo shop to Lanternlist's files", () => {
  const shop = smallShop();

  it("when the shop is checked, then ready, held and left out are counted and each cause says what to do", () => {
    const { exit, out } = lexicant(shop, ["check", "lanternlist", "--all"]);
    expect(exit).toBe(1);
    expect(out).toMatch(/^Lanternlist 2026\.1: \d+ ready, \d+ held, \d+ left out/);
    expect(out).toContain("channels/lanternlist/fills.yaml");
    const lines = jsonLines(lexicant(shop, ["check", "lanternlist", "--json"]).out);
    const summary = lines.at(-1);
    const held = new Set(
      lines
        .filter(({ type, severity }) => type === "finding" && severity === "error")
        .map(({ product }) => product),
    );
    expect(summary).toMatchObject({ type: "checked-channel", channel: "lanternlist", held: held.size });
  });

  it("when it is built twice, then other programs read the feed and both builds have the same bytes", async () => {
    const { exit, out } = lexicant(shop, ["build"]);
    expect(exit).toBe(0);
    expect(out).toContain("written to");
    const folder = join(shop, "out", "lanternlist");
    const feed = readdirSync(folder).find((name) => name.endsWith(".xml")) ?? "";
    const linted = spawnSync("xmllint", ["--noout", join(folder, feed)], { encoding: "utf8" });
    expect([linted.status, linted.stderr]).toEqual([0, ""]);
    const record = JSON.parse(read(folder, "build.json")) as {
      counts: { ready: number; held: number; leftOut: number };
      notSent: { sku: string; because: unknown[] }[];
    };
    const parsed = await items(join(folder, feed));
    expect(parsed).toHaveLength(record.counts.ready);
    expect(record.notSent).toHaveLength(record.counts.held + record.counts.leftOut);
    expect(record.notSent.every(({ because }) => because.length > 0)).toBe(true);
    expect(new Set(parsed.map(({ title }) => title)).size).toBe(parsed.length);
    const again = copyOf(shop);
    lexicant(again, ["build"]);
    for (const name of readdirSync(folder))
      expect(read(again, `out/lanternlist/${name}`), name).toBe(read(folder, name));
  });

  it("when a dry run is asked for, then nothing is written", () => {
    const { out } = lexicant(shop, ["build", "--dry-run", "--out-folder", "elsewhere"]);
    expect(out).toContain("would be written");
    expect(existsSync(join(shop, "elsewhere"))).toBe(false);
  });

  it("when a product is shown, then each value names its file, row and column", () => {
    const { exit, out } = lexicant(shop, ["show", "BC-1301-WHITE-M", "--json"]);
    expect(exit).toBe(0);
    const [product] = jsonLines(out);
    expect(product).toMatchObject({ sku: "BC-1301-WHITE-M" });
    const from = product?.["from"] as Record<string, { layer: string; row: number }>;
    expect(from["price"]?.row).toBeGreaterThan(1);
  });

  it("when products are listed by a condition, then only those that meet it are shown", () => {
    const { out } = lexicant(shop, ["list", "--json", "--where", 'category under "Seeds" and quantity > 0']);
    const found = jsonLines(out);
    expect(found.length).toBeGreaterThan(5);
    expect(JSON.stringify(found)).not.toContain("Beekeeping");
  });

  it("when channels are listed, then each has its version and counts", () => {
    const all = jsonLines(lexicant(shop, ["channels", "--json"]).out);
    const channel = all.find((one) => one["channel"] === "lanternlist");
    expect(channel).toMatchObject({ inUse: true });
    expect(all.filter(({ inUse }) => inUse === false)).toMatchObject([{ channel: "storefront" }]);
    expect(Number(channel?.["categories"])).toBeGreaterThanOrEqual(150);
  });
});

describe("a shop of one's own", () => {
  it("when a clerk begins with a CSV, then it is imported, placed by one row, checked and built", () => {
    const shop = emptyShop("--channel", "lanternlist");
    write(
      shop,
      "stock.csv",
      "Item,Product name,Price,Qty,Category,Brand,Part no,Photo,Link,Weight kg,Text\n" +
        "S-1,Oak Stool,49.00,3,Seating,Hollinside,OS-1,https://shop.example/1.jpg,https://shop.example/1,4.2,A stool of oak with three legs that stands on any floor.\n",
    );
    const imported = lexicant(shop, ["import", "stock.csv", "--accept"]);
    expect([imported.exit, imported.err]).toEqual([0, ""]);
    expect(existsSync(join(shop, "sources", "stock.yaml"))).toBe(true);
    const before = lexicant(shop, ["check", "lanternlist", "--all"]);
    expect(before.exit).toBe(1);
    expect(before.out).toContain('"Seating" has no place on the channel');
    const [code] = read(shop, "../shop/channels/lanternlist/placements.csv").split("\n");
    expect(code).toContain("our_category");
  });
});
