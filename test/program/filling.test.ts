import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { parse } from "csv-parse/sync";
import { describe, expect, it } from "vitest";
import { sayFacts } from "../kit/facts.js";
import { png } from "../kit/picture.js";
import { demoShop, emptyShop } from "../kit/demo-shop.js";
import { jsonLines, lexicant, lexicantBeside, read, write } from "../kit/run.js";

describe("what fills each field", () => {
  const shop = demoShop();

  it("when the fills of a channel are shown, then each has its place, and what is blank or wrong is counted", () => {
    const { exit, out } = lexicant(shop, ["fills", "merrowgate"]);
    expect(exit).toBe(0);
    expect(out).toMatch(/^Merrowgate 2026\.2: \d+ listings; 9\d(\.\d)?% of what is required is filled/);
    expect(out).toMatch(/^item_ref +required +\d+ +sku +fills\.yaml:\d+$/m);
    expect(out).toMatch(/^hive_pattern +required for 18 +1 +\d+ +if contains/m);
    expect(out).toContain("Most is missing in hive_pattern");
  });

  it("when a category is named, then only what is placed there counts", () => {
    const rows = jsonLines(
      lexicant(shop, ["fills", "merrowgate", "Beekeeping > Beekeeper Clothing", "--json"]).out,
    );
    const size = rows.find(({ field }) => field === "size_label");
    expect(size).toMatchObject({ missing: 0, blank: 0 });
    // One suit comes in one size: it is not asked for a size, and says it all the same.
    expect(size?.["required"]).toBe(Number(size?.["listings"]) - 1);
    expect(rows.every(({ listings }) => Number(listings) <= Number(size?.["listings"]))).toBe(true);
    const systems = rows.filter(({ field }) => field === "size_system");
    // Suits and gloves have each their own block.
    expect(systems.map(({ place }) => (place as { line: number }).line)).toHaveLength(2);
    expect(lexicant(shop, ["fills", "merrowgate", "Beekeping"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining("Beekeeping"),
    });
  });

  it.each(["merrowgate", "gavelstead", "fjordhandel", "chatterquay", "lanternlist"])(
    "when the demo's %s is filled, then nine tenths of what is required are there",
    (channel) => {
      const rows = jsonLines(lexicant(shop, ["fills", channel, "--json"]).out);
      const sum = (key: string): number => rows.reduce((total, row) => total + Number(row[key]), 0);
      expect(sum("required")).toBeGreaterThan(2000);
      expect(1 - sum("missing") / sum("required")).toBeGreaterThan(0.9);
    },
  );
});

describe("trying an expression", () => {
  const shop = demoShop();

  it("when it is tried on a product, then each step shows its value and where that came from", () => {
    const { exit, out } = lexicant(shop, [
      "try",
      'fit_before("{brand} {name}", "{color}{, size}", 38)',
      "--sku",
      "BC-1301-WHITE-M",
    ]);
    expect(exit).toBe(0);
    expect(out).toMatch(/brand +Sallowfield +shop-export\.csv, row \d+/);
    expect(out).toContain("gives Sallowfield Orchard Bee Suit, white, M");
  });

  it("when it is tried as a channel's fill, then the channel's prices and its other fields can be asked", () => {
    const tried = (text: string): string =>
      lexicant(shop, ["try", text, "--sku", "BC-1301-WHITE-M", "--channel", "fjordhandel"]).out;
    expect(tried('field("price_eur")')).toMatch(/gives \d+\.95 EUR/);
    expect(tried('field("delivery_until")')).toContain("gives 7");
    const marked = lexicant(shop, ["try", '"{price}"', "--sku", "BC-1402", "--channel", "merrowgate"]).out;
    expect(marked).toMatch(/price +\d+\.95 GBP +made by channel\.yaml/);
  });

  it("when no product is named, then some are shown and all are counted", () => {
    const { out } = lexicant(shop, ["try", "sale_price", "--limit", "3"]);
    expect(out).toMatch(/29 products of 288 have a value, 259 blank\./);
    expect(out.split("\n").filter((line) => line.startsWith("BC-"))).toHaveLength(3);
    const lines = jsonLines(lexicant(shop, ["try", "sale_price", "--json"]).out);
    expect(lines.filter(({ value }) => value !== null)).toHaveLength(29);
  });

  it("when it cannot be worked out, then why is told and the exit says so", () => {
    const { exit, out } = lexicant(shop, ["try", "price / (quantity - quantity)", "--sku", "BC-2304"]);
    expect([exit, out]).toEqual([1, expect.stringMatching(/but it is divided by 0/)]);
  });

  it("when it reads no product, then it is worked out alone", () => {
    expect(lexicant(shop, ["try", '"{1 + 2 * 3} hives"']).out).toContain("gives 7 hives");
  });

  it("when it is wrong, then every fault is told with a caret", () => {
    const { exit, err } = lexicant(shop, ["try", "nmae or fitt(brand, 3)"]);
    expect(exit).toBe(2);
    expect(err).toContain('there is no attribute "nmae"; nearest: "name"');
    expect(err).toContain("^^^^");
    expect(err).toContain('there is no function "fitt"; nearest: "fit"');
  });
});

describe("finding a function", () => {
  it("when words are given, then functions with them are shown in full, with examples", () => {
    const { exit, out } = lexicant(".", ["functions", "band"]);
    expect(exit).toBe(0);
    expect(out).toMatch(/^from_band\(table, column, value, \[key\], …\)/m);
    expect(out).toContain("→");
    expect(lexicant(".", ["functions", "zzz"]).out).toContain("No function is described with these words");
  });

  it("when none are given, then all are listed by family, each once", () => {
    const names = jsonLines(lexicant(".", ["functions", "--json"]).out).map(({ name }) => name);
    const { out } = lexicant(".", ["functions"]);
    expect(new Set(names).size).toBe(names.length);
    for (const name of names) expect(out).toContain(` ${String(name)}(`);
  });
});

describe("the channel's words for ours", () => {
  const shop = demoShop();

  it("when terms are unknown, then those that hold up most come first with what they may mean", () => {
    write(shop, "channels/merrowgate/lexicon.csv", "field,our_category,our_term,channel_value\n");
    const { exit, out } = lexicant(shop, ["lexicon", "merrowgate", "--list"]);
    expect(exit).toBe(0);
    expect(out).toMatch(/"dark green" \(9 products\): 90% green, its last word/);
    expect(out.indexOf('"dark green"')).toBeLessThan(out.indexOf('"sand"'));
    const sand = jsonLines(lexicant(shop, ["lexicon", "merrowgate", "--json"]).out).find(
      ({ term }) => term === "sand",
    );
    // The channel itself calls beige a white; whoever knows better says so.
    expect(sand).toMatchObject({
      ...{ field: "shade_family", products: 5 },
      proposals: [{ value: "white", confidence: 0.6, reason: "another word for the colour beige" }],
    });
  });

  it("when proposals are accepted and one is set, then rows are written and the products go on", () => {
    expect(lexicant(shop, ["lexicon", "merrowgate", "--accept-above", "90", "--dry-run"]).out).toContain(
      "would be written",
    );
    expect(read(shop, "channels/merrowgate/lexicon.csv").split("\n")).toHaveLength(2);
    lexicant(shop, ["lexicon", "merrowgate", "--accept-above", "90"]);
    const { out } = lexicant(shop, [
      "lexicon",
      "merrowgate",
      "--set",
      "sand=tan",
      "--field",
      "shade_family",
      "--in",
      "Clothing",
    ]);
    expect(out).toContain("shade_family: sand = brown in Clothing");
    const rows = parse(read(shop, "channels/merrowgate/lexicon.csv"), { columns: true }) as Record<
      string,
      string
    >[];
    expect(rows).toContainEqual({
      field: "shade_family",
      our_category: "",
      our_term: "dark green",
      channel_value: "green",
    });
    expect(rows).toContainEqual({
      field: "shade_family",
      our_category: "Clothing",
      our_term: "sand",
      channel_value: "brown",
    });
    expect(lexicant(shop, ["lexicon", "merrowgate", "--list"]).out).not.toContain("dark green");
  });

  it.each([
    ["shade_famly", "sand=brown", 'nearest: "shade_family"'],
    ["shade_family", "sand=beige-ish", "is not a value of Colours in it"],
    ["shade_family", "sand brown", "is no row of a lexicon"],
  ])("when of %j %j is set, then what is wrong with it is told", (field, row, expected) => {
    expect(lexicant(shop, ["lexicon", "merrowgate", "--field", field, "--set", row])).toMatchObject({
      exit: 2,
      err: expect.stringContaining(expected),
    });
  });

  it("when nobody is there to be asked, then what is open is listed and nothing is decided", () => {
    const before = read(shop, "channels/merrowgate/lexicon.csv");
    const { exit, out } = lexicant(shop, ["lexicon", "merrowgate"], { input: "\n\n\n" });
    expect([exit, out]).toEqual([0, expect.stringContaining("terms of ours have no value there")]);
    expect(read(shop, "channels/merrowgate/lexicon.csv")).toBe(before);
  });
});

describe("words for one channel alone", () => {
  const shop = demoShop();
  const nameOn = (sku: string, channel: string): string => {
    const [product] = jsonLines(lexicant(shop, ["show", sku, "--channel", channel, "--json"]).out);
    return String(
      (product?.["values"] as Record<string, unknown> | undefined)?.["name"] ?? product?.["name"],
    );
  };

  it("when a sheet for a channel goes out, is changed and comes back, then the channel alone has the change", () => {
    lexicant(shop, ["export", "words.csv", "--for-channel", "merrowgate", "--only", "name,description"]);
    const sheet = read(shop, "words.csv");
    expect(sheet).toMatch(/^\ufeffsku,for_channel,name,description/);
    const unchanged = lexicant(shop, ["import", "words.csv"]);
    expect(unchanged.out).toContain("288 read = 0 added + 0 changed + 288 unchanged + 0 rejected");
    write(
      shop,
      "words.csv",
      sheet.replace(
        "BC-1401-RED,merrowgate,J-Hook Hive Tool",
        "BC-1401-RED,merrowgate,Hive tool for Merrowgate",
      ),
    );
    expect(lexicant(shop, ["import", "words.csv"]).out).toContain("0 added + 1 changed");
    expect(nameOn("BC-1401-RED", "merrowgate")).toBe("Hive tool for Merrowgate");
    expect(nameOn("BC-1401-RED", "gavelstead")).toBe("J-Hook Hive Tool");
  });

  it("when a sheet names two channels, or one that is not in use, then nothing is taken in", () => {
    write(shop, "two.csv", "sku,for_channel,name\nBC-1401-RED,merrowgate,A\nBC-1402,gavelstead,B\n");
    write(shop, "none.csv", "sku,for_channel,name\nBC-1401-RED,storefront,A\n");
    expect(lexicant(shop, ["import", "two.csv"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining("the same channel in each row"),
    });
    expect(lexicant(shop, ["import", "none.csv"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining('"storefront" is not in use'),
    });
  });

  it("when words are reverted, then the catalogue shows there again, and undo brings them back", () => {
    lexicant(shop, ["set", "BC-1402", "name=Brush for Merrowgate", "--channel", "merrowgate"]);
    expect(lexicant(shop, ["unset", "merrowgate", "--dry-run"]).out).toContain(
      "2 values of 2 products would be taken back",
    );
    expect(lexicant(shop, ["unset", "merrowgate", "BC-1402", "--only", "name"]).out).toContain(
      "1 value of 1 product was",
    );
    expect(nameOn("BC-1402", "merrowgate")).toBe("Bee Brush, horsehair");
    expect(nameOn("BC-1401-RED", "merrowgate")).toBe("Hive tool for Merrowgate");
    lexicant(shop, ["unset", "merrowgate"]);
    expect(nameOn("BC-1401-RED", "merrowgate")).toBe("J-Hook Hive Tool");
    lexicant(shop, ["undo"]);
    expect(nameOn("BC-1401-RED", "merrowgate")).toBe("Hive tool for Merrowgate");
    expect(lexicant(shop, ["unset", "gavelstead"]).out).toContain("Nothing is said for gavelstead alone");
  });

  it("when another source's words are for a channel, then they are reverted as well", () => {
    const words = jsonLines(lexicant(shop, ["unset", "lanternlist", "--dry-run", "--json"]).out);
    expect(words.some(({ layer }) => layer === "copy")).toBe(true);
    expect(lexicant(shop, ["unset", "lanternlist", "BC-14O2"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining('nearest: "BC-1402"'),
    });
  });
});

describe("why a product is not on a channel", () => {
  const shop = demoShop();

  it("when one product is checked, then each channel says where it stands and why", () => {
    const { out } = lexicant(shop, ["check", "--sku", "BC-5501-1"]);
    expect(out).toMatch(/Chatterquay 4: left out\n.*its hazard/);
    expect(out).toMatch(/Merrowgate 2026\.2: ready/);
    const states = jsonLines(lexicant(shop, ["check", "--sku", "BC-1101-10", "--json"]).out);
    expect(states).toContainEqual({
      type: "product-state",
      sku: "BC-1101-10",
      channel: "merrowgate",
      state: "held",
    });
    expect(lexicant(shop, ["check", "--sku", "BC-9999"])).toMatchObject({ exit: 2 });
  });

  it("when marks arrive in a sheet, then they decide", () => {
    write(shop, "marks.csv", "sku,keep_off,list_on\nBC-1402,lanternlist,\nBC-1403,,merrowgate\n");
    expect(lexicant(shop, ["import", "marks.csv"]).exit).toBe(0);
    const stateOf = (sku: string, channel: string): unknown =>
      jsonLines(lexicant(shop, ["check", channel, "--sku", sku, "--json"]).out).at(-1)?.["state"];
    expect(stateOf("BC-1402", "lanternlist")).toBe("left out");
    expect(stateOf("BC-1402", "chatterquay")).toBe("ready");
    expect(stateOf("BC-1403", "lanternlist")).toBe("left out");
    const out = lexicant(shop, ["check", "lanternlist"]).out.replace(/\s+/g, " ");
    expect(out).toContain("left out 8 products: it does not meet the channel's condition");
    expect(out).toContain('left out 1 product: the product\'s own keep_off says "lanternlist"');
  });
});

describe("a jump of prices", () => {
  it("when a price leaves what was sent far behind, then it is held until a person confirms it", () => {
    const shop = emptyShop("--channel", "lanternlist");
    sayFacts(shop, "lanternlist");
    write(
      shop,
      "channels/lanternlist/channel.yaml",
      "definition: lanternlist\nprices:\n  greatest_change: 20\naccount:\n  shop_url: https://brindlecote.example/\n",
    );
    write(
      shop,
      "channels/lanternlist/placements.csv",
      "our_category,channel_category\nTools,garden.handtools.digging\n",
    );
    const goods = (price: string): string =>
      `sku,name,description,category,price,quantity,weight,images,url,brand,mpn\nS-1,Border spade,"${"A spade that digs. ".repeat(4)}",Tools,${price} GBP,3,2 kg,https://a.example/s.jpg,https://a.example/s,Tarnbeck,T-1\n`;
    write(shop, "goods.csv", goods("20"));
    lexicant(shop, ["import", "goods.csv", "--accept"]);
    expect(lexicant(shop, ["sent", "lanternlist"]).out).toContain("There is no build to be sent yet");
    const built = lexicant(shop, ["build"]);
    expect([built.exit, built.out]).toEqual([0, expect.stringContaining("1 listing written")]);
    expect(lexicant(shop, ["sent", "lanternlist"]).out).toContain("1 listing of Lanternlist noted as sent");
    write(shop, "goods.csv", goods("2"));
    lexicant(shop, ["import", "goods.csv", "--accept"]);
    const held = lexicant(shop, ["check"]);
    expect(held.exit).toBe(1);
    expect(held.out.replace(/\s+/g, " ")).toContain(
      "Price goes from 20.00 GBP, which was sent last, to 2.00 GBP: 90%",
    );
    expect(lexicant(shop, ["build", "--confirm-prices", "S-2"]).err).toContain('no product "S-2"');
    expect(lexicant(shop, ["build", "--confirm-prices", "S-1"]).out).toContain("1 listing written");
    // Until it is sent, the old price is the one that the channel has.
    expect(lexicant(shop, ["check"]).exit).toBe(1);
    lexicant(shop, ["sent", "lanternlist"]);
    expect(lexicant(shop, ["check"]).exit).toBe(0);
  });
});

describe("the web addresses that listings show", () => {
  it("when they are asked, then broken ones are told by cause, and those that answered are not asked again", async () => {
    const asked: string[] = [];
    const server = createServer(({ method, url }, response) => {
      asked.push(`${method ?? ""} ${url ?? ""}`);
      if (url?.startsWith("/gone") === true) response.writeHead(404).end();
      else if (url?.endsWith(".jpg") === true)
        response.writeHead(200, { "content-type": "image/png" }).end(png(1200, 900));
      else response.writeHead(200, { "content-type": "text/html" }).end("x");
    });
    await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
    const origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    const shop = emptyShop("--channel", "lanternlist");
    write(
      shop,
      "channels/lanternlist/placements.csv",
      "our_category,channel_category\nTools,garden.handtools.digging\n",
    );
    // Nothing speaks https here.
    write(
      shop,
      "channels/lanternlist/fills.yaml",
      "all:\n  ref: sku\n  headline: name\n  page: url\n  picture: first(images)\n",
    );
    write(
      shop,
      "goods.csv",
      `sku,name,description,category,price,quantity,weight,images,url\n${["/page", "/page", "/gone"]
        .map(
          (page, row) =>
            `S-${row},Spade ${row},Digs,Tools,20 GBP,3,2 kg,${origin}/s-${row}.jpg,${origin}${page}`,
        )
        .join("\n")}\n`,
    );
    lexicant(shop, ["import", "goods.csv", "--accept"]);
    try {
      const first = await lexicantBeside(shop, ["check", "--links", "--private-addresses"]);
      expect(first.exit).toBe(1);
      expect(first.out).toContain("6 web addresses shown, 1 not as the channel wants them");
      expect(first.out).toContain("is not there (the server answers 404)");
      expect(asked.filter((line) => line === "HEAD /page")).toHaveLength(1);
      asked.length = 0;
      await lexicantBeside(shop, ["check", "--links", "--private-addresses"]);
      expect(asked.every((line) => line.endsWith("/gone"))).toBe(true);
      // By the rules for the open web none of these may be asked at all, whatever was answered before.
      asked.length = 0;
      const refused = await lexicantBeside(shop, ["check", "--links"]);
      expect(asked).toEqual([]);
      expect(refused.out).toContain("127.0.0.1 is a private address");
    } finally {
      server.close();
    }
  });
});

describe("a faulty table of the user's own", () => {
  const shop = demoShop();

  it("when rates are wrong, then each wrong cell is told and no channel is filled by them", () => {
    write(
      shop,
      "tables/rates.csv",
      "# ours\nday,from,to,rate\n2026-13-01,GBP,EUR,1.1\n2026-01-01,POUND,EUR,abc\n",
    );
    const { exit, out, err } = lexicant(shop, ["check", "fjordhandel"]);
    expect([exit, out]).toEqual([2, ""]);
    for (const part of ['day is "2026-13-01"', 'from is "POUND"', 'rate is "abc"', "tables/rates.csv, row 3"])
      expect(err).toContain(part);
  });

  it("when an import needs no table, then it goes on and the fault is a warning", () => {
    write(shop, "counted.csv", "sku,quantity\nBC-1402,99\n");
    const { exit, out, err } = lexicant(shop, ["import", "counted.csv"]);
    expect([exit, out]).toEqual([0, expect.stringContaining("1 read = 0 added + 1 changed")]);
    expect(err).toMatch(/^warning {2}day is "2026-13-01"/);
  });

  it("when a rate or a row is missing, then the products that need it are held, and told by cause", () => {
    write(shop, "tables/rates.csv", "day,from,to,rate\n2026-01-01,GBP,EUR,1.17\n");
    write(shop, "tables/parcels.csv", "country,up_to,class\nDE,1 kg,parcel S\n");
    const { out } = lexicant(shop, ["check", "fjordhandel", "--all"]);
    const told = out.replace(/\s+/g, " ");
    expect(told).toContain("there is no rate from GBP to SEK on 2026-11-25; add a row to tables/rates.csv");
    expect(told).toMatch(
      /the table "parcels" has no row for [\d.]+ \w+, DE; add one to tables\/parcels\.csv/,
    );
  });

  it.each([
    ["two columns of a name", "a,a\n1,2\n", 'two columns are named "a"'],
    ["a quote that is never closed", 'a,b\n"1,2\n', "never closed"],
  ])("when a table has %s, then that is told with its file", (_, text, expected) => {
    write(shop, "tables/other.csv", text);
    const { exit, err } = lexicant(shop, ["try", "1 + 1"]);
    write(shop, "tables/other.csv", "a\n1\n");
    expect([exit, err]).toEqual([2, expect.stringContaining(expected)]);
    expect(err).toContain("tables/other.csv");
  });
});

describe("taking a channel into use", () => {
  it("when it is added, then its fills work as they are, and what waits for the catalogue is noted in them", () => {
    const shop = demoShop();
    const { exit, out } = lexicant(shop, ["channels", "add", "storefront"]);
    expect([exit, out]).toEqual([0, expect.stringContaining("Storefront is in use: 31 fields have a fill")]);
    expect(read(shop, "lexicant.yaml")).toContain("storefront");
    expect(lexicant(shop, ["check", "storefront"]).exit).toBe(1);
    expect(lexicant(shop, ["channels", "add", "storefrnt"])).toMatchObject({
      exit: 2,
      err: expect.stringContaining('nearest: "storefront"'),
    });
    expect(lexicant(shop, ["channels", "remove", "storefront"])).toMatchObject({ exit: 2 });
  });

  it("when the catalogue has German names, then the fill that asks for them is in force", () => {
    const shop = demoShop();
    write(
      shop,
      "lexicant.yaml",
      read(shop, "lexicant.yaml").replace(/^channels:.*$/m, "channels: [lanternlist]"),
    );
    write(shop, "channels/fjordhandel/channel.yaml", "");
    lexicant(shop, ["channels", "add", "fjordhandel"]);
    // A channel whose files are there keeps them.
    expect(read(shop, "channels/fjordhandel/channel.yaml")).toBe("");
  });
});
