/** Pieces of sentences: quoted values, counts, lists, near names. All that is worded goes through them. */
import type { Damage } from "../values/damage.js";
import type { ReadingProblem } from "../values/read.js";

const SHOWN_LENGTH = 60;

/** A text in quotes, on one line, cut where it is long. */
export function quote(text: string): string {
  const line = text.replace(/\s+/g, " ");
  return `"${line.length > SHOWN_LENGTH ? `${line.slice(0, SHOWN_LENGTH)}…` : line}"`;
}

/** `1 product`, `1,200 products`. */
export const countText = (count: number, one: string, many = `${one}s`): string =>
  `${count.toLocaleString("en")} ${count === 1 ? one : many}`;

/** Names in quotes, one behind the other. */
export const listed = (names: readonly string[]): string => names.map(quote).join(", ");

/** `; nearest: "a", "b"`, or nothing. */
export const orNearest = (names: readonly string[]): string =>
  names.length === 0 ? "" : `; nearest: ${listed(names)}`;

/** `an amend`, `a stock`: a word with the article before it. */
export const withArticle = (word: string): string => `${/^[aeiou]/i.test(word) ? "an" : "a"} ${word}`;

/** What is wrong with a text, by problem. */
export const problems: Readonly<Record<ReadingProblem, string>> = {
  "gtin-length": "a GTIN has 8, 12, 13 or 14 digits",
  "gtin-check-digit": "its check digit is wrong: compare it with the packaging",
  "gtin-scientific": "a spreadsheet has shortened it: format the column as text and paste the barcode again",
  "gtin-characters": "a GTIN has digits only",
  "gtin-zeros": "it is zeros only, which is no product's number: leave it blank where there is none",
  "isbn-prefix": "an ISBN of 13 digits begins with 978 or 979",
  "not-a-number": "it is not a number as this file writes them",
  "two-ways-number":
    "it can be a number with thousands or one with decimals: say in its source which mark decimals have (decimal_mark)",
  "two-ways-date":
    "day and month can change places: say in its source which comes first (date_order: dmy or mdy)",
  "not-whole": "a whole number is wanted",
  "not-money": "it is not a price, such as 12.50 or 12.50 GBP",
  "no-currency": "it has no currency: name one in the source's currency",
  "which-currency":
    "its sign stands for several currencies: write the code, such as USD, or name one in the source's currency",
  "two-currencies": "its two signs name different currencies",
  "not-a-measure": "it is not a measure in a known unit, such as 1.5 kg",
  "other-dimension": "its unit does not convert to the one that the field wants, as a volume to a weight",
  "no-unit": "it has no unit: name one in the source's units",
  "not-a-date": "it is not a day written as 2026-03-01",
  "not-yes-or-no": "it is neither yes nor no",
  "not-a-url": "it is not one whole web address that starts with https://",
  "below-zero": "it is below zero, which it cannot be",
  "zero-amount": "a price of nothing is how systems write that there is none: leave it blank",
  "zero-measure": "a measure of nothing is how systems write that there is none: leave it blank",
  "over-hundred": "it is a share and more than a hundred percent",
  "other-currency":
    "it is in another currency than the file's: name all that it has in the source's currency",
  "wrong-dimension": "its unit measures something else, as millimetres do for a weight",
  "far-day": "no product was sold on that day: systems write it where there is none",
  "too-fine": "it has more decimals than can be paid: see whether its mark stands for thousands",
  fraction: "it is less than one percent: write 20 for 20 %",
  "not-permitted": "it is none of the values that the shop permits for it",
  "no-value": "it is what systems and people write where there is nothing: leave it blank",
  "several-values": "it has one value, and several different ones are given",
};

/** What was done to a value, as the sentence goes on. */
export const damages: Readonly<Record<Damage, string>> = {
  scientific: "a spreadsheet had shortened it to a power of ten",
  "leading-zeros": "a spreadsheet had dropped the zeros before it",
  "decimal-point": "a spreadsheet had written it as a number",
  date: "a spreadsheet took it for a date",
  encoding: "letters were garbled by a wrong encoding",
  quotes: "its inch or foot marks were curled",
  spaces: "blanks stood around it",
  blanks: "blanks of another kind, or signs that control a machine, stood in it",
  hidden: "signs that are not seen stood in it",
  "decimal-mark": "its decimal mark is another than that of the other numbers",
  "binary-noise": "the last digits are what a computer's fractions leave behind",
  formula: "a spreadsheet's formula failed there",
  "text-formula": "a formula held it, which keeps a spreadsheet from taking a text for a number",
  address: "blanks and signs that no web address has were written as their codes",
  oversold: "more was sold than there was, so that none is left",
  markup: "it held marks of a web page, and is a plain text",
  joined: "it has one value, and the cell or record had several",
};
