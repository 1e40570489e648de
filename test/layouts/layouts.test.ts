import { spawnSync } from "node:child_process";
import { parse } from "csv-parse/sync";
import fc from "fast-check";
import FeedParser from "feedparser";
import { describe, expect, it } from "vitest";
import { sentence } from "../../src/workspace/wording.js";
import { shape } from "../../src/core/listing/shape/shape.js";
import { writerFor } from "../../src/layouts/layouts.js";
import { definitionOf } from "../kit/definition.js";
import { familyOf, outcomesOf, setupOf } from "../kit/listing.js";

const fields =
  "field|scope|kind|list|need|decimals\nref|*|text||required|\ntitle|*|text||required|\nprice|*|money||optional|2\nshots|*|text|yes|optional|\nheft|*|text||optional|\nwas|*|money||optional|2";
const place = { file: "definition.yaml", line: 1 };
const columns = [
  "ref",
  { name: "amount", field: "price", part: "amount" },
  { name: "currency", field: "price", part: "currency" },
  { name: "shot", field: "shots" },
];
const account = { title: "A & B", shopUrl: "https://a.example/?a=1&b=2", description: "<all>" };
const item = { title: "title", link: "ref", description: "title", guid: "ref" };
const feed = { prefix: "st", namespace: "https://stall.example/ns", item };

const noPence = fields.replace("price|*|money||optional|2", "price|*|money||optional|0");

/** A layout as a definition states it. */
const layoutOf = ({ fields: table = fields, ...layout }: Readonly<Record<string, unknown>>) => {
  const { definition: built, findings } = definitionOf({
    fields: table as string,
    source: {
      crossRules: [],
      roles: {},
      layouts: [{ name: "one", file: "f", columns, place, ...layout } as never],
    },
  });
  const [own] = built.layouts;
  if (own === undefined || own.format === "xlsx" || findings.length > 0)
    throw new Error(findings.map(sentence).join("; "));
  return { layout: own, definition: built };
};

type Texts = Readonly<Record<string, string>>;

/** A file of some products, each a family of its own. */
const fileOf = (stated: Readonly<Record<string, unknown>>, ...products: readonly Texts[]): string => {
  const { layout, definition } = layoutOf(stated);
  const setup = setupOf(definition, { fills: { title: "name" } });
  const writer = writerFor(layout, { account, action: "put" });
  const families = products.flatMap((texts) => {
    const full = { sku: "s-1", category: "Tools", price: "7.2 GBP", images: "one\u001etwo", ...texts };
    return shape(outcomesOf(setup, full), familyOf([full]), setup);
  });
  const { first, next } = writer.apart;
  const all = families.map((one) => writer.family(one)).join(next);
  return writer.head() + (families.length === 0 ? "" : first + all) + writer.tail();
};

const xmllint = (xml: string, xpath: string): string => {
  const { status, stdout, stderr } = spawnSync("xmllint", ["--xpath", xpath, "-"], {
    input: xml,
    encoding: "utf8",
  });
  if (status !== 0) throw new Error(stderr);
  return stdout.replace(/\n$/, "");
};

describe("RSS and Atom", () => {
  const rss = { format: "rss", ...feed };

  it("when a listing has a price and pictures, then amount and currency stand apart and pictures repeat", () => {
    const xml = fileOf(rss, { name: "Hive <flat> & roof" });
    expect(xmllint(xml, "string(//item/title)")).toBe("Hive <flat> & roof");
    expect(xmllint(xml, "string(//*[local-name()='amount'])")).toBe("7.20");
    expect(xmllint(xml, "string(//*[local-name()='currency'])")).toBe("GBP");
    expect(xmllint(xml, "count(//*[local-name()='shot'])")).toBe("2");
    expect(xmllint(xml, "string(/rss/channel/link)")).toBe(account.shopUrl);
  });

  it("when a title holds any characters, then the file stays XML that another parser takes", () => {
    const characters = fc.string({ unit: "binary", minLength: 1, maxLength: 15 });
    fc.assert(
      fc.property(characters, (text) => {
        const xml = fileOf(rss, { name: `x${text}` });
        expect(xmllint(xml, "count(//item)")).toBe("1");
      }),
      { numRuns: 40 },
    );
  });

  it("when the feed is Atom, then a feed reader finds each entry with the channel's own elements", async () => {
    const xml = fileOf({ format: "atom", ...feed }, { name: "Hive & roof" }, { sku: "s-2", name: "Lamp" });
    const items: FeedParser.Item[] = [];
    const parser = new FeedParser({ feedurl: "https://a.example/" });
    await new Promise<void>((done, failed) => {
      parser.on("error", failed).on("end", done);
      parser.on("readable", () => {
        for (let one = parser.read(); one !== null; one = parser.read()) items.push(one);
      });
      parser.end(xml);
    });
    expect(items.map(({ title }) => title)).toEqual(["Hive & roof", "Lamp"]);
    expect(JSON.stringify(items[0])).toContain('"st:amount":{"@":{},"#":"7.20"}');
  });
});

describe("tables", () => {
  it("when a value of TSV holds tabs and line ends, then the row keeps its columns", () => {
    const spaced = { format: "tsv", columns: ["title", columns[1]] };
    expect(fileOf(spaced, { name: "a\tb\r\nc" })).toBe("title\tamount\na b c\t7.20\n");
  });

  it("when a field of TSV holds several values, then they stand in one cell", () => {
    expect(fileOf({ format: "tsv" }, { name: "Hive" })).toBe(
      "ref\tamount\tcurrency\tshot\ns-1\t7.20\tGBP\tone,two\n",
    );
  });

  const csv = (settings: Readonly<Record<string, unknown>>, ...products: readonly Texts[]) =>
    fileOf({ format: "csv", columns: ["ref", "title", "price", "shots"], settings }, ...products);

  it("when any texts are written as CSV, then another reader gets them back, cell by cell", () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.string({ unit: fc.constantFrom("a", '"', ";", "\n", ",", "é", "=", " "), minLength: 1 }),
          {
            minLength: 1,
          },
        ),
        fc.constantFrom(",", ";", "\t"),
        fc.constantFrom("needed", "always"),
        (names, separator, quote) => {
          const titled = names.map((name, at) => ({ sku: `s-${at}`, name: `x${name}x` }));
          const text = csv({ separator, quote, line_end: "lf" }, ...titled);
          const rows: string[][] = parse(text, { delimiter: separator });
          expect(rows.slice(1).map(([, title]) => title)).toEqual(titled.map(({ name }) => name));
        },
      ),
      { numRuns: 60 },
    ));

  it("when the channel wants its own marks, then numbers, heads, line ends and formulas are as it says", () => {
    const text = csv(
      {
        separator: ";",
        decimal_mark: ",",
        head: ["labels", "codes", ["made for", "Stall"]],
        byte_order_mark: "yes",
        formulas: "apostrophe",
      },
      { name: "=HYPERLINK(1)" },
    );
    expect(text).toBe(
      "\ufeffref;title;price;shots\r\nref;title;price;shots\r\nmade for;Stall\r\ns-1;'=HYPERLINK(1);7,20 GBP;one|two\r\n",
    );
  });

  it("when a value of a list holds the mark between values, then it is escaped, or the listing is held", () => {
    const images = "a|b\u001ec";
    expect(csv({ escape: "\\" }, { name: "x", images })).toContain("a\\|b|c");
    expect(csv({}, { name: "x", images })).toBe("ref,title,price,shots\r\n");
  });

  it("when a list holds one value with the mark in it, then it is not torn either", () => {
    expect(csv({ escape: "\\" }, { name: "x", images: "a|b" })).toContain("a\\|b");
    expect(csv({}, { name: "x", images: "a|b" })).toBe("ref,title,price,shots\r\n");
  });

  it("when a field of money has no decimals, then neither has its cell, alone or with its currency", () => {
    const whole = { ...{ format: "csv", settings: { line_end: "lf", decimal_mark: "," } }, fields: noPence };
    expect(
      fileOf({ ...whole, columns: ["ref", columns[1], "price"] }, { name: "x", price: "7.50 GBP" }),
    ).toBe("ref,amount,price\ns-1,8,8 GBP\n");
  });

  it("when a setting is unknown or wrong, then it is told", () => {
    expect(() => csv({ seperator: ";" })).toThrow(
      '"settings.seperator" is no setting here; nearest: "separator"',
    );
    expect(() => csv({ quote: "often" })).toThrow("settings.quote: is one of needed, always");
  });
});

describe("XML by paths", () => {
  it("when columns share a path or are attributes and lists, then they nest as the channel wants", () => {
    const xml = fileOf(
      {
        format: "xml",
        namespace: "https://stall.example/x",
        settings: {
          root: "all",
          member: "one",
          paths: { ref: "@id", amount: "money/sum", currency: "money/sum/@unit", shot: "shots" },
          lists: { shot: "shot" },
          action_attribute: "do",
        },
      },
      { name: "a<b", images: "p&q\u001er" },
    );
    expect(xmllint(xml, "string(/*/*[local-name()='one']/@id)")).toBe("s-1");
    expect(xmllint(xml, "string(//*[local-name()='sum']/@unit)")).toBe("GBP");
    expect(xmllint(xml, "string(//*[local-name()='money']/*[local-name()='sum'])")).toBe("7.20");
    expect(xmllint(xml, "count(//*[local-name()='shots']/*[local-name()='shot'])")).toBe("2");
    expect(xmllint(xml, "string(//*[local-name()='one']/@do)")).toBe("put");
    expect(xmllint(xml, "namespace-uri(/*)")).toBe("https://stall.example/x");
  });
});

describe("JSON", () => {
  it("when it is an array or lines, then each object has what the listing has, and paths nest", () => {
    const json = {
      format: "json",
      columns: ["ref", { name: "cost.sum", field: "price", part: "amount" }, "shots"],
    };
    const expected = [
      { ref: "s-1", cost: { sum: "7.20" }, shots: ["one", "two"] },
      { ref: "s-2", cost: { sum: "7.20" }, shots: ["one", "two"] },
    ];
    const two = [{ name: "a" }, { sku: "s-2", name: "b" }];
    expect(JSON.parse(fileOf(json, ...two))).toEqual(expected);
    const lines = fileOf({ ...json, format: "jsonl" }, ...two);
    expect(
      lines
        .trim()
        .split("\n")
        .map((line) => JSON.parse(line) as unknown),
    ).toEqual(expected);
    expect(JSON.parse(fileOf(json))).toEqual([]);
  });
});
