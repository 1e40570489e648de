import { existsSync } from "node:fs";
import { parse } from "csv-parse/sync";
import { describe, expect, it } from "vitest";
import { demoShop } from "../kit/demo-shop.js";
import { copyOf, jsonLines, lexicant, read, write } from "../kit/run.js";

const sentShop = demoShop();
lexicant(sentShop, ["build", "fjordhandel"]);
lexicant(sentShop, ["sent", "fjordhandel"]);

const rowsIn = (shop: string, file: string): Record<string, string>[] =>
  parse(read(shop, `out/fjordhandel/${file}`), { columns: true, delimiter: ";" });

const build = (shop: string, ...args: readonly string[]) => lexicant(shop, ["build", "fjordhandel", ...args]);

describe("after a channel was sent everything", () => {
  it("when one price changes, then diff tells it, and an amend file holds just that", () => {
    const shop = copyOf(sentShop);
    expect(lexicant(shop, ["diff", "fjordhandel"]).out).toContain("a full build holds what was sent");
    lexicant(shop, ["set", "BC-1402", "price=8.95"]);
    const { out } = lexicant(shop, ["diff", "fjordhandel"]);
    expect(out).toContain("1 changed, 0 new, 0 not in it any more");
    expect(out).toMatch(/^BC-1402 +price_eur +8\.95 EUR +11\.95 EUR$/m);
    expect(build(shop, "--purpose", "amend").exit).toBe(0);
    const [row, ...others] = rowsIn(shop, "fjordhandel-amend.csv");
    expect(others).toEqual([]);
    expect(Object.entries(row ?? {}).filter(([, text]) => text !== "")).toEqual([
      ["todo", "change"],
      ["row_kind", "member"],
      ["stock_no", "BC-1402"],
      ["price_eur", "11,95"],
      ["price_sek", "120"],
      ["price_nok", "130"],
    ]);
    expect(build(shop, "--changed").out).toContain("1 listing written");
    lexicant(shop, ["sent", "fjordhandel"]);
    expect(lexicant(shop, ["diff", "fjordhandel"]).out).toContain("a full build holds what was sent");
  });

  it("when stock and offers are built, then they have the columns that the channel lets in, for what was chosen", () => {
    const shop = copyOf(sentShop);
    build(shop, "--purpose", "stock", "--category", "Candles");
    const rows = rowsIn(shop, "fjordhandel-stock.csv");
    expect(Object.keys(rows[0] ?? {})).toEqual(["todo", "row_kind", "stock_no", "in_stock"]);
    expect(rows.length).toBeGreaterThan(0);
    expect(rows.length).toBeLessThan(15);
    build(shop, "--purpose", "offer", "--sku", "BC-1402,BC-1301-WHITE-M");
    expect(rowsIn(shop, "fjordhandel-offer.csv").map(({ stock_no }) => stock_no)).toEqual([
      "BC-1301-WHITE-M",
      "BC-1402",
    ]);
    expect(build(shop, "--purpose", "amend", "--only", "colur").err).toContain('nearest: "colour"');
    expect(lexicant(shop, ["build", "lanternlist", "--purpose", "stock"])).toMatchObject({ exit: 2 });
  });

  it("when products left the selection, then they are withdrawn; many at once only when a person says so", () => {
    const shop = copyOf(sentShop);
    const file = "channels/fjordhandel/channel.yaml";
    const text = read(shop, file);
    const without = (category: string) =>
      write(
        shop,
        file,
        text.replace(/^select: .*/m, `select: status = "on sale" and not category under "${category}"`),
      );
    without("Seeds > Vegetables");
    expect(build(shop, "--purpose", "withdraw").out).toContain("withdraw: 8 listings written");
    expect(
      rowsIn(shop, "fjordhandel-withdraw.csv").every(
        ({ todo, stock_no }) => todo === "remove" && stock_no?.startsWith("BC-21"),
      ),
    ).toBe(true);
    without("Beekeeping");
    const many = build(shop, "--purpose", "withdraw");
    expect([many.exit, many.err]).toEqual([2, expect.stringContaining("more than 10%")]);
    expect(build(shop, "--purpose", "withdraw", "--yes").exit).toBe(0);
    lexicant(shop, ["sent", "fjordhandel"]);
    expect(lexicant(shop, ["ledger", "fjordhandel"]).out).toMatch(/^Fjordhandel: .*withdrawn/);
    expect(jsonLines(lexicant(shop, ["ledger", "fjordhandel", "BC-1402", "--json"]).out)[0]).toMatchObject({
      sku: "BC-1402",
      purpose: "withdraw",
      listing: { withdrawn: true },
    });
    expect(build(shop, "--purpose", "withdraw", "--sku", "BC-1402").err).toContain('no product "BC-1402"');
  });

  it("when it is a dry run or a trial of a few, then that is what happens", () => {
    const shop = copyOf(sentShop);
    const { out } = build(shop, "--dry-run", "--limit", "3", "--out-folder", "trial");
    expect(out).toMatch(/full: \d+ listings would be written; nothing was/);
    expect(existsSync(`${shop}/trial`)).toBe(false);
    build(shop, "--limit", "1", "--out-folder", "trial");
    const rows: Record<string, string>[] = parse(
      read(shop, "trial/fjordhandel/chosen/fjordhandel-chosen.csv"),
      {
        columns: true,
        delimiter: ";",
      },
    );
    expect(rows.length).toBeGreaterThan(0);
    expect(new Set(rows.map(({ family_no }) => family_no)).size).toBe(1);
    expect(lexicant(shop, ["ledger", "merrowgate"]).out).toContain("nothing was sent yet");
    expect(lexicant(shop, ["ledger", "fjordhandel", "BC-9999"]).err).toContain("BC-9");
  });

  it("when a result report refused some, then those that are mended since go again, by the channel's own references", () => {
    const shop = copyOf(sentShop);
    // Fjordhandel knows a point in a SKU as a dash.
    write(
      shop,
      "report.csv",
      "stock_no,result,reason_no,reason_en\nBC-1402,refused,7,no price\nBC-1601,Done,,\nBC-1203,held back,9,picture\nBC-5203,refused,1,weight\n",
    );
    const { exit, out } = build(shop, "--failed", "report.csv");
    expect([exit, out]).toEqual([0, expect.stringContaining("full: 2 listings written")]);
    expect(out).toContain("not in it: 1 held");
    expect(rowsIn(shop, "chosen/fjordhandel-chosen.csv").map(({ stock_no }) => stock_no)).toEqual([
      "BC-1203",
      "BC-1402",
    ]);
    lexicant(shop, ["build", "gavelstead"]);
    write(
      shop,
      "report.xml",
      '<hall xmlns="https://gavelstead.example/hall/26"><lot><number>BC-1402</number><verdict>turned away</verdict></lot><lot><number>BC-1203</number><verdict>on show</verdict></lot></hall>',
    );
    expect(lexicant(shop, ["build", "gavelstead", "--failed", "report.xml"]).out).toContain(
      "full: 1 listing written",
    );
    expect(lexicant(shop, ["build", "--failed", "report.xml"]).err).toContain("name that channel");
    expect(lexicant(shop, ["build", "fjordhandel", "--failed", "none.csv"])).toMatchObject({ exit: 2 });
    write(shop, "other.csv", "sku,state\na,b\n");
    expect(build(shop, "--failed", "other.csv").err).toContain("stock_no");
  });
});
