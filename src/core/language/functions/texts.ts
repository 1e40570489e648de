import { whole } from "../../values/decimal.js";
import { escapedText, htmlText, plainText } from "../../values/html.js";
import { characterCount, characters } from "../../values/text.js";
import type { ExpressionFunction } from "../function.js";
import { asCount, asText, optional, parameter, textOrBlank } from "./arguments.js";

const trailing = /[\s,;:–-]+$/;

/** Cut at the end of the last word that fits; a first word that is too long is cut inside. */
const fitted = (text: string, limit: number, ending = ""): string => {
  if (characterCount(text) <= limit) return text;
  const room = limit - characterCount(ending);
  if (room <= 0) return characters(text).slice(0, limit).join("");
  const head = characters(text)
    .slice(0, room + 1)
    .join("");
  const boundary = head.search(/\s+\S*$/);
  const cut = boundary > 0 ? head.slice(0, boundary) : characters(text).slice(0, room).join("");
  return cut.replace(trailing, "") + ending;
};

/** The first text gives way so that the second fits behind it. */
const fittedBefore = (text: string, end: string, limit: number, separator: string): string => {
  if (end === "") return fitted(text, limit);
  const room = limit - characterCount(separator) - characterCount(end);
  return room <= 0 ? fitted(end, limit) : `${fitted(text, room)}${separator}${end}`;
};

const words = (text: string): readonly string[] => text.split(/\s+/).filter(Boolean);

const withoutRepeats = (text: string): string => {
  const seen = new Set<string>();
  return words(text)
    .filter((word) => {
      const key = word.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, "");
      if (key === "") return true;
      const isNew = !seen.has(key);
      seen.add(key);
      return isNew;
    })
    .join(" ")
    .replace(trailing, "");
};

const slug = (text: string): string =>
  text
    .replace(/ß/g, "ss")
    .replace(/æ/gi, "ae")
    .replace(/ø/gi, "o")
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "");

const PAD_LIMIT = 1000;

const utf8 = new TextEncoder();

export const texts: readonly ExpressionFunction[] = [
  {
    name: "fit",
    family: "texts",
    summary:
      "Shortens a text to so many characters, at the end of a word; an ending such as … is counted in.",
    parameters: [parameter("text", "text"), parameter("characters", "number"), optional("ending", "text")],
    result: "text",
    examples: [
      { expression: 'fit("Cedar hive, flat roof", 14)', gives: "Cedar hive" },
      { expression: 'fit("Cedar hive, flat roof", 17, "…")', gives: "Cedar hive, flat…" },
      { expression: 'fit("Cedar hive", 14)', gives: "Cedar hive" },
    ],
    apply: ([text, limit, ending]) => textOrBlank(fitted(asText(text), asCount(limit), asText(ending))),
  },
  {
    name: "fit_before",
    family: "texts",
    summary:
      "Shortens the first text so that the second fits behind it, whole: for titles whose end tells members apart. Between them stands a comma, or what you name.",
    parameters: [
      parameter("text", "text"),
      parameter("end", "text"),
      parameter("characters", "number"),
      optional("between", "text"),
    ],
    result: "text",
    examples: [
      {
        expression: 'fit_before("Ventilated bee suit, three layers", "white, M", 30)',
        gives: "Ventilated bee suit, white, M",
      },
      { expression: 'fit_before("Bee suit", "M", 30, " / ")', gives: "Bee suit / M" },
    ],
    apply: ([text, end, limit, between]) =>
      textOrBlank(
        fittedBefore(
          asText(text),
          asText(end),
          asCount(limit),
          between === undefined ? ", " : asText(between),
        ),
      ),
  },
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
      piece === undefined ? text : textOrBlank(asText(text).replaceAll(asText(piece), () => asText(by))),
  },
  {
    name: "before",
    family: "texts",
    summary: "What stands before the first occurrence of a piece; the whole text when it does not occur.",
    parameters: [parameter("text", "text"), parameter("piece", "text")],
    result: "text",
    examples: [{ expression: 'before("hive.jpg?width=200", "?")', gives: "hive.jpg" }],
    apply: ([text, piece]) => textOrBlank(asText(text).split(asText(piece), 1)[0] ?? ""),
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
      const at = full.indexOf(mark);
      return at < 0 ? undefined : textOrBlank(full.slice(at + mark.length).trim());
    },
  },
  {
    name: "first_words",
    family: "texts",
    summary: "The first so many words of a text.",
    parameters: [parameter("text", "text"), parameter("count", "number")],
    result: "text",
    examples: [{ expression: 'first_words("Cedar hive, flat roof", 2)', gives: "Cedar hive" }],
    apply: ([text, count]) =>
      textOrBlank(words(asText(text)).slice(0, asCount(count)).join(" ").replace(trailing, "")),
  },
  {
    name: "last_words",
    family: "texts",
    summary: "The last so many words of a text.",
    parameters: [parameter("text", "text"), parameter("count", "number")],
    result: "text",
    examples: [{ expression: 'last_words("Cedar hive, flat roof", 2)', gives: "flat roof" }],
    apply: ([text, count]) => {
      const wanted = asCount(count);
      return wanted === 0 ? undefined : textOrBlank(words(asText(text)).slice(-wanted).join(" "));
    },
  },
  {
    name: "without_repeats",
    family: "texts",
    summary: "The text with each word once, where it stands first; case and punctuation do not matter.",
    parameters: [parameter("text", "text")],
    result: "text",
    examples: [
      { expression: 'without_repeats("Wickenlow suit Wickenlow, white")', gives: "Wickenlow suit white" },
    ],
    apply: ([text]) => textOrBlank(withoutRepeats(asText(text))),
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
    name: "characters",
    family: "texts",
    summary: "How many characters a text has, as a person counts them.",
    parameters: [parameter("text", "text")],
    result: "number",
    examples: [{ expression: 'characters("Höhe")', gives: "4" }],
    keepsBlanks: true,
    apply: ([text]) => whole(characterCount(asText(text))),
  },
  {
    name: "bytes",
    family: "texts",
    summary: "How many bytes a text takes as UTF-8.",
    parameters: [parameter("text", "text")],
    result: "number",
    examples: [{ expression: 'bytes("Höhe")', gives: "5" }],
    keepsBlanks: true,
    apply: ([text]) => whole(utf8.encode(asText(text)).length),
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
    name: "pad",
    family: "texts",
    summary: "The text with zeros before it, or what you name, up to so many characters.",
    parameters: [parameter("text", "text"), parameter("characters", "number"), optional("by", "text")],
    result: "text",
    examples: [
      { expression: "pad(42, 5)", gives: "00042" },
      { expression: 'pad("A", 3, "-")', gives: "--A" },
    ],
    apply: ([text, count, by]) =>
      asText(text).padStart(Math.min(asCount(count), PAD_LIMIT), by === undefined ? "0" : asText(by)),
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
