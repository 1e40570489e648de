import { describe, expect, it } from "vitest";
import { readJsonSchema } from "../../../src/core/learning/schemas/json-schema.js";
import { readSample } from "../../../src/core/learning/schemas/sample-tree.js";
import type { SchemaReading } from "../../../src/core/learning/schemas/schema-reading.js";
import { MOST_FIELDS } from "../../../src/core/learning/schemas/unfolding.js";
import { readXmlSchema } from "../../../src/core/learning/schemas/xml-schema.js";
import { readPapers } from "../../../src/formats/paper-files.js";
import type { TreePaper } from "../../../src/core/learning/paper.js";
import { temporaryFolder, write } from "../../kit/run.js";
import { join } from "node:path";

const paperOf = async (name: string, text: string): Promise<TreePaper> => {
  const folder = temporaryFolder();
  write(folder, name, text);
  const [paper] = (await readPapers(join(folder, name), name)).papers;
  return paper as TreePaper;
};

const shown = (reading: SchemaReading | undefined): readonly string[] =>
  (reading?.fields ?? []).map(({ path, kind, isRequired, many, limits, values }) =>
    [
      path,
      kind ?? "?",
      isRequired ? "must" : "may",
      ...(many === undefined ? [] : [`×${many}`]),
      ...Object.entries(limits).map(([key, value]) => `${key} ${value}`),
      ...(values.length > 0 ? [values.join("|")] : []),
    ].join(", "),
  );

const xsd = `<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema" targetNamespace="urn:x">
  <xs:simpleType name="Short"><xs:restriction base="xs:string"><xs:minLength value="1"/><xs:maxLength value="40"/></xs:restriction></xs:simpleType>
  <xs:attributeGroup name="keys"><xs:attribute name="no" type="xs:string" use="required"/></xs:attributeGroup>
  <xs:group name="looks"><xs:sequence><xs:element name="hue" minOccurs="0"><xs:simpleType><xs:restriction base="xs:string"><xs:enumeration value="Green"/><xs:enumeration value="Grey"/></xs:restriction></xs:simpleType></xs:element></xs:sequence></xs:group>
  <xs:complexType name="Base"><xs:sequence><xs:element name="title" type="Short"/></xs:sequence><xs:attributeGroup ref="keys"/></xs:complexType>
  <xs:complexType name="Article"><xs:complexContent><xs:extension base="Base"><xs:sequence>
    <xs:group ref="looks"/>
    <xs:choice><xs:element name="isbn" type="xs:string"/><xs:element name="ean" type="xs:string"/></xs:choice>
    <xs:element name="price"><xs:complexType><xs:simpleContent><xs:extension base="xs:decimal"><xs:attribute name="currency" use="required"/></xs:extension></xs:simpleContent></xs:complexType></xs:element>
    <xs:element name="parcel" minOccurs="0"><xs:complexType><xs:all><xs:element name="weight" type="xs:decimal"/></xs:all></xs:complexType></xs:element>
    <xs:element name="photos"><xs:complexType><xs:sequence><xs:element name="photo" type="xs:anyURI" maxOccurs="8"/></xs:sequence></xs:complexType></xs:element>
    <xs:element name="stock" type="xs:nonNegativeInteger" maxOccurs="1"/>
  </xs:sequence></xs:extension></xs:complexContent></xs:complexType>
  <xs:element name="goods"><xs:complexType><xs:sequence><xs:element name="article" type="Article" maxOccurs="unbounded"/></xs:sequence></xs:complexType></xs:element>
</xs:schema>`;

describe("schemas that are open standards", () => {
  it("when an XML Schema names its types, then fields, needs, kinds, limits, lists and nesting are found", async () => {
    const reading = readXmlSchema(await paperOf("x.xsd", xsd));
    expect(reading).toMatchObject({ root: "goods", row: "article", namespace: "urn:x", member: "" });
    expect(shown(reading)).toEqual([
      "@no, text, must",
      "title, text, must, min_length 1, max_length 40",
      "hue, choice, may, Green|Grey",
      "isbn, text, may",
      "ean, text, may",
      "price, decimal, must",
      "price/@currency, text, must",
      "parcel/weight, decimal, may",
      "photos/photo, url, must, ×8",
      "stock, integer, must, min 0",
    ]);
  });

  it("when an element with fields of its own repeats within the listing, then it is a group's member", async () => {
    const reading = readXmlSchema(
      await paperOf(
        "y.xsd",
        xsd.replace(
          '<xs:element name="stock"',
          '<xs:element name="variant" maxOccurs="unbounded"><xs:complexType><xs:sequence><xs:element name="sku" type="xs:string"/><xs:element name="size" type="xs:string"/><xs:element name="count" type="xs:integer"/></xs:sequence></xs:complexType></xs:element><xs:element name="stock"',
        ),
      ),
    );
    expect(reading?.member).toBe("variant");
    expect(reading?.fields.filter(({ isMembers }) => isMembers).map(({ path }) => path)).toEqual([
      "sku",
      "size",
      "count",
    ]);
  });

  it("when a schema's types go round in circles, then reading ends", async () => {
    const round = xsd.replace(
      '<xs:element name="stock"',
      '<xs:element name="again" type="Article" minOccurs="0"/><xs:element name="stock"',
    );
    expect(readXmlSchema(await paperOf("z.xsd", round))?.fields.length).toBeGreaterThan(5);
    const schema = {
      $schema: "https://json-schema.org/draft/2020-12/schema",
      type: "object",
      properties: { a: { type: "string" }, b: { type: "string" }, c: { $ref: "#" } },
    };
    expect(readJsonSchema(await paperOf("z.json", JSON.stringify(schema)))?.fields.length).toBeGreaterThan(2);
  });

  /** Thirty parts, of which each names the next one twice: a thousand million ends. */
  const doubling = (part: (at: number, next: number) => string): string =>
    Array.from({ length: 30 }, (_, at) => part(at, at + 1)).join("");
  const xsdWith = (parts: string, inside: string): string =>
    `<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema">${parts}<xs:element name="goods"><xs:complexType><xs:sequence>
    <xs:element name="article" maxOccurs="unbounded"><xs:complexType><xs:sequence><xs:element name="no" type="xs:string"/>
    <xs:element name="title" type="xs:string"/><xs:element name="hue" type="xs:string"/>${inside}</xs:sequence></xs:complexType></xs:element>
    </xs:sequence></xs:complexType></xs:element></xs:schema>`;

  it.each([
    [
      "types within types",
      xsdWith(
        doubling(
          (at, next) =>
            `<xs:simpleType name="T${at}"><xs:union memberTypes="T${next} T${next}"/></xs:simpleType>`,
        ),
        '<xs:element name="size" type="T0"/>',
      ),
    ],
    [
      "elements within elements",
      xsdWith(
        doubling(
          (at, next) =>
            `<xs:complexType name="T${at}"><xs:sequence><xs:element name="a" type="T${next}"/><xs:element name="b" type="T${next}"/></xs:sequence></xs:complexType>`,
        ),
        '<xs:element name="size" type="T0"/>',
      ),
    ],
    [
      "groups of groups",
      xsdWith(
        doubling(
          (at, next) =>
            `<xs:group name="T${at}"><xs:sequence><xs:group ref="T${next}"/><xs:group ref="T${next}"/></xs:sequence></xs:group>`,
        ),
        '<xs:group ref="T0"/>',
      ),
    ],
    [
      "groups of attributes",
      xsdWith(
        doubling(
          (at, next) =>
            `<xs:attributeGroup name="T${at}"><xs:attributeGroup ref="T${next}"/><xs:attributeGroup ref="T${next}"/></xs:attributeGroup>`,
        ),
        '<xs:element name="size"><xs:complexType><xs:attributeGroup ref="T0"/></xs:complexType></xs:element>',
      ),
    ],
  ])("when %s of an XML Schema double thirty times, then reading ends and has the rest", async (_, text) => {
    const reading = readXmlSchema(await paperOf("d.xsd", text));
    expect(reading?.fields.slice(0, 3).map(({ path }) => path)).toEqual(["no", "title", "hue"]);
    expect(reading?.fields.length).toBeLessThanOrEqual(MOST_FIELDS);
  });

  it.each([
    ["properties", (next: string) => ({ properties: { a: next, b: next } })],
    ["parts", (next: string) => ({ allOf: [next, next], properties: { a: { type: "string" } } })],
  ] as const)(
    "when %s of a JSON Schema double thirty times, or hold themselves, then reading ends and has the rest",
    async (_, part) => {
      const refer = (name: string): unknown => ({ $ref: `#/$defs/${name}` });
      const put = (name: string): unknown =>
        JSON.parse(
          JSON.stringify(part(name)).replaceAll(`"${name}"`, JSON.stringify(refer(name))),
        ) as unknown;
      for (const next of [(at: number) => `T${at + 1}`, () => "T0"]) {
        const named = Array.from({ length: 30 }, (__, at) => [`T${at}`, put(next(at))]);
        const text = JSON.stringify({
          $schema: "https://json-schema.org/draft/2020-12/schema",
          type: "object",
          properties: { no: { type: "string" }, title: { type: "string" }, size: refer("T0") },
          $defs: Object.fromEntries(named),
        });
        const reading = readJsonSchema(await paperOf("d.json", text));
        expect(reading?.fields.slice(0, 2).map(({ path }) => path)).toEqual(["no", "title"]);
        expect(reading?.fields.length).toBeLessThanOrEqual(MOST_FIELDS);
      }
    },
  );

  it("when a listing has more fields than any has, then the first are taken and the rest is told", async () => {
    const many = Object.fromEntries(Array.from({ length: 2100 }, (_, at) => [`f${at}`, { type: "string" }]));
    const reading = readJsonSchema(
      await paperOf("m.json", JSON.stringify({ $schema: "json-schema", type: "object", properties: many })),
    );
    expect(reading?.fields).toHaveLength(2000);
    expect(reading?.told).toEqual([
      "m.json: its parts unfold to more than 2,000 fields; the first 2,000 are taken",
    ]);
  });

  it("when something else than the listing has more, or what it stands in does, then that is no matter of it", async () => {
    const kinds = Array.from({ length: 30 }, (_, kind) => {
      const own = Array.from({ length: 100 }, (__, at) => `<xs:element name="f${at}" type="xs:string"/>`);
      return `<xs:element name="kind${kind}" maxOccurs="unbounded"><xs:complexType><xs:sequence>${own.join("")}</xs:sequence></xs:complexType></xs:element>`;
    });
    const reading = readXmlSchema(
      await paperOf(
        "k.xsd",
        `<xs:schema xmlns:xs="http://www.w3.org/2001/XMLSchema"><xs:element name="all"><xs:complexType><xs:sequence>${kinds.join("")}</xs:sequence></xs:complexType></xs:element></xs:schema>`,
      ),
    );
    expect([reading?.row, reading?.fields.length, reading?.told]).toEqual(["kind0", 100, []]);
  });

  it("when parts stand deeper within each other than any listing's, then what is deeper is left out and told", async () => {
    const named = Array.from({ length: 60 }, (_, at) => [
      `T${at}`,
      { type: "object", properties: { [`a${at}`]: { type: "string" }, in: { $ref: `#/$defs/T${at + 1}` } } },
    ]);
    const reading = readJsonSchema(
      await paperOf(
        "deep.json",
        JSON.stringify({
          $schema: "json-schema",
          type: "object",
          properties: { no: { type: "string" }, in: { $ref: "#/$defs/T0" } },
          $defs: Object.fromEntries(named),
        }),
      ),
    );
    expect(reading?.fields[0]?.path).toBe("no");
    expect(reading?.told).toEqual([
      "deep.json: parts stand more than 40 deep within each other; what is deeper is left out",
    ]);
  });

  it("when a JSON Schema refers to parts of itself, then fields, needs, kinds, limits and lists are found", async () => {
    const schema = {
      $schema: "https://json-schema.org/draft/2020-12/schema",
      type: "object",
      required: ["goods"],
      properties: { goods: { type: "array", items: { $ref: "#/$defs/article" } } },
      $defs: {
        base: { type: "object", required: ["id"], properties: { id: { type: "string", maxLength: 20 } } },
        article: {
          allOf: [{ $ref: "#/$defs/base" }],
          required: ["title"],
          properties: {
            title: { type: "string", minLength: 3, maxLength: 80 },
            price: { type: "number", minimum: 0, multipleOf: 0.01 },
            stock: { type: ["integer", "null"], maximum: 999 },
            state: { enum: ["New", "Used"] },
            photos: { type: "array", maxItems: 5, items: { type: "string", format: "uri" } },
            box: { type: "object", required: ["weight"], properties: { weight: { type: "number" } } },
            gift: { type: "boolean" },
            since: { type: "string", format: "date" },
          },
        },
      },
    };
    const reading = readJsonSchema(await paperOf("s.json", JSON.stringify(schema)));
    expect(reading).toMatchObject({ format: "json", root: "goods" });
    expect(shown(reading)).toEqual([
      "id, text, must, max_length 20",
      "title, text, must, min_length 3, max_length 80",
      "price, decimal, may, min 0, decimals 2",
      "stock, integer, may, max 999",
      "state, choice, may, New|Used",
      "photos, url, may, ×5",
      "box/weight, decimal, may",
      "gift, yes-no, may",
      "since, date, may",
    ]);
  });

  it.each([
    [
      "feed.xml",
      '<rss version="2.0" xmlns:q="urn:q"><channel><title>t</title><item><title>a</title><link>https://x.example</link><q:sku>1</q:sku><q:price>2.00</q:price></item></channel></rss>',
      { format: "rss", prefix: "q", namespace: "urn:q" },
      ["title", "link", "q:sku", "q:price"],
    ],
    [
      "feed.atom",
      '<feed xmlns="http://www.w3.org/2005/Atom" xmlns:q="urn:q"><entry><id>1</id><title>a</title><link href="https://x.example"/><q:sku>1</q:sku></entry></feed>',
      { format: "atom", prefix: "q" },
      ["id", "title", "link", "link/@href", "q:sku"],
    ],
    [
      "goods.jsonld",
      JSON.stringify([
        { "@context": "https://schema.org", "@type": "Product", sku: "1", name: "a", offers: { price: "2" } },
        { "@context": "https://schema.org", "@type": "Product", sku: "2", name: "b", offers: { price: "3" } },
      ]),
      { format: "jsonld" },
      ["@context", "@type", "sku", "name", "offers/price"],
    ],
    [
      "goods.xml",
      "<goods><one no='1'><title>a</title><pic>x</pic><pic>y</pic><size>M</size></one><one no='2'><title>b</title><pic>z</pic><size>L</size></one></goods>",
      { format: "xml", root: "goods", row: "one" },
      ["@no", "title", "pic", "size"],
    ],
  ])("when a sample is %s, then its listings' fields are found", async (name, text, wanted, paths) => {
    const reading = readSample(await paperOf(name, text));
    expect(reading).toMatchObject({ ...wanted, isSample: true });
    expect(reading?.fields.map(({ path }) => path)).toEqual(paths);
  });

  it.each([
    ["bomb.xml", '<!DOCTYPE x [<!ENTITY a "aaa">]><x>&a;</x>', "xml-entities"],
    ["cut.xml", "<x><a>1</a>", "broken-data"],
    ["deep.xml", "<a>".repeat(200) + "</a>".repeat(200), "broken-data"],
    ["cut.json", '{"a":', "broken-data"],
    ["bytes.csv", "\u0000\u0001\u0002\u0000", "not-a-table"],
    ["empty.csv", "", "not-a-table"],
  ])("when %s is given, then it is refused", async (name, text, code) => {
    await expect(paperOf(name, text)).rejects.toMatchObject({ findings: [{ code }] });
  });
});
