import type { MaybeBlank } from "../../values/value.js";
import { whole } from "../../values/decimal.js";
import { characterCount, characters } from "../../values/characters.js";
import type { ExpressionFunction } from "../function.js";
import { asCount, asLimit, asText, optional, parameter, textOrBlank } from "./arguments.js";

const utf8 = new TextEncoder();

const loose = /[\s,;:–-]/;
const blank = /\s/;

/** How long a text is up to the last sign for which something holds no more; step by step, so that no text takes long. */
function endBefore(text: string, isLeft: RegExp): number {
  let end = text.length;
  while (end > 0 && isLeft.test(text[end - 1] ?? "")) end--;
  return end;
}

/** Without spaces and signs between words at its end. */
const withoutLooseEnd = (text: string): string => text.slice(0, endBefore(text, loose));

/** Where the last word of a text begins to be parted from what is before it; 0 where it is all one word. */
function lastGap(text: string): number {
  let word = text.length;
  while (word > 0 && !blank.test(text[word - 1] ?? "")) word--;
  return endBefore(text.slice(0, word), blank);
}

/** The first so many characters, cut at the end of a word; a first word that is too long is cut inside. */
function headOf(all: readonly string[], room: number): string {
  const head = all.slice(0, room).join("");
  // A word that ends just there is whole; another gives way, unless it is the only one.
  const end = loose.test(all[room] ?? " ") ? head.length : lastGap(head);
  return withoutLooseEnd(end > 0 ? head.slice(0, end) : head);
}

/** Cut at the end of the last word that fits; an ending for which there is no room is left out. */
function fitted(text: string, limit: number, ending = ""): string {
  if (characterCount(text) <= limit) return text;
  const all = characters(text);
  const room = limit - characterCount(ending);
  return room <= 0 ? all.slice(0, limit).join("") : headOf(all, room) + ending;
}

/** How many of these characters have so many bytes together. */
function fittingCount(all: readonly string[], bytes: number): number {
  let left = bytes;
  const over = all.findIndex((character) => (left -= utf8.encode(character).length) < 0);
  return over < 0 ? all.length : over;
}

/** The same for channels that count bytes: as many characters as fit, cut at the end of a word. */
function fittedBytes(text: string, limit: number, ending = ""): string {
  if (utf8.encode(text).length <= limit) return text;
  const all = characters(text);
  const room = limit - utf8.encode(ending).length;
  if (room > 0) return headOf(all, fittingCount(all, room)) + ending;
  return all.slice(0, fittingCount(all, limit)).join("");
}

/** How a length is counted, and a text cut to it. */
interface Counting {
  count(text: string): number;
  cut(text: string, limit: number): string;
}

const byCharacters: Counting = { count: characterCount, cut: fitted };
const byBytes: Counting = { count: (text) => utf8.encode(text).length, cut: fittedBytes };

/** The first text gives way so that the second fits behind it; where nothing is left of it, nothing stands between. */
function fittedBefore(
  [text, end, limit, ...between]: readonly MaybeBlank[],
  { count, cut }: Counting,
): string {
  const separator = between.length === 0 ? ", " : asText(between[0]);
  // What begins the end when its first part is blank would double the mark between.
  const tail = asText(end).replace(/^[\s,;/|–-]+(?=\S)/, "");
  const most = asLimit(limit);
  if (tail === "") return cut(asText(text), most);
  const room = most - count(separator) - count(tail);
  const head = room <= 0 ? "" : cut(asText(text), room);
  return head === "" ? cut(tail, most) : `${head}${separator}${tail}`;
}

const words = (text: string): readonly string[] => text.split(/\s+/).filter(Boolean);

function withoutRepeats(text: string): string {
  const seen = new Set<string>();
  return withoutLooseEnd(
    words(text)
      .filter((word) => {
        // Marks around a word are not its own; those inside it and signs that mean something are: 1.5 is not 15, A+ not A.
        const key = word.toLowerCase().replace(/^[^\p{L}\p{N}#+<>-]+|[^\p{L}\p{N}#%+]+$/gu, "");
        if (!/[\p{L}\p{N}]/u.test(key)) return true;
        const isNew = !seen.has(key);
        seen.add(key);
        return isNew;
      })
      .join(" "),
  );
}

const PAD_LIMIT = 1000;

/** Texts cut, counted and filled up to a length. */
export const lengths: readonly ExpressionFunction[] = [
  {
    name: "fit",
    family: "texts",
    summary:
      "Shortens a text to so many characters, at the end of a word; an ending such as … is counted in. A blank limit lets all through.",
    parameters: [parameter("text", "text"), parameter("characters", "number"), optional("ending", "text")],
    result: "text",
    examples: [
      { expression: 'fit("Cedar hive, flat roof", 14)', gives: "Cedar hive" },
      { expression: 'fit("Cedar hive, flat roof", 17, "…")', gives: "Cedar hive, flat…" },
      { expression: 'fit("Cedar hive", 14)', gives: "Cedar hive" },
    ],
    apply: ([text, limit, ending]) => textOrBlank(fitted(asText(text), asLimit(limit), asText(ending))),
  },
  {
    name: "fit_bytes",
    family: "texts",
    summary:
      "Shortens a text to so many bytes of UTF-8, at the end of a word, for channels that count bytes; an ending is counted in.",
    parameters: [parameter("text", "text"), parameter("bytes", "number"), optional("ending", "text")],
    result: "text",
    examples: [
      { expression: 'fit_bytes("Größe zehn, moosgrün", 12)', gives: "Größe zehn" },
      { expression: 'fit_bytes("Größe zehn", 7)', gives: "Größe" },
    ],
    apply: ([text, limit, ending]) => textOrBlank(fittedBytes(asText(text), asLimit(limit), asText(ending))),
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
      { expression: 'fit_before("Bee suit", ", M", 30)', gives: "Bee suit, M" },
    ],
    apply: (args) => textOrBlank(fittedBefore(args, byCharacters)),
  },
  {
    name: "fit_before_bytes",
    family: "texts",
    summary: "The same as fit_before where a channel counts bytes of UTF-8.",
    parameters: [
      parameter("text", "text"),
      parameter("end", "text"),
      parameter("bytes", "number"),
      optional("between", "text"),
    ],
    result: "text",
    examples: [
      {
        expression: 'fit_before_bytes("Bienenanzug, drei Lagen", "weiß, M", 22)',
        gives: "Bienenanzug, weiß, M",
      },
      { expression: 'fit_before_bytes("Grüne Hütte", "groß", 14, " / ")', gives: "Grüne / groß" },
    ],
    apply: (args) => textOrBlank(fittedBefore(args, byBytes)),
  },
  {
    name: "first_words",
    family: "texts",
    summary: "The first so many words of a text.",
    parameters: [parameter("text", "text"), parameter("count", "number")],
    result: "text",
    examples: [{ expression: 'first_words("Cedar hive, flat roof", 2)', gives: "Cedar hive" }],
    apply: ([text, count]) =>
      textOrBlank(withoutLooseEnd(words(asText(text)).slice(0, asLimit(count)).join(" "))),
  },
  {
    name: "last_words",
    family: "texts",
    summary: "The last so many words of a text.",
    parameters: [parameter("text", "text"), parameter("count", "number")],
    result: "text",
    examples: [{ expression: 'last_words("Cedar hive, flat roof", 2)', gives: "flat roof" }],
    apply: ([text, count]) => {
      const wanted = asLimit(count);
      return wanted === 0 ? undefined : textOrBlank(words(asText(text)).slice(-wanted).join(" "));
    },
  },
  {
    name: "without_repeats",
    family: "texts",
    summary:
      "The text with each word once, where it stands first; case and marks around a word do not matter.",
    parameters: [parameter("text", "text")],
    result: "text",
    examples: [
      { expression: 'without_repeats("Wickenlow suit Wickenlow, white")', gives: "Wickenlow suit white" },
    ],
    apply: ([text]) => textOrBlank(withoutRepeats(asText(text))),
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
    name: "pad",
    family: "texts",
    summary: "The text with zeros before it, or what you name, up to so many characters.",
    parameters: [parameter("text", "text"), parameter("characters", "number"), optional("by", "text")],
    result: "text",
    examples: [
      { expression: "pad(42, 5)", gives: "00042" },
      { expression: 'pad("A", 3, "-")', gives: "--A" },
    ],
    apply: ([text, count, ...by]) =>
      asText(text).padStart(Math.min(asCount(count), PAD_LIMIT), by.length === 0 ? "0" : asText(by[0])),
  },
];
