import { spawnSync } from "node:child_process";
import { join } from "node:path";
import { Ajv2020 } from "ajv/dist/2020.js";
import { describe, expect, it } from "vitest";
import { emptyShop, demoShop } from "../kit/demo-shop.js";
import { exchangeEnvironment, reaching, startSandbox } from "../kit/sandbox.js";
import { jsonLines, lexicant, read, write } from "../kit/run.js";

const goods = `SKU,Name,Description,Price,Stock,Condition,Colour,Weight,Image 1,Image 2,Category
A-1,"Spade, long & <light>",For narrow beds,12.50 GBP,4,new,Green,1.9 kg,https://x.example/1,https://x.example/2,Garden
A-2,Fork,For roots,9.00 GBP,0,used,Grey,,https://x.example/3,,Garden
`;

const schema = {
  $schema: "https://json-schema.org/draft/2020-12/schema",
  type: "object",
  required: ["articles"],
  additionalProperties: false,
  properties: {
    articles: {
      type: "array",
      items: {
        type: "object",
        additionalProperties: false,
        required: ["sellerReference", "title", "price", "quantity", "condition"],
        properties: {
          sellerReference: { type: "string", title: "Seller reference", maxLength: 20 },
          title: { type: "string", maxLength: 80 },
          description: { type: "string", maxLength: 500 },
          price: { type: "number", minimum: 0, multipleOf: 0.01 },
          quantity: { type: "integer", minimum: 0 },
          condition: { enum: ["New", "Used"] },
          photos: { type: "array", maxItems: 4, items: { type: "string", format: "uri" } },
          box: {
            type: "object",
            additionalProperties: false,
            properties: { weight: { type: "number", title: "Weight (kg)" } },
          },
        },
      },
    },
  },
};

const xsd = `<?xml version="1.0"?>
<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema" targetNamespace="urn:acorn" xmlns="urn:acorn" elementFormDefault="qualified">
  <xs:simpleType name="State"><xs:restriction base="xs:string"><xs:enumeration value="New"/><xs:enumeration value="Used"/></xs:restriction></xs:simpleType>
  <xs:element name="consignment"><xs:complexType><xs:sequence><xs:element name="article" maxOccurs="unbounded"><xs:complexType><xs:sequence>
    <xs:element name="title"><xs:simpleType><xs:restriction base="xs:string"><xs:maxLength value="80"/></xs:restriction></xs:simpleType></xs:element>
    <xs:element name="price"><xs:complexType><xs:simpleContent><xs:extension base="xs:decimal"><xs:attribute name="currency" type="xs:string" use="required"/></xs:extension></xs:simpleContent></xs:complexType></xs:element>
    <xs:element name="quantity" type="xs:nonNegativeInteger"/>
    <xs:element name="condition" type="State"/>
    <xs:element name="photos" minOccurs="0"><xs:complexType><xs:sequence><xs:element name="photo" type="xs:anyURI" maxOccurs="4"/></xs:sequence></xs:complexType></xs:element>
  </xs:sequence><xs:attribute name="sku" type="xs:string" use="required"/></xs:complexType></xs:element></xs:sequence></xs:complexType></xs:element>
</xs:schema>
`;

/** A shop whose goods go to a channel that was learned from one file. */
const shopFor = (name: string, text: string): string => {
  const shop = emptyShop();
  write(shop, "goods.csv", goods);
  expect(lexicant(shop, ["import", "goods.csv", "--accept"]).exit).toBe(0);
  write(shop, name, text);
  expect(lexicant(shop, ["channels", "learn", "acorn", name])).toMatchObject({ exit: 0, err: "" });
  lexicant(shop, ["channels", "add", "acorn"]);
  expect(lexicant(shop, ["build", "acorn"])).toMatchObject({ exit: 0, err: "" });
  return shop;
};

describe("channels that publish a schema", () => {
  it("when it is a JSON Schema, then what is built is as the schema says, by another's judgement", () => {
    const shop = shopFor("acorn.schema.json", JSON.stringify(schema));
    const built: unknown = JSON.parse(read(shop, "out/acorn/acorn.json"));
    const validate = new Ajv2020({ strict: false, validateFormats: false }).compile(schema);
    expect([validate(built), validate.errors]).toEqual([true, null]);
    expect(built).toMatchObject({
      articles: [
        {
          sellerReference: "A-1",
          price: 12.5,
          box: { weight: 1.9 },
          photos: ["https://x.example/1", "https://x.example/2"],
        },
        { condition: "Used", quantity: 0 },
      ],
    });
  });

  it("when it is an XML Schema, then what is built is as the schema says, by another's judgement", () => {
    const shop = shopFor("acorn.xsd", xsd);
    const { status, stderr } = spawnSync(
      "xmllint",
      ["--noout", "--schema", join(shop, "acorn.xsd"), join(shop, "out/acorn/acorn.xml")],
      { encoding: "utf8" },
    );
    expect([status, stderr.trim().split(" ").at(-1)]).toEqual([0, "validates"]);
    expect(read(shop, "out/acorn/acorn.xml")).toContain('<price currency="GBP">12.5');
  });

  it("when a field's name says nothing, then its list tells what the shop has there", () => {
    const shop = emptyShop();
    write(shop, "goods.csv", goods.replace("Colour", "Glaze"));
    lexicant(shop, ["import", "goods.csv", "--accept"]);
    write(shop, "acorn.csv", "SKU,Title,Coat\n");
    write(shop, "Coat.csv", "Coat\nGreen\nGrey\nBlue\n");
    expect(lexicant(shop, ["channels", "learn", "acorn", "acorn.csv", "Coat.csv"]).exit).toBe(0);
    const row = read(shop, "definitions/acorn/fields.csv")
      .split("\n")
      .find((line) => line.startsWith("coat,"));
    expect(row).toMatch(/,(?:color|glaze)$/);
  });

  it("when templates bear the names of the tree's roots, then each is for its branch", () => {
    const shop = emptyShop();
    write(shop, "tree.csv", "code,parent,name\n1,,Tools\n11,1,Spades\n2,,Clothes\n21,2,Smocks\n");
    write(shop, "acorn tools.csv", "SKU,Title,Price,Blade length\n");
    write(shop, "acorn clothes.csv", "SKU,Title,Price,Garment size,Care note\n");
    expect(
      lexicant(shop, ["channels", "learn", "acorn", "acorn tools.csv", "acorn clothes.csv", "tree.csv"]).exit,
    ).toBe(0);
    const fields = read(shop, "definitions/acorn/fields.csv");
    expect(fields).toMatch(/^blade_length,1,/m);
    expect(fields).toMatch(/^care_note,2,/m);
    expect(read(shop, "definitions/acorn/categories.csv").trim().split("\n")).toHaveLength(5);
  });
});

describe("a tree that the channel gives out itself", () => {
  it("when it is fetched by its version, then it is learned beside the one in use and can be compared", async () => {
    const sandbox = await startSandbox();
    try {
      const shop = reaching(demoShop(), sandbox, ["merrowgate"]);
      const ran = lexicant(shop, ["channels", "learn", "merrowgate", "--fetch", "2026.2", "--as", "2027.1"], {
        env: exchangeEnvironment,
      });
      expect([ran.exit, ran.err]).toEqual([0, ""]);
      expect(ran.out).toContain("the tree alone is new: 1,514 categories");
      const [compared] = jsonLines(
        lexicant(shop, ["channels", "compare", "merrowgate", "2026.2", "2027.1", "--json"]).out,
      );
      expect(compared).toMatchObject({ changes: 0, shop: { lost: 0 } });
      expect(
        lexicant(shop, ["channels", "learn", "merrowgate", "--fetch", "1999", "--as", "3"], {
          env: exchangeEnvironment,
        }).exit,
      ).toBeGreaterThan(0);
      expect(lexicant(shop, ["channels", "learn", "lanternlist", "--fetch", "1", "--as", "3"]).err).toContain(
        "exchange.address",
      );
    } finally {
      await sandbox.stop();
    }
  });
});

describe("samples of what a channel takes", () => {
  it("when it is JSON-LD or Atom, then the definition can be used, and questions that are alike are one", () => {
    const shop = emptyShop();
    write(shop, "goods.csv", goods);
    lexicant(shop, ["import", "goods.csv", "--accept"]);
    const products = ["A", "B"].map((sku) => ({
      "@context": "https://schema.org",
      "@type": "Product",
      sku,
      name: "Spade",
      brand: { "@type": "Brand", name: "Hollinside" },
      offers: { "@type": "Offer", price: "12.50", priceCurrency: "GBP" },
    }));
    write(shop, "sample.jsonld", JSON.stringify(products));
    const ran = lexicant(shop, ["channels", "learn", "linked", "sample.jsonld"]);
    expect([ran.exit, ran.err]).toEqual([0, ""]);
    expect(ran.out).toMatch(/and \d+ more: need optional\? the sample/);
    expect(read(shop, "definitions/linked/fields.csv")).toMatch(/^name_2,[^\n]*,brand/m);
    write(
      shop,
      "sample.atom",
      `<feed xmlns="http://www.w3.org/2005/Atom" xmlns:q="urn:q">${["1", "2"].map((id) => `<entry><id>${id}</id><title>Spade</title><link href="https://x.example/"/><summary>Long</summary><q:price>12.50</q:price></entry>`).join("")}</feed>`,
    );
    expect(lexicant(shop, ["channels", "learn", "fed", "sample.atom"]).exit).toBe(0);
    for (const channel of ["linked", "fed"]) {
      lexicant(shop, ["channels", "add", channel]);
      // No product says where the shop is, and a feed shows it.
      const settings = `channels/${channel}/channel.yaml`;
      write(shop, settings, `${read(shop, settings)}account:\n  shop_url: https://x.example/\n`);
      expect(lexicant(shop, ["build", channel])).toMatchObject({ exit: 0, err: "" });
    }
    expect(read(shop, "out/fed/fed.xml")).toContain("<q:price>12.5");
    expect(JSON.stringify(JSON.parse(read(shop, "out/linked/linked.jsonld")))).toContain('"sku":"A-1"');
  });
});
