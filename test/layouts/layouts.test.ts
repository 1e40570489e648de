import { spawnSync } from "node:child_process";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { LayoutDefinition } from "../../src/core/channel/layout-definition.js";
import { writerFor } from "../../src/layouts/layouts.js";
import { definitionOf } from "../kit/definition.js";
import { outcomesOf, setupOf } from "../kit/listing.js";

const { definition } = definitionOf({
  fields:
    "field|scope|kind|list|need|decimals\nref|*|text||required|\ntitle|*|text||required|\nprice|*|money||optional|2\nshots|*|text|yes|optional|\nheft|*|text||optional|\nwas|*|money||optional|2",
});
const [ref, title, price, shots] = definition.fields;
if (ref === undefined || title === undefined || price === undefined || shots === undefined)
  throw new Error("no fields");
const columns = [
  { name: "ref", field: ref, part: "whole", joinedBy: undefined },
  { name: "amount", field: price, part: "amount", joinedBy: undefined },
  { name: "currency", field: price, part: "currency", joinedBy: undefined },
  { name: "shot", field: shots, part: "whole", joinedBy: undefined },
] as const;
const account = { title: "A & B", shopUrl: "https://a.example/?a=1&b=2", description: "<all>" };
const rss: LayoutDefinition = {
  ...{
    format: "rss",
    name: "feed",
    file: "f.xml",
    columns,
    prefix: "st",
    namespace: "https://stall.example/ns",
  },
  item: { title, link: ref, description: title, guid: ref },
};

const fileOf = (layout: LayoutDefinition, name: string, images = "one\u001etwo"): string => {
  const writer = writerFor(layout, account);
  const product = { sku: "s-1", name, category: "Tools", price: "7.2 GBP", images };
  const [outcome] = outcomesOf(setupOf(definition), product);
  if (outcome?.kind !== "ready") throw new Error("the product is not ready");
  return writer.head() + writer.listing(outcome.listing) + writer.tail();
};

const xmllint = (xml: string, xpath: string): string => {
  const { status, stdout, stderr } = spawnSync("xmllint", ["--xpath", xpath, "-"], {
    input: xml,
    encoding: "utf8",
  });
  if (status !== 0) throw new Error(stderr);
  return stdout.replace(/\n$/, "");
};

describe("RSS", () => {
  it("when a listing has a price and pictures, then amount and currency stand apart and pictures repeat", () => {
    const xml = fileOf(rss, "Hive <flat> & roof");
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
        const xml = fileOf(rss, `x${text}`);
        expect(xmllint(xml, "count(//item)")).toBe("1");
      }),
      { numRuns: 40 },
    );
  });
});

describe("TSV", () => {
  const tsv: LayoutDefinition = { format: "tsv", name: "table", file: "t.tsv", columns };

  it("when a value holds tabs and line ends, then the row keeps its columns", () => {
    const spaced: LayoutDefinition = { ...tsv, columns: [{ ...columns[0], field: title }, columns[1]] };
    expect(fileOf(spaced, "a\tb\r\nc")).toBe("ref\tamount\na b c\t7.20\n");
  });

  it("when a field holds several values, then they stand in one cell", () => {
    expect(fileOf(tsv, "Hive")).toBe("ref\tamount\tcurrency\tshot\ns-1\t7.20\tGBP\tone,two\n");
  });
});
