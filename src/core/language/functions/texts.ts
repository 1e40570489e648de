import { escapedText, htmlText, plainText } from "../../values/html.js";
import { asciiLetters } from "../../values/latin-letters.js";
import type { MaybeBlank } from "../../values/value.js";
import type { ExpressionFunction } from "../function.js";
import { TEXT_LIMIT, tooLong } from "../text-limit.js";
import type { Cannot } from "../trouble.js";
import { asText, parameter, textOrBlank } from "./arguments.js";

const slug = (text: string): string =>
  asciiLetters(text)
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "");

/** Each occurrence of a piece replaced; how long that gets is known before it is made. */
function replaced(text: string, piece: string, by: string): MaybeBlank | Cannot {
  if (by.length > piece.length) {
    const most = Math.ceil(text.length / Math.max(1, piece.length)) + 1;
    const isFar = text.length + most * by.length > TEXT_LIMIT;
    const times = isFar ? text.split(piece).length - 1 : 0;
    if (text.length + times * (by.length - piece.length) > TEXT_LIMIT) return tooLong("replace");
  }
  return textOrBlank(text.replaceAll(piece, () => by));
}

/** Functions over texts. */
export const texts: readonly ExpressionFunction[] = [
  {
    name: "plain",
    family: "texts",
    summary: "The words of an HTML text, without its marks; list items stand on lines of their own.",
    parameters: [parameter("html", "text")],
    result: "text",
    examples: [{ expression: 'plain("<p>Wool &amp; <b>felt</b></p>")', gives: "Wool & felt" }],
    apply: ([html]) => textOrBlank(plainText(asText(html))),
  },
  {
    name: "html",
    family: "texts",
    summary:
      "A plain text as HTML: blank lines part paragraphs, lines that begin with a dash become a list. What is HTML already stays.",
    parameters: [parameter("text", "text")],
    result: "text",
    examples: [
      { expression: 'html("Wool & felt")', gives: "<p>Wool &amp; felt</p>" },
      {
        expression: 'html("Warm:\\n- wool\\n- felt")',
        gives: "<p>Warm:</p><ul><li>wool</li><li>felt</li></ul>",
      },
    ],
    apply: ([text]) => textOrBlank(htmlText(asText(text))),
  },
  {
    name: "html_escaped",
    family: "texts",
    summary: "A plain text with the signs & < > and quotes written so that HTML shows them.",
    parameters: [parameter("text", "text")],
    result: "text",
    examples: [{ expression: 'html_escaped("wool & felt")', gives: "wool &amp; felt" }],
    apply: ([text]) => escapedText(asText(text)),
  },
  {
    name: "lower",
    family: "texts",
    summary: "The text in small letters.",
    parameters: [parameter("text", "text")],
    result: "text",
    examples: [{ expression: 'lower("Forest GREEN")', gives: "forest green" }],
    apply: ([text]) => asText(text).toLowerCase(),
  },
  {
    name: "upper",
    family: "texts",
    summary: "The text in capitals.",
    parameters: [parameter("text", "text")],
    result: "text",
    examples: [{ expression: 'upper("xl")', gives: "XL" }],
    apply: ([text]) => asText(text).toUpperCase(),
  },
  {
    name: "capitalized",
    family: "texts",
    summary: "The text with its first letter large.",
    parameters: [parameter("text", "text")],
    result: "text",
    examples: [{ expression: 'capitalized("forest green")', gives: "Forest green" }],
    apply: ([text]) => asText(text).replace(/^\p{Ll}/u, (letter) => letter.toUpperCase()),
  },
  {
    name: "capitalized_words",
    family: "texts",
    summary: "The text with the first letter of each word large.",
    parameters: [parameter("text", "text")],
    result: "text",
    examples: [
      { expression: 'capitalized_words("bee-keeper\'s forest green")', gives: "Bee-Keeper's Forest Green" },
    ],
    apply: ([text]) =>
      asText(text).replace(
        /(^|[\s(/-])(\p{Ll})/gu,
        (_, before: string, letter: string) => before + letter.toUpperCase(),
      ),
  },
  {
    name: "trim",
    family: "texts",
    summary: "The text without spaces at its ends, and with one space wherever there were several.",
    parameters: [parameter("text", "text")],
    result: "text",
    examples: [{ expression: 'trim("  wool   felt ")', gives: "wool felt" }],
    apply: ([text]) =>
      textOrBlank(
        asText(text)
          .replace(/[^\S\n]+/g, " ")
          .trim(),
      ),
  },
  {
    name: "replace",
    family: "texts",
    summary: "The text with each occurrence of a piece replaced by another.",
    parameters: [parameter("text", "text"), parameter("piece", "text"), parameter("by", "text")],
    result: "text",
    examples: [{ expression: 'replace("red/blue", "/", " and ")', gives: "red and blue" }],
    apply: ([text, piece, by]) =>
      piece === undefined ? text : replaced(asText(text), asText(piece), asText(by)),
  },
  {
    name: "before",
    family: "texts",
    summary: "What stands before the first occurrence of a piece; the whole text when it does not occur.",
    parameters: [parameter("text", "text"), parameter("piece", "text")],
    result: "text",
    examples: [{ expression: 'before("hive.jpg?width=200", "?")', gives: "hive.jpg" }],
    apply: ([text, piece]) =>
      piece === undefined ? text : textOrBlank(asText(text).split(asText(piece), 1)[0] ?? ""),
  },
  {
    name: "after",
    family: "texts",
    summary: "What stands behind the first occurrence of a piece; blank when it does not occur.",
    parameters: [parameter("text", "text"), parameter("piece", "text")],
    result: "text",
    examples: [{ expression: 'after("Colour: moss green", ": ")', gives: "moss green" }],
    apply: ([text, piece]) => {
      const [full, mark] = [asText(text), asText(piece)];
      const at = mark === "" ? -1 : full.indexOf(mark);
      return at < 0 ? undefined : textOrBlank(full.slice(at + mark.length).trim());
    },
  },
  {
    name: "contains",
    family: "texts",
    summary: "Whether a piece occurs in a text; case does not matter.",
    parameters: [parameter("text", "text"), parameter("piece", "text")],
    result: "yes-no",
    examples: [
      { expression: 'contains("Cedar Hive", "hive")', gives: "yes" },
      { expression: 'contains("Cedar Hive", "felt")', gives: "no" },
    ],
    keepsBlanks: true,
    apply: ([text, piece]) =>
      piece !== undefined && asText(text).toLowerCase().includes(asText(piece).toLowerCase()),
  },
  {
    name: "starts_with",
    family: "texts",
    summary: "Whether a text begins with a piece; case does not matter.",
    parameters: [parameter("text", "text"), parameter("piece", "text")],
    result: "yes-no",
    examples: [{ expression: 'starts_with("BC-1301-WHITE-M", "bc-")', gives: "yes" }],
    keepsBlanks: true,
    apply: ([text, piece]) =>
      piece !== undefined && asText(text).toLowerCase().startsWith(asText(piece).toLowerCase()),
  },
  {
    name: "slug",
    family: "texts",
    summary: "The text as it can stand in a web address or a file name: small letters, digits and dashes.",
    parameters: [parameter("text", "text")],
    result: "text",
    examples: [{ expression: 'slug("Größe 10 / Moss Green")', gives: "grosse-10-moss-green" }],
    apply: ([text]) => textOrBlank(slug(asText(text))),
  },
  {
    name: "digits",
    family: "texts",
    summary: "The digits of a text, and nothing else.",
    parameters: [parameter("text", "text")],
    result: "text",
    examples: [{ expression: 'digits("No. 12-34")', gives: "1234" }],
    apply: ([text]) => textOrBlank(asText(text).replace(/\D+/g, "")),
  },
];
