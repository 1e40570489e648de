/**
 * Every kind of value with what holds of it: its words, what its values are to expressions, how a text is read as one. A new
 * kind is its name in `value.ts` and a row here; the compiler says what is missing.
 */
import { isTwoDates, readDate } from "./date.js";
import { isDecimal } from "./decimal.js";
import { readGtin } from "./gtin.js";
import { readIsbn } from "./isbn.js";
import {
  fromDigits,
  orProblem,
  readDecimal,
  readMeasure,
  readMoney,
  readUrl,
  type Reading,
  type ReadingDefaults,
  type ReadingProblem,
} from "./readers.js";
import { isDate, isMeasure, isMoney, type Kind, type Value } from "./value.js";
import { readYesNo } from "./yes-no.js";

/** What a value is, whatever rules its kind adds to it. */
export type Nature = "text" | "number" | "money" | "measure" | "date" | "yes-no";

/** What holds of a kind. */
export interface KindFacts {
  /** Of one and of several, in a sentence. */
  readonly words: readonly [one: string, several: string];
  readonly nature: Nature;
  /** Whether any text is one, just as it stands. */
  readonly isAnyText: boolean;
  /** Whether its stored text is its value already. */
  readonly isStoredAsItIs: boolean;
  /** Whether a value that is no text is one of the kind; texts are read. */
  is(value: Value): boolean;
  /** Reads a cleaned, non-empty text. */
  read(text: string, defaults: ReadingDefaults): Reading;
  /** What is wrong with a text that is longer than any of the kind; undefined: texts may be long. */
  readonly tooLong?: ReadingProblem;
}

const asItStands = (text: string): Reading => ({ value: text });
const noText = (): boolean => false;

/** A text of any content. */
const anyText = { nature: "text", isAnyText: true, is: noText, read: asItStands } as const;
/** A text that rules of its own are read by. */
const ruledText = { nature: "text", isAnyText: false, is: noText } as const;
const noAnyText = { isAnyText: false, isStoredAsItIs: false } as const;

/** What holds of each kind. */
export const kindFacts: { readonly [K in Kind]: KindFacts } = {
  text: { ...anyText, words: ["text", "texts"], isStoredAsItIs: true },
  html: { ...anyText, words: ["HTML text", "HTML texts"], isStoredAsItIs: true },
  choice: { ...anyText, words: ["choice", "choices"], isStoredAsItIs: false },
  integer: {
    ...noAnyText,
    words: ["whole number", "whole numbers"],
    nature: "number",
    is: (value) => isDecimal(value) && value.isInteger(),
    read: (text, defaults) => readDecimal(text, defaults, true),
    tooLong: "not-a-number",
  },
  decimal: {
    ...noAnyText,
    words: ["number", "numbers"],
    nature: "number",
    is: isDecimal,
    read: (text, defaults) => readDecimal(text, defaults, false),
    tooLong: "not-a-number",
  },
  money: {
    ...noAnyText,
    words: ["price", "prices"],
    nature: "money",
    is: isMoney,
    read: readMoney,
    tooLong: "not-money",
  },
  measure: {
    ...noAnyText,
    words: ["measure", "measures"],
    nature: "measure",
    is: isMeasure,
    read: readMeasure,
    tooLong: "not-a-measure",
  },
  date: {
    ...noAnyText,
    words: ["date", "dates"],
    nature: "date",
    is: isDate,
    read: (text, { dateOrder }) =>
      orProblem(readDate(text, dateOrder), isTwoDates(text, dateOrder) ? "two-ways-date" : "not-a-date"),
    tooLong: "not-a-date",
  },
  "yes-no": {
    ...noAnyText,
    words: ["yes or no", "yes or no"],
    nature: "yes-no",
    is: (value) => typeof value === "boolean",
    read: (text) => orProblem(readYesNo(text), "not-yes-or-no"),
  },
  url: { ...ruledText, words: ["web address", "web addresses"], isStoredAsItIs: true, read: readUrl },
  gtin: {
    ...ruledText,
    words: ["GTIN", "GTINs"],
    isStoredAsItIs: false,
    read: (text) => fromDigits(readGtin(text)),
  },
  isbn: {
    ...ruledText,
    words: ["ISBN", "ISBNs"],
    isStoredAsItIs: false,
    read: (text) => fromDigits(readIsbn(text)),
  },
};
