import { checkDigit, gtin14, readGtin } from "../../values/gtin.js";
import { isbn10Of, readIsbn } from "../../values/isbn.js";
import type { ExpressionFunction } from "../function.js";
import { cannot } from "../trouble.js";
import { asText, parameter } from "./arguments.js";

/** Functions over barcodes and ISBNs. */
export const identifiers: readonly ExpressionFunction[] = [
  {
    name: "gtin14",
    family: "identifiers",
    summary: "A barcode number with zeros before it, so that it has 14 digits (GS1).",
    parameters: [parameter("gtin", "text")],
    result: "text",
    examples: [{ expression: 'gtin14("9524000001016")', gives: "09524000001016" }],
    apply([gtin]) {
      const reading = readGtin(asText(gtin));
      return "digits" in reading
        ? gtin14(reading.digits)
        : cannot({ trouble: "not-readable", value: asText(gtin), wanted: "a GTIN" });
    },
  },
  {
    name: "with_check_digit",
    family: "identifiers",
    summary: "Digits with their GS1 check digit behind them.",
    parameters: [parameter("digits", "text")],
    result: "text",
    examples: [{ expression: 'with_check_digit("952400000101")', gives: "9524000001016" }],
    apply([digits]) {
      const text = asText(digits).replace(/[\s-]/g, "");
      return /^\d{1,17}$/.test(text)
        ? `${text}${checkDigit(text)}`
        : cannot({ trouble: "not-readable", value: asText(digits), wanted: "1 to 17 digits" });
    },
  },
  {
    name: "is_gtin",
    family: "identifiers",
    summary: "Whether a text is a barcode number with the right length and check digit.",
    parameters: [parameter("text", "text")],
    result: "yes-no",
    keepsBlanks: true,
    examples: [
      { expression: 'is_gtin("9524000001016")', gives: "yes" },
      { expression: 'is_gtin("9524000001017")', gives: "no" },
    ],
    apply: ([text]) => "digits" in readGtin(asText(text)),
  },
  {
    name: "isbn13",
    family: "identifiers",
    summary: "A book's number as ISBN-13, which is also its barcode number.",
    parameters: [parameter("isbn", "text")],
    result: "text",
    examples: [{ expression: 'isbn13("0-9524-0000-6")', gives: "9780952400004" }],
    apply([isbn]) {
      const reading = readIsbn(asText(isbn));
      return "digits" in reading
        ? reading.digits
        : cannot({ trouble: "not-readable", value: asText(isbn), wanted: "an ISBN" });
    },
  },
  {
    name: "isbn10",
    family: "identifiers",
    summary: "A book's number as ISBN-10; blank for numbers that have none (those that begin with 979).",
    parameters: [parameter("isbn", "text")],
    result: "text",
    examples: [{ expression: 'isbn10("9780952400004")', gives: "0952400006" }],
    apply([isbn]) {
      const reading = readIsbn(asText(isbn));
      return "digits" in reading
        ? isbn10Of(reading.digits)
        : cannot({ trouble: "not-readable", value: asText(isbn), wanted: "an ISBN" });
    },
  },
];
