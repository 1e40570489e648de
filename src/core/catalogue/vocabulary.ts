import type { Kind } from "../values/value.js";

/** What is known of an attribute: its kind, whether it holds several values, and other usual names for it. */
export interface AttributeKind {
  readonly kind: Kind;
  readonly list: boolean;
}

interface VocabularyEntry extends AttributeKind {
  readonly name: string;
  readonly synonyms: readonly string[];
}

// name | kind (a trailing * means several) | other usual column names, folded
const table = `
sku | text | item number; item no; article; article number; article no; product code; stock code; item code; product number; sku code; stock keeping unit
group | text | parent sku; family; product group; variant group; parent; style number; item group; parent code
varies_by | text* | varies by; variation axes; options
name | text | title; product name; item name; product title; item title
description | html | long description; product description; long text; body; text; details; full description
features | text* | bullet points; bullets; key features; highlights
keywords | text* | search words; tags
brand | text | brand name; make
manufacturer | text | maker; producer; manufacturer name; vendor
mpn | text | manufacturer part number; part number; maker s number; part no; model number; model no; maker s no
gtin | gtin | barcode; ean; upc; ean code; ean 13; gtin 13; upc code; bar code; international article number
isbn | gtin | isbn 13; isbn 10; isbn number
category | text | product category; category path; section; department; product type; range
color | text | colour; colour name; color name
size | text | size name; size label
material | text | made of; fabric; material composition
pattern | text | design; pattern name
condition | text | item condition; state
price | money | selling price; unit price; retail price; sales price; our price; price incl vat; price gross; current price
list_price | money | rrp; recommended price; msrp; recommended retail price; was price
sale_price | money | offer price; special price; promotional price; reduced price; discount price
sale_from | date | sale start; offer from; special from; sale start date; promotion start
sale_until | date | sale end; offer until; special to; sale end date; promotion end
tax_rate | decimal | vat; vat rate; tax; vat percent; tax percent
cost | money | cost price; purchase price; buying price; net cost
quantity | integer | qty; stock; in stock; stock level; stock quantity; on hand; inventory; stock on hand; available quantity
availability | text | availability status; stock status
available_from | date | release date; available date; back in stock on
images | url* | image; image url; picture; image urls; picture url; photo; main image; pictures; photos; image links
url | url | link; product url; page; product page; web address; page url
weight | measure | item weight; net weight; weight net; product weight
width | measure | item width; product width
height | measure | item height; product height
depth | measure | length; item depth; product depth; item length
package_weight | measure | shipping weight; gross weight; parcel weight; delivery weight; packed weight; weight gross
package_width | measure | shipping width; parcel width; carton width
package_height | measure | shipping height; parcel height; carton height
package_depth | measure | shipping depth; parcel depth; parcel length; carton length; shipping length; package length
country_of_origin | text | origin; made in; country of manufacture; origin country; country
hazard | text | hazardous; dangerous goods; hazard class; un number
battery | text | batteries; battery type; contains battery
age_group | text | age; ages; recommended age
gender | text | sex; for whom
unit_quantity | measure | contents; content; net content; unit amount; pack content
digital | yes-no | is digital; download; digital product; virtual
`;

const entries: readonly VocabularyEntry[] = table
  .trim()
  .split("\n")
  .map((line) => {
    const [name = "", kind = "", synonyms = ""] = line.split("|").map((cell) => cell.trim());
    return {
      name,
      kind: kind.replace("*", "") as Kind,
      list: kind.endsWith("*"),
      synonyms: synonyms.split("; ").filter(Boolean),
    };
  });

const byName = new Map(entries.map((entry) => [entry.name, entry]));
const bySynonym = new Map(
  entries.flatMap((entry) => [
    [entry.name.replaceAll("_", " "), entry.name] as const,
    ...entry.synonyms.map((synonym) => [synonym, entry.name] as const),
  ]),
);

/** Names of the master catalogue's own attributes, after schema.org and GS1. */
export const vocabulary: readonly string[] = entries.map((entry) => entry.name);

const userAttribute: AttributeKind = { kind: "text", list: false };

/** `name@de` is the name in German, `price@EUR` the price in euro: both have the kind of the name before the `@`. */
export const attributeKind = (attribute: string): AttributeKind => {
  const at = attribute.indexOf("@");
  return byName.get(at < 0 ? attribute : attribute.slice(0, at)) ?? userAttribute;
};

/** The attribute that a folded column name usually stands for; undefined when none is known. */
export const attributeForColumn = (foldedColumn: string): string | undefined => bySynonym.get(foldedColumn);

const attributeName = /^[a-z][a-z0-9_]*(@[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*)?$/;

/** Attribute names are snake_case, with an optional language or currency after `@`. */
export const isAttributeName = (name: string): boolean => attributeName.test(name);
