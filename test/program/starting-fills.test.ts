/** What a channel begins with: no facts that nobody said, its own language, the shop's address; and rows that place nothing. */
import { describe, expect, it } from "vitest";
import { parse } from "yaml";
import { emptyShop } from "../kit/demo-shop.js";
import { sayFacts } from "../kit/facts.js";
import { jsonLines, lexicant, read, write } from "../kit/run.js";

const fillsOf = (shop: string, channel: string): Readonly<Record<string, string>> =>
  (parse(read(shop, `channels/${channel}/fills.yaml`)) as { all: Record<string, string> }).all;

const shipped = ["chatterquay", "fjordhandel", "gavelstead", "lanternlist", "merrowgate", "storefront"];

const withGoods = (header: string, row: string): string => {
  const shop = emptyShop("--language", "de");
  write(shop, "goods.csv", `${header}\n${row}\n`);
  expect(lexicant(shop, ["import", "goods.csv", "--accept"]).exit).toBe(0);
  return shop;
};

describe("fills to begin with", () => {
  it.each(shipped)("when %s is taken into use, then no fill gives a blank product a fact", (channel) => {
    const shop = withGoods("sku,name", "F-1,Glocke");
    lexicant(shop, ["channels", "add", channel]);
    for (const [code, fill] of Object.entries(fillsOf(shop, channel))) {
      const [line] = jsonLines(
        lexicant(shop, ["try", fill, "--channel", channel, "--sku", "F-1", "--json"]).out,
      );
      const value = String(line?.["value"] ?? "");
      // What the channel itself takes a blank for, and that nothing is in stock, is said of the shop by nobody.
      const isOfName = /Glocke|F-1/.test(value);
      expect([code, value, isOfName || isOfStock(fill) || value === ""]).toEqual([code, value, true]);
    }
  });

  const isOfStock = (fill: string): boolean =>
    /quantity|sale_price|package_weight or weight|group_values\(isbn\)|^"?standing price"?$/.test(fill);

  it("when a person says yes to what is asked, then the file still reads, and the facts are there", () => {
    const shop = withGoods("sku,name", "F-1,Glocke");
    lexicant(shop, ["channels", "add", "gavelstead"]);
    expect(fillsOf(shop, "gavelstead")["state"]).toBe("condition");
    expect(fillsOf(shop, "gavelstead")).not.toHaveProperty("return_days");
    sayFacts(shop, "gavelstead");
    expect(fillsOf(shop, "gavelstead")).toMatchObject({ state: 'condition or "new"', return_days: 21 });
    expect(lexicant(shop, ["fills", "gavelstead"]).exit).toBe(0);
  });

  it("when the channel speaks another language, then its fills take the texts in it, or say that there are none", () => {
    const has = withGoods("sku,name,name@en,description", "F-1,Glocke,Bell,Klingt");
    lexicant(has, ["channels", "add", "lanternlist"]);
    expect(fillsOf(has, "lanternlist")["headline"]).toMatch(/name@en/);
    expect(fillsOf(has, "lanternlist")["words"]).toBe("plain(description)");
    expect(read(has, "channels/lanternlist/fills.yaml")).toMatch(
      /Words: the channel's language is en, and the catalogue has no words in it: these are de/,
    );
  });

  it("when products say where their pages are, then the channel's files show the shop's address; else it is asked", () => {
    const says = withGoods("sku,name,url", "F-1,Glocke,https://brindlecote.example/goods/f-1");
    lexicant(says, ["channels", "add", "lanternlist"]);
    expect(read(says, "channels/lanternlist/channel.yaml")).toContain(
      "shop_url: https://brindlecote.example/\n",
    );
    const silent = withGoods("sku,name", "F-1,Glocke");
    lexicant(silent, ["channels", "add", "lanternlist"]);
    expect(parse(read(silent, "channels/lanternlist/channel.yaml"))).not.toHaveProperty("account");
  });

  it("when members differ in what is no colour and no size, then their titles do too, and none has another's pictures", () => {
    const picture = (name: string): string => `https://brindlecote.example/${name}.jpg`;
    const shop = withGoods(
      "sku,group,varies_by,name,pitch,category,images",
      `F-1,F,pitch,Glocke,c,Klang,${picture("c")}\nF-2,F,pitch,Glocke,g,Klang,${picture("g")}`,
    );
    lexicant(shop, ["channels", "add", "lanternlist"]);
    write(
      shop,
      "channels/lanternlist/placements.csv",
      "our_category,channel_category\nKlang,garden.handtools.digging\n",
    );
    const of = (sku: string, code: string): string =>
      lexicant(shop, [
        ...[
          "try",
          fillsOf(shop, "lanternlist")[code] ?? "",
          "--channel",
          "lanternlist",
          "--sku",
          sku,
          "--json",
        ],
      ]).out;
    expect([of("F-1", "headline"), of("F-2", "headline")]).toEqual([
      expect.stringContaining("Glocke, c"),
      expect.stringContaining("Glocke, g"),
    ]);
    expect(of("F-1", "further_pictures")).toContain(`"value":null`);
  });
});

describe("decisions about what is not there", () => {
  const shop = withGoods("sku,name,category", "F-1,Glocke,Klang > Glocken");
  lexicant(shop, ["channels", "add", "storefront"]);
  const section = "Beekeeping";
  const codes = (words: readonly string[]): readonly string[] =>
    jsonLines(lexicant(shop, [...words, "--json"]).out).flatMap(({ code, facts }) =>
      code === "idle-placement" ? [JSON.stringify(facts)] : [],
    );

  it("when rows place a shelf and a product that the shop does not have, then check and place tell just these", () => {
    const [, code = ""] =
      /\(([\w.-]+)\)|^(\S+)/m.exec(lexicant(shop, ["categories", "storefront", section]).out) ?? [];
    const known = jsonLines(lexicant(shop, ["categories", "storefront", "--json"]).out).find(
      ({ isOpen, open }) => isOpen !== false && open !== false,
    );
    const to = String(known?.["code"] ?? code);
    write(
      shop,
      "channels/storefront/placements.csv",
      `our_category,sku,channel_category\nKlang,,${to}\nKlang > Glokken,,${to}\n,F-1,${to}\n,F-9,${to}\n`,
    );
    for (const words of [
      ["check", "storefront"],
      ["place", "storefront", "--list"],
    ])
      expect([words, codes(words)]).toEqual([
        words,
        [
          JSON.stringify({ ourCategory: "Klang > Glokken", sku: "", nearest: ["Klang > Glocken", "Klang"] }),
          JSON.stringify({ ourCategory: "", sku: "F-9", nearest: [] }),
        ],
      ]);
    // Whoever wants it quiet has the answer alone.
    for (const words of [
      ["check", "storefront"],
      ["place", "storefront", "--list"],
    ]) {
      expect(lexicant(shop, words).err).toContain("F-9");
      expect(lexicant(shop, [...words, "--quiet"]).err).toBe("");
    }
    // Of a part of the goods nothing can be said of the others.
    expect(codes(["check", "storefront", "--category", "Klang"])).toEqual([]);
  });

  it("when some of several --set are wrong, then each is told by itself, and nothing is written", () => {
    const before = read(shop, "channels/storefront/placements.csv");
    const words = ["Klang=nowhere", "Glokken=x", "Klang"].flatMap((text) => ["--set", text]);
    const { exit, err } = lexicant(shop, ["place", "storefront", ...words]);
    expect(exit).toBe(2);
    for (const text of ['--set "Klang=nowhere"', '--set "Glokken=x"', '--set "Klang"'])
      expect(err).toContain(text);
    expect(read(shop, "channels/storefront/placements.csv")).toBe(before);
  });
});
