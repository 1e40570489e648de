import { assertNever } from "../../assert-never.js";
import type { Kind } from "../../values/value.js";
import { attributeKind, WAS_PRICE } from "../vocabulary.js";
import type { ColumnShape } from "./column-shape.js";
import type { SampleColumn } from "./sample-column.js";

/** An attribute that a column can mean. */
export interface Candidate {
  readonly attribute: string;
  readonly confidence: number;
}

const share = (value: number): number => Math.min(1, value * 1.1);

/** How well values fit a kind, 0 to 1; a column without values fits everything half. */
const fit = (attribute: string, kind: Kind, shape: ColumnShape): number => {
  if (shape.filled === 0) return 0.6;
  switch (kind) {
    case "gtin":
      return share(shape.gtin);
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
};

/** Texts fit texts; what is plainly a barcode, a picture or a price is no name or colour. */
const textFit = (attribute: string, shape: ColumnShape): number => {
  const { gtin, url, moneySign, averageLength, number, date } = shape;
  const foreign = Math.max(attribute === "mpn" || attribute === "sku" ? 0 : gtin, url, moneySign);
  const words = 1 - foreign;
  switch (attribute) {
    case "name":
      return words * (number > 0.8 ? 0.2 : 1) * (averageLength > 400 ? 0.4 : 1);
    case "description":
      return words * (averageLength < 8 ? 0.6 : 1);
    case "sku":
    case "mpn":
      return words * (shape.distinct < 0.3 && shape.filled > 5 ? 0.4 : 1) * (averageLength > 60 ? 0.2 : 1);
    case "color":
    case "material":
    case "brand":
    case "manufacturer":
      return words * (number > 0.6 ? 0.3 : 1) * (averageLength > 120 ? 0.4 : 1);
    case "category":
      return words * (number > 0.8 ? 0.5 : 1);
    default:
      return words * (date > 0.8 && attribute !== "size" ? 0.7 : 1);
  }
};

/** What values alone say where the name says nothing. */
const byShape = (shape: ColumnShape): readonly Candidate[] => {
  const found: Candidate[] = [];
  const add = (attribute: string, confidence: number): void => void found.push({ attribute, confidence });
  if (shape.filled < 1) return found;
  if (shape.isbn > 0.8 && shape.distinct > 0.5) add("isbn", 0.7 * shape.isbn);
  if (shape.gtin > 0.8 && shape.distinct > 0.5) add("gtin", 0.8 * shape.gtin);
  if (shape.pictureUrl > 0.6) add("images", 0.85 * shape.pictureUrl);
  else if (shape.url > 0.8 && shape.distinct > 0.5) add("url", 0.6);
  if (shape.moneySign > 0.7) add("price", 0.55);
  if (shape.html > 0.3 || shape.averageLength > 160) add("description", 0.65);
  if (shape.pathMark !== undefined && shape.distinct < 0.9 && shape.averageLength < 100 && shape.triple < 0.2)
    add("category", 0.5);
  return found;
};

/** What a column can mean, best first. */
export const candidates = ({ name, shape }: SampleColumn): readonly Candidate[] => {
  const found: Candidate[] = [...byShape(shape)];
  if (name.attribute !== undefined) {
    const { kind } = attributeKind(name.attribute === WAS_PRICE ? "price" : name.attribute);
    const fits = fit(name.attribute, kind, shape);
    found.push({
      attribute: name.attribute,
      confidence: name.certainty * (0.25 + 0.75 * fits) * (fits < 0.3 ? 0.5 : 1),
    });
  }
  return found.sort((a, b) => b.confidence - a.confidence);
};
