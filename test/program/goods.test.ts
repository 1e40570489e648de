import { cpSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { emptyShop } from "../kit/demo-shop.js";
import { jsonLines, lexicant, projectRoot, write } from "../kit/run.js";

/** A shop on a channel with goods in its own words, nothing placed yet. */
const shopWith = (channel: string, goods: string): string => {
  const shop = emptyShop("--channel", channel);
  write(shop, "goods.csv", goods);
  lexicant(shop, ["import", "goods.csv", "--accept", "--quiet"]);
  return shop;
};

interface Suggested {
  readonly ourCategory: string;
  readonly nothingFits: number;
  readonly suggestions: readonly {
    readonly path: string;
    readonly confidence: number;
    readonly reason: string;
  }[];
}

const proposals = (shop: string, channel: string): ReadonlyMap<string, Suggested> =>
  new Map(
    (jsonLines(lexicant(shop, ["place", channel, "--json"]).out) as unknown as readonly Suggested[]).map(
      (one) => [one.ourCategory, one],
    ),
  );

const found = (shop: string, channel: string, words: string): string =>
  String(jsonLines(lexicant(shop, ["categories", channel, ...words.split(" "), "--json"]).out)[0]?.["path"]);

describe("placing by what things are", () => {
  it("when shelves have nicknames or another language, then products and words of the trade tell the place, with the reason", () => {
    const shop = shopWith(
      "merrowgate",
      "Item no,Title,Price,Section\n" +
        "A-1,Cast iron skillet,40,Sizzle\nA-2,Carbon steel omelette pan,35,Sizzle\n" +
        "B-1,Wanderstiefel Leder,99,Berge > Feste Schuhe\nB-2,Trekkingschuh,89,Berge > Feste Schuhe\n" +
        "C-1,Screen repair,60,Help\nC-2,Battery swap,30,Help\n",
    );
    const placed = proposals(shop, "merrowgate");
    expect(placed.get("Sizzle")?.suggestions[0]).toMatchObject({
      path: expect.stringContaining("Frying Pans"),
      reason: expect.stringContaining("2 of 2 products"),
    });
    expect(placed.get("Berge > Feste Schuhe")?.suggestions[0]?.path).toContain("Hiking Boots");
    const nowhere = placed.get("Help");
    expect(nowhere?.nothingFits).toBeGreaterThan(nowhere?.suggestions[0]?.confidence ?? 1);
    const { out } = lexicant(shop, ["place", "merrowgate", "--list"]);
    expect(out).toMatch(/^Help .*\n +\d+% the channel has no place for it; the nearest are$/m);
    // What is sure is taken, and nothing else.
    lexicant(shop, ["place", "merrowgate", "--accept-above", "90"]);
    expect(lexicant(shop, ["place", "merrowgate", "--list"]).out).toContain("Help");
  });

  it("when a shop adds a word in tables/goods.csv, then it places and finds by it; a kind that nobody knows is told", () => {
    const shop = shopWith(
      "merrowgate",
      "Item no,Title,Price,Section\nA-1,Brumbler XL,40,Odds\nA-2,Brumbler S,30,Odds\n",
    );
    expect(proposals(shop, "merrowgate").get("Odds")?.suggestions[0]?.confidence ?? 0).toBeLessThan(0.5);
    write(shop, "tables/goods.csv", "name,also,de,kind_of\nbrumbler,brumblers,Brummler,hair dryer\n");
    expect(proposals(shop, "merrowgate").get("Odds")?.suggestions[0]?.path).toContain("Hair Dryers");
    expect(found(shop, "merrowgate", "Brummler")).toContain("Hair Dryers");
    write(shop, "tables/goods.csv", "name,kind_of\nbrumbler,whirligog\n");
    const refused = lexicant(shop, ["place", "merrowgate", "--list"]);
    expect([refused.exit, refused.err]).toEqual([2, expect.stringContaining("tables/goods.csv")]);
    expect(refused.err).toContain('"whirligog"');
  });

  it("when a definition brings words, then they serve its channel alone", () => {
    const shop = shopWith("merrowgate", "Item no,Title,Price,Section\nA-1,Spade,40,Tools\n");
    cpSync(join(projectRoot, "definitions", "lanternlist"), join(shop, "definitions", "lane"), {
      recursive: true,
    });
    write(shop, "definitions/lane/goods.csv", "name,kind_of\nfrobble,candle mould\n");
    expect(found(shop, "lane", "frobbles")).toContain("Candle Moulds");
    expect(found(shop, "merrowgate", "frobbles")).not.toContain("Candle Moulds");
  });

  it("when something like it was placed by a person, then it goes there, too, and the reason says so", () => {
    const shop = shopWith(
      "merrowgate",
      "Item no,Title,Price,Section\nA-1,Printed bookmark,2,Paper > Marks\nA-2,Leather bookmark,6,Readers > Treats\n",
    );
    const place = (): Suggested["suggestions"][number] | undefined =>
      proposals(shop, "merrowgate").get("Readers > Treats")?.suggestions[0];
    expect(place()?.path).not.toContain("Gift Tags");
    lexicant(shop, ["place", "merrowgate", "--set", "Paper > Marks=CKDF"]);
    expect(place()).toMatchObject({
      path: expect.stringContaining("Gift Tags"),
      reason: expect.stringContaining("as you placed others like it"),
    });
  });

  it("when nobody knows what things are, then that is said, and what a person placed teaches by how things are called", () => {
    const shop = shopWith(
      "merrowgate",
      "Item no,Title,Price,Section\nA-1,Ovel flobbit,2,Zqx\nA-2,Trindle flobbit,2,Zqx\nA-3,Ovel brimpex,4,Zqx\n" +
        "B-1,Ovel flobbit M8,6,Qvv\nB-2,Trindle flobbit M10,6,Qvv\nC-1,Wexel brumbler,3,Vzz\n",
    );
    const { out } = lexicant(shop, ["place", "merrowgate", "--list"]);
    expect(out).toMatch(/^Vzz .*\n +nothing like it was found/m);
    expect(out).toContain("Of 3 it is not known what the goods are: name them in tables/goods.csv");
    expect(out).toContain('--set "Zqx"=CODE');
    lexicant(shop, ["place", "merrowgate", "--set", "Zqx=DCFC"]);
    const after = proposals(shop, "merrowgate");
    const [alike, other] = [after.get("Qvv"), after.get("Vzz")];
    expect(alike?.suggestions[0]).toMatchObject({
      path: expect.stringContaining("Pipettes"),
      reason: expect.stringContaining("called like others that you placed"),
    });
    // What is only called alike is never sure, and what is called otherwise learns nothing.
    expect(alike?.suggestions[0]?.confidence).toBeLessThan(0.9);
    expect(other?.suggestions[0]?.path ?? "").not.toContain("Pipettes");
  });

  it("when one word alone says what things are, then it is not sure, however many products say it", () => {
    const surest = (shelf: string, ...names: readonly string[]): number => {
      const goods = names.map((name, at) => `A-${at},"${name}",2,${shelf}\n`).join("");
      const shop = shopWith("merrowgate", `Item no,Title,Price,Section\n${goods}`);
      return proposals(shop, "merrowgate").get(shelf)?.suggestions[0]?.confidence ?? 0;
    };
    const alone = surest("Zqx", "Ovel flange", "Trindle flange");
    expect([alone > 0.5, alone < 0.9]).toEqual([true, true]);
    expect(surest("Beekeeping > Smokers", "Bee smoker, copper", "Hive smoker")).toBeGreaterThanOrEqual(0.9);
  });

  it("when a maker's category is told in an attribute, then it speaks for its place", () => {
    const goods = (maker: string) =>
      `Item no,Title,Price,Section,maker_category\nA-1,Zib 400,40,Range,${maker}\nA-2,Zib 500,50,Range,${maker}\n`;
    const path = (maker: string) =>
      proposals(shopWith("merrowgate", goods(maker)), "merrowgate").get("Range")?.suggestions[0]?.path ?? "";
    expect(path("Toasters")).toContain("Toasters");
    expect(path("BMBB")).toContain("Kettles");
  });
});
