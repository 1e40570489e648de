/**
 * What a column can mean: its name held against its values, its neighbours, and what the catalogue knows. Ranks;
 * `propose.ts` chooses.
 */
import { ownOf } from "../../own.js";
import { assertNever } from "../../assert-never.js";
import type { Kind } from "../../values/value.js";
import { attributeKind, WAS_PRICE, saysWhere } from "../vocabulary.js";
import type { ColumnShape } from "./column-shape.js";
import type { SampleColumn } from "./sample-column.js";

/** An attribute that a column can mean. */
export interface Candidate {
  readonly attribute: string;
  readonly confidence: number;
}

const share = (value: number): number => Math.min(1, value * 1.1);

/** How well values fit a kind, 0 to 1; a column without values fits everything half. */
function fit(attribute: string, kind: Kind, shape: ColumnShape): number {
  if (shape.filled === 0) return 0.6;
  switch (kind) {
    case "gtin":
      // Numbers of its length whose check digits are wrong are still meant for it; nobody is sure of them.
      return Math.max(share(shape.gtin), shape.longNumber * 0.45);
    case "isbn":
      return share(shape.isbn);
    case "money":
      return share(Math.max(shape.money, shape.moneySign, shape.number * 0.9));
    case "integer":
      return share(Math.max(shape.whole, shape.number * 0.8));
    case "decimal":
      return share(Math.max(shape.number, shape.percent));
    case "measure":
      return share(Math.max(shape.number, shape.withUnit, shape.triple));
    case "date":
      return share(shape.date);
    case "yes-no":
      return share(shape.yesNo);
    case "url":
      return attribute === "images"
        ? share(Math.max(shape.pictureUrl, shape.url))
        : share(shape.url * (1 - shape.pictureUrl));
    case "text":
    case "html":
    case "choice":
      return textFit(attribute, shape);
    default:
      return assertNever(kind);
  }
}

/** Texts fit texts; what is plainly a barcode, a picture or a price is no name or colour. */
function textFit(attribute: string, shape: ColumnShape): number {
  const { gtin, url, moneySign, averageLength, number, date } = shape;
  const foreign = Math.max(attribute === "mpn" || attribute === "sku" ? 0 : gtin, url, moneySign);
  const words = 1 - foreign;
  switch (attribute) {
    case "name":
      return words * (number > 0.8 ? 0.2 : 1) * (averageLength > 400 ? 0.4 : 1);
    case "description":
      return words * (averageLength < 8 ? 0.6 : 1) * (number > 0.8 ? 0.1 : 1);
    case "sku":
    case "mpn":
      return (
        words *
        (shape.distinct < 0.3 && shape.filled > 5 ? 0.4 : 1) *
        (averageLength > 60 ? 0.2 : 1) *
        // Words without a digit are what a thing is called.
        (shape.digits < 0.2 && shape.codeLike < 0.5 ? 0.3 : 1)
      );
    case "color":
    case "material":
    case "brand":
    case "manufacturer":
      return words * (number > 0.6 ? 0.3 : 1) * (averageLength > 120 ? 0.4 : 1);
    case "category":
      return words * (number > 0.8 ? 0.5 : 1) * (date > 0.5 ? 0.2 : 1);
    default:
      return words * (date > 0.8 && attribute !== "size" ? 0.7 : 1);
  }
}

/** What values alone say where the name says nothing. */
function byShape(shape: ColumnShape): readonly Candidate[] {
  const found: Candidate[] = [];
  const add = (attribute: string, confidence: number): void => void found.push({ attribute, confidence });
  if (shape.filled < 1) return found;
  if (shape.isbn > 0.8 && shape.distinct > 0.5) add("isbn", 0.7 * shape.isbn);
  if (shape.gtin > 0.8 && shape.distinct > 0.5) add("gtin", 0.8 * shape.gtin);
  if (shape.pictureUrl > 0.6) add("images", 0.85 * shape.pictureUrl);
  else if (shape.url > 0.8 && shape.distinct > 0.5) add("url", 0.6);
  if (shape.moneySign > 0.7) add("price", 0.55);
  if (shape.html > 0.3 || shape.averageLength > 160) add("description", 0.65);
  if (
    shape.pathMark !== undefined &&
    shape.date < 0.2 &&
    shape.words > 0.8 &&
    (shape.distinct < 0.9 || shape.filled < 6) &&
    shape.averageLength < 100 &&
    shape.triple < 0.2
  )
    add("category", 0.5);
  return found;
}

/** Names that stand for a number here and for words there, or for few values and for many. */
const ambiguous: Readonly<Record<string, readonly string[]>> = {
  label: ["name", "brand"],
  item: ["name", "sku"],
  product: ["name", "sku"],
  article: ["name", "sku"],
  artikel: ["name", "sku"],
  artículo: ["name", "sku"],
  articulo: ["name", "sku"],
  artykuł: ["name", "sku"],
  part: ["name", "mpn"],
  model: ["group", "mpn", "name"],
  modell: ["group", "mpn", "name"],
  house: ["brand", "manufacturer"],
  "item group": ["category", "group"],
  "material group": ["category", "group"],
  "mat group": ["category", "group"],
  "product group": ["category", "group"],
  "goods group": ["category", "group"],
  series: ["category", "group"],
  serie: ["category", "group"],
  série: ["category", "group"],
  reeks: ["category", "group"],
  description: ["description", "name"],
  text: ["description", "name"],
  omschrijving: ["name", "description"],
};

/** How well values fit one of several meanings: codes have digits and no blanks, names differ, brands come again. */
function fitsAs(
  attribute: string,
  { digits, codeLike, distinct, words, averageLength, filled }: ColumnShape,
): number {
  const areCodes = filled > 0 && codeLike > 0.9 && digits > 0.6;
  switch (attribute) {
    case "sku":
    case "mpn":
      return areCodes && distinct > 0.9 ? 1 : 0.2;
    case "group":
      return codeLike > 0.9 && digits > 0.4 && distinct < 1 ? 1.05 : 0.4;
    case "category":
      return words > 0.8 ? 1 : 0.4;
    case "brand":
    case "manufacturer":
      return distinct < 0.7 ? 1.05 : 0.5;
    case "name":
      return areCodes ? 0.3 : averageLength > 60 ? 0.5 : distinct > 0.7 ? 1.02 : 0.6;
    case "description":
      return averageLength > 60 ? 1 : 0.5;
    default:
      return 1;
  }
}

/** Fewer values, or fewer that are such words, tell nothing. */
const FEW = 3;
const MOSTLY = 0.6;
const TOLD = 0.75;

const MOSTLY_KNOWN = 0.8;

/** Whether the catalogue knows a column's values, as brands say, and none of them as what the column is called. */
const isKnownOtherwise = (attribute: string, known: SampleColumn["known"]): boolean =>
  (attribute === "category" || attribute === "brand") &&
  (ownOf(known, attribute) ?? 0) === 0 &&
  Object.values(known).some((share) => share >= MOSTLY_KNOWN);

/** What a column can mean, best first. */
export function candidates({ name, shape, known, told }: SampleColumn): readonly Candidate[] {
  const found: Candidate[] = [...byShape(shape)];
  for (const attribute of ownOf(ambiguous, name.words) ?? []) {
    const fits = fit(attribute, attributeKind(attribute).kind, shape) * fitsAs(attribute, shape);
    found.push({ attribute, confidence: 0.84 * Math.min(1, fits) });
  }
  // "Sold in packs of" is no country, and what one channel lists is not listed everywhere: such names are meant whole or not.
  const isPart = name.certainty < 1 && saysWhere.includes(name.attribute ?? "");
  if (name.attribute !== undefined && !isPart && ownOf(ambiguous, name.words) === undefined) {
    const { kind } = attributeKind(name.attribute === WAS_PRICE ? "price" : name.attribute);
    const fits = fit(name.attribute, kind, shape) * (isKnownOtherwise(name.attribute, known) ? 0.5 : 1);
    found.push({
      attribute: name.attribute,
      confidence: name.certainty * (0.25 + 0.75 * fits) * (fits < 0.3 ? 0.5 : 1),
    });
  }
  for (const [attribute, share] of Object.entries(known)) {
    const isEnough = share >= (attribute === "gtin" ? 0.3 : 0.6);
    // What products have under a number is that number, whatever the column is called.
    const isKey = attribute === "sku" || attribute === "mpn" || attribute === "gtin";
    if (isEnough)
      found.push({ attribute, confidence: isKey ? 1 + share / 10 : Math.min(0.97, 0.6 + share * 0.4) });
  }
  // Words for colours or materials tell what a name does not; never as surely as a name would.
  if (name.attribute === undefined && told !== undefined && shape.filled >= FEW)
    for (const attribute of ["color", "material"] as const)
      if (told[attribute] >= MOSTLY) found.push({ attribute, confidence: TOLD * told[attribute] });
  return found.sort((a, b) => b.confidence - a.confidence);
}
