/** What a column's values look like: shares of numbers, links, barcodes, repeats. It knows no names. */
import { isCurrency } from "../../values/currencies.js";
import { readGtin } from "../../values/gtin.js";
import { readIsbn } from "../../values/isbn.js";
import { readValue } from "../../values/read.js";
import { characterCount } from "../../values/characters.js";
import { unitOf } from "../../values/units.js";
import { fold } from "../../values/text.js";
import { attributeForColumn, canBeAxis } from "../vocabulary.js";
import { readYesNo } from "../../values/yes-no.js";

/** What the sample values of one column look like: shares of the filled cells, from 0 to 1. */
export interface ColumnShape {
  readonly filled: number;
  /** Share of all sampled rows that have a value. */
  readonly density: number;
  readonly distinct: number;
  readonly gtin: number;
  readonly isbn: number;
  readonly pictureUrl: number;
  readonly url: number;
  readonly moneySign: number;
  readonly money: number;
  readonly number: number;
  readonly whole: number;
  readonly withUnit: number;
  readonly date: number;
  readonly yesNo: number;
  readonly percent: number;
  /** Share that are short and without spaces, as codes are. */
  readonly codeLike: number;
  readonly digits: number;
  /** Share that are numbers as long as a barcode. */
  readonly longNumber: number;
  /** Share that are words for what members of a group differ in. */
  readonly axisName: number;
  /** Share that have letters beside each other, as words do. */
  readonly words: number;
  /** Share that are names of units. */
  readonly unitName: number;
  readonly html: number;
  readonly triple: number;
  readonly currencyCode: number;
  readonly averageLength: number;
  /** The mark between the levels of a path, where most values are paths. */
  readonly pathMark: string | undefined;
  readonly samples: readonly string[];
}

const picture = /\.(?:jpe?g|png|webp|gif|avif|tiff?|bmp)(?:$|[?#,;|\s])/i;
const web = /^https?:\/\//i;
const moneySign =
  /^(?:[£€$¥₹]|(?:GBP|EUR|USD|CHF|SEK|NOK|DKK|PLN)\b)|(?:[£€$¥₹]|\b(?:GBP|EUR|USD|CHF|SEK|NOK|DKK|PLN|kr|zł))$/;
const money = /^\d{1,7}(?:[.,]\d{3})*[.,]\d{2}$/;
const number = /^-?\d{1,12}(?:[.,]\d{1,6})?$/;
const amount = String.raw`(?:\d[\d.,]*(?:[ -]\d{1,2}\/\d{1,2})?|\d{1,2}\/\d{1,2}|\d*[½¼¾⅛⅜⅝⅞])`;
const inUnit = String.raw`\s*(?:[a-z"″]{1,3}\.?)?\s*`;
const triple = new RegExp(`^${amount}${inUnit}[x×*]\\s*${amount}${inUnit}[x×*]\\s*${amount}${inUnit}$`, "i");
const pathMarks = [" > ", ">", " / ", "/", "|", " » ", " - "] as const;

const isMeasure = (text: string): boolean =>
  /[a-z"″′]/i.test(text) &&
  ("value" in readValue("measure", text) || "value" in readValue("measure", text, { decimalMark: "," }));

const isDate = (text: string): boolean =>
  /\d{4}/.test(text) &&
  /^\d{1,4}[-/. ]/.test(text) &&
  "value" in readValue("date", text, { dateOrder: "dmy" });

/** Measures a column's shape over sampled cells. */
export function columnShape(cells: readonly string[]): ColumnShape {
  const values = cells.map((cell) => cell.trim()).filter(Boolean);
  const share = (holds: (text: string) => boolean): number =>
    values.length === 0 ? 0 : values.filter(holds).length / values.length;
  return {
    filled: values.length,
    density: cells.length === 0 ? 0 : values.length / cells.length,
    distinct: values.length === 0 ? 0 : new Set(values).size / values.length,
    gtin: share((text) => /^[\d\s-]{8,18}$/.test(text) && "digits" in readGtin(text)),
    isbn: share(
      (text) => /^(?:97[89][\d-]{10,14}|[\d-]{9,12}[\dX])$/i.test(text) && "digits" in readIsbn(text),
    ),
    pictureUrl: share((text) => picture.test(text)),
    url: share((text) => web.test(text)),
    moneySign: share((text) => /\d/.test(text) && moneySign.test(text)),
    money: share((text) => money.test(text)),
    number: share((text) => number.test(text)),
    whole: share((text) => /^-?\d{1,9}$/.test(text)),
    withUnit: share(isMeasure),
    date: share(isDate),
    yesNo: share((text) => readYesNo(text) !== undefined),
    percent: share((text) => /^-?\d{1,3}(?:[.,]\d+)?\s*%$/.test(text)),
    codeLike: share((text) => text.length <= 40 && !/\s/.test(text)),
    unitName: share((text) => text.length < 12 && unitOf(text) !== undefined),
    html: share((text) => /<\/?[a-z][^>]*>/i.test(text)),
    triple: share((text) => triple.test(text)),
    currencyCode: share((text) => isCurrency(text)),
    axisName: share((text) =>
      text.split(/[|;,]/).every((word) => canBeAxis(attributeForColumn(fold(word)) ?? "")),
    ),
    longNumber: share((text) => /^\d{8}$|^\d{12,14}$/.test(text)),
    digits: share((text) => /\d/.test(text)),
    words: share((text) => /\p{L}{3}/u.test(text)),
    averageLength:
      values.length === 0 ? 0 : values.reduce((sum, text) => sum + characterCount(text), 0) / values.length,
    pathMark: pathMarks.find(
      (mark) => share((text) => text.includes(mark)) > 0.5 && share((text) => web.test(text)) < 0.1,
    ),
    samples: [...new Set(values)].slice(0, 3),
  };
}
