import { isDecimal } from "../../values/decimal.js";
import { plainText } from "../../values/html.js";
import { shownText } from "../../values/show.js";
import { characterCount } from "../../values/text.js";
import type { MaybeBlank } from "../../values/value.js";
import type { ExpressionFunction } from "../function.js";

const count = (value: MaybeBlank): number => (isDecimal(value) ? value.toNumber() : 0);
const orBlank = (text: string): MaybeBlank => (text === "" ? undefined : text);

const fitted = (text: string, limit: number): string => {
  if (characterCount(text) <= limit) return text;
  const head = Array.from(text)
    .slice(0, limit + 1)
    .join("");
  const boundary = head.search(/\s+\S*$/);
  const cut = boundary > 0 ? head.slice(0, boundary) : Array.from(text).slice(0, limit).join("");
  return cut.replace(/[\s,;:–-]+$/, "");
};

export const texts: readonly ExpressionFunction[] = [
  {
    name: "fit",
    family: "texts",
    summary: "Shortens a text to so many characters, at the end of a word.",
    parameters: [
      { name: "text", kind: "text" },
      { name: "characters", kind: "number" },
    ],
    result: "text",
    examples: [
      { expression: 'fit("Cedar hive, flat roof", 14)', gives: "Cedar hive" },
      { expression: 'fit("Cedar hive", 14)', gives: "Cedar hive" },
    ],
    apply: ([text, limit]) => orBlank(fitted(shownText(text), count(limit))),
  },
  {
    name: "plain",
    family: "texts",
    summary: "The words of an HTML text, without its marks; list items stand on lines of their own.",
    parameters: [{ name: "html", kind: "text" }],
    result: "text",
    examples: [{ expression: 'plain("<p>Wool &amp; <b>felt</b></p>")', gives: "Wool & felt" }],
    apply: ([html]) => orBlank(plainText(shownText(html))),
  },
  {
    name: "lower",
    family: "texts",
    summary: "The text in small letters.",
    parameters: [{ name: "text", kind: "text" }],
    result: "text",
    examples: [{ expression: 'lower("Forest GREEN")', gives: "forest green" }],
    apply: ([text]) => shownText(text).toLowerCase(),
  },
  {
    name: "capitalized",
    family: "texts",
    summary: "The text with its first letter large.",
    parameters: [{ name: "text", kind: "text" }],
    result: "text",
    examples: [{ expression: 'capitalized("forest green")', gives: "Forest green" }],
    apply: ([text]) => shownText(text).replace(/^\p{Ll}/u, (letter) => letter.toUpperCase()),
  },
  {
    name: "replace",
    family: "texts",
    summary: "The text with each occurrence of a piece replaced by another.",
    parameters: [
      { name: "text", kind: "text" },
      { name: "piece", kind: "text" },
      { name: "by", kind: "text" },
    ],
    result: "text",
    examples: [{ expression: 'replace("red/blue", "/", " and ")', gives: "red and blue" }],
    apply: ([text, piece, by]) =>
      piece === undefined ? text : orBlank(shownText(text).replaceAll(shownText(piece), () => shownText(by))),
  },
  {
    name: "before",
    family: "texts",
    summary: "What stands before the first occurrence of a piece; the whole text when it does not occur.",
    parameters: [
      { name: "text", kind: "text" },
      { name: "piece", kind: "text" },
    ],
    result: "text",
    examples: [{ expression: 'before("hive.jpg?width=200", "?")', gives: "hive.jpg" }],
    apply: ([text, piece]) => orBlank(shownText(text).split(shownText(piece), 1)[0] ?? ""),
  },
];
