/**
 * Reads what a sentence of the rules says of a field: lengths, bounds, items, decimals, a unit, a form of dates, values, a
 * kind. The grammar stands here and knows concepts alone; how a language says them stands in `sentence-words.ts`.
 *
 * What is not understood is left unsaid: a sentence never claims more than one of these patterns found in it.
 */
import * as words from "./sentence-words.js";
import type { Said } from "./said.js";
import { readShorthand } from "./shorthand.js";
import { decimal } from "../values/decimal.js";
import type { Kind } from "../values/value.js";
import { unitOf } from "../values/units.js";

// Numbers as sentences write them out.
const numberWords = new Map([
  ...Object.values(words.countWords).flatMap((list) =>
    list.split(" ").map((word, at) => [word, at + 1] as const),
  ),
  ...words.oneWords.split(" ").map((word) => [word, 1] as const),
]);

const digits = String.raw`\d{1,3}(?:[.,' \u00a0\u202f]\d{3})+(?!\d)|\d+`;
const countable = `(?:${digits}|${[...numberWords.keys()].join("|")})`;

const countOf = (text: string): number => numberWords.get(text) ?? Number(text.replace(/\D/g, ""));

const { most, mostBehind, letters, textWords, things } = words;

const pattern = (source: string): RegExp => new RegExp(source, "iu");

// Each of these gives the count, and behind it what it is counted in where that is said.
const lengthPatterns = [
  pattern(`${most}\\s*(?:of )?(${countable})[\\s-]*(${letters})`),
  pattern(`(${countable})[\\s-]*(${letters})[\\s,]*(?:or )?${mostBehind}`),
  pattern(
    `${words.greatestOf}[\\s-]*${words.lengthShort}\\s*[:=]?\\s*(?:is |of |de |von )?(${countable})\\s*(${letters})?`,
  ),
  pattern(`${words.lengthWord}\\s*(?:[:=]|is|of)?\\s*${words.atMostOf}\\s*(${countable})\\s*(${letters})?`),
  pattern(
    `${words.lengthWord}\\s*${words.greatestBehind}\\s*[:=]?\\s*(?:de |of )?(${countable})\\s*(${letters})?`,
  ),
  pattern(
    `${textWords}\\s*[(\\[]\\s*(?:max\\.?\\s*|≤\\s*|up to\\s*)?(${countable})\\s*(${letters})?\\s*[)\\]]`,
  ),
  pattern(`${textWords}\\s*[,;:-]?\\s*(?:of |de |mit )?(${countable})\\s*(${letters})`),
  pattern(`^\\W*(${countable})\\s*(${letters})\\W*$`),
];

const lengthRange = [
  pattern(`${words.from}\\s*(${countable})\\s*${words.andTo}\\s*(${countable})\\s*(${letters})`),
  pattern(`(${countable})\\s*${words.to}\\s*(${countable})\\s*(${letters})`),
];

const leastLength = pattern(`${words.leastLength}\\s*(?:of )?(${countable})[\\s-]*(${letters})`);

const exactLength = pattern(`${words.exactly}\\s*(${countable})[\\s-]*(${letters})`);

const anyLength = pattern(`(?<![\\d.,])(${countable})[\\s-]*${words.bareLetters}`);

function bareLength(text: string): number | undefined {
  const found = anyLength.exec(text);
  const count = found === null ? 0 : countOf((found[1] ?? "").toLowerCase());
  return count > 1 ? count : undefined;
}

const itemPatterns = [
  pattern(`${most}\\s*(?:of )?(${countable})\\s*(?:\\p{L}+\\s+)?${things}`),
  pattern(`${words.giving}\\s+(${countable})\\s+${mostBehind}`),
  pattern(`(${countable})\\s*${things}[\\s,]*(?:or )?${mostBehind}`),
];

const amount = String.raw`-?\d+(?:[.,]\d+)?`;
/** What follows is counted, and no bound of a value. */
const notCounted = `(?!\\s*(?:${letters}|${words.digitWords}))`;
const rangePatterns = [
  pattern(`${words.between}\\s*(${amount})\\s*${words.and}\\s*(${amount})${notCounted}`),
  pattern(`${words.fromWord}\\s*(${amount})\\s*(?:up to|${words.to})\\s*(${amount})${notCounted}`),
  pattern(
    `${words.smallestName}\\s*[:=]?\\s*(${amount})\\s*(?:[,;/]|and|und|et|y)?\\s*${words.greatestName}\\s*[:=]?\\s*(${amount})(?!\\s*${letters})`,
  ),
  pattern(`${words.numberBeforeRange}\\s*[,:(]?\\s*(${amount})\\s*(?:\\.\\.|…|${words.to})\\s*(${amount})`),
];
const leastPatterns = [
  pattern(
    `${words.least}\\s*[:=]?\\s*(${amount})(?!\\s*(?:${letters}|x\\s*\\d|px|pixel|\\s*digits|\\s*ziffern))`,
  ),
];
const mostPatterns = [
  pattern(
    `${words.greatest}\\s*[:=]?\\s*(${amount})(?!\\s*(?:${letters}|x\\s*\\d|px|pixel|${things}|${words.countsOtherwise}))`,
  ),
];

const decimalPatterns = [
  pattern(`(?<![\\d.,-])(${countable})\\s*${words.decimalPlaces}`),
  pattern(`${words.decimalKind}\\s*\\(\\s*(?:\\d+\\s*,\\s*)?(\\d)\\s*\\)`),
  pattern(
    `(?:decimal|number|zahl|nombre|número|décimal)\\s*\\(\\s*(${countable})\\s*(?:places?|dec\\.?|stellen?)\\s*\\)`,
  ),
  pattern(`(?:decimals|decimal places|dezimalstellen|nachkommastellen|décimales|decimales)\\s*[:=]\\s*(\\d)`),
];

const { kindWords } = words;
const textWord = pattern(`(?<!\\p{L})(?:${textWords})(?!\\p{L})`);

const dateForms =
  /(?<![\p{L}\d])((?:Y{4}|J{4}|A{4}|Y{2}|DD|TT|JJ|MM)(?:[-/. ])(?:MM|DD|TT|JJ)(?:[-/. ])(?:Y{4}|J{4}|A{4}|DD|TT|JJ|MM))(?![\p{L}\d])/iu;

/** `TT.MM.JJJJ`, `JJ/MM/AAAA` and `yyyy-mm-dd` as the letters of {@link ValueStyle}. */
function dateForm(written: string): string | undefined {
  const upper = written.toUpperCase();
  const form = upper.replace(/J{4}|A{4}|Y{4}/, "YYYY").replace(/TT|JJ/, "DD");
  return ["YYYY", "MM", "DD"].every((part) => form.includes(part)) ? form : undefined;
}

const listIntro = new RegExp(`${words.beforeValues}\\s*(?::|=|–|-(?= ))\\s*(.+)$`, "isu");
const oneOf = new RegExp(`(?:^|[\\s.(])${words.oneOfWords}\\s*:?\\s+(.+)$`, "isu");

const orTwo = new RegExp(`\\s+(?:${words.orWords.two})\\s+`, "u");
const orLast = new RegExp(`\\s+(?:${words.orWords.last})\\s+`, "u");
const orBefore = new RegExp(`^(?:${words.orWords.before})\\s+`, "u");

/** The pieces of `A, B or C`, `« A », « B »` or `A | B`; empty where it is no list. */
export function listedValues(text: string): readonly string[] {
  const quoted = [...text.matchAll(/«\s*([^»]+?)\s*»|"([^"]+)"|“([^”]+)”|„([^“”]+)[“”]/gu)].map((found) =>
    (found[1] ?? found[2] ?? found[3] ?? found[4] ?? "").trim(),
  );
  if (quoted.length > 1) return quoted;
  const ended = text.trim().replace(/[.]$/, "");
  const mark = [/\s*\|\s*/, /\s*;\s*/, /\s*\n\s*/, /\s*,\s*/, /\s+\/\s+|(?<=\p{L})\/(?=\p{L})/u].find(
    (one) => ended.split(one).length > 1,
  );
  if (mark === undefined) {
    const two = ended.split(orTwo);
    return two.length === 2 && two.every((one) => one.length <= 40) ? two : [];
  }
  const pieces = ended.split(mark);
  const last = pieces.at(-1) ?? "";
  // Where commas part the values, "or" parts the last two; behind other marks it is a value's own word.
  const lastTwo = mark.source.includes(",") ? last.split(orLast) : [last];
  const values = [...pieces.slice(0, -1), ...(lastTwo.length === 2 ? lastTwo : [last])].map((value) =>
    mark.source.includes(",") ? value.replace(orBefore, "").trim() : value.trim(),
  );
  return values.some((value) => value.length > 60 || value === "")
    ? values.filter((value) => value !== "" && value.length <= 60)
    : values;
}

function valuesIn(text: string): readonly string[] {
  const intro = listIntro.exec(text) ?? oneOf.exec(text);
  if (intro === null) return [];
  // The list ends with its sentence: a point before a capital ends one, a point within a value does not.
  const [list = ""] = (intro[1] ?? "").split(/\.\s+(?=\p{Lu})|\.$/u);
  const values = listedValues(list);
  return values.length > 1 &&
    values.every((value) => value.split(" ").length <= 6 && !/\d{3,}\s*(?:characters|zeichen)/iu.test(value))
    ? values
    : [];
}

const isFound = (found: RegExpExecArray | null): found is RegExpExecArray => found !== null;

const number2 = (text: string): string => text.replace(",", ".");

function readLength(text: string, said: Said): void {
  for (const pattern of lengthRange) {
    const found = pattern.exec(text);
    if (found === null) continue;
    said.minLength = countOf((found[1] ?? "").toLowerCase());
    said.maxLength = countOf((found[2] ?? "").toLowerCase());
    if (words.inBytes.test(found[3] ?? "")) said.counted = "bytes";
    return;
  }
  for (const pattern of lengthPatterns) {
    const found = pattern.exec(text);
    if (found === null) continue;
    said.maxLength = countOf((found[1] ?? "").toLowerCase());
    if (words.inBytes.test(found[2] ?? "")) said.counted = "bytes";
    break;
  }
  const exact = exactLength.exec(text);
  const least = exact === null ? leastLength.exec(text) : null;
  // A length that nothing calls the least is the most.
  if (exact === null && least === null) {
    const bare = said.maxLength ?? bareLength(text);
    if (bare !== undefined) said.maxLength = bare;
  }
  if (exact !== null) {
    said.minLength = countOf((exact[1] ?? "").toLowerCase());
    said.maxLength = said.minLength;
  }
  if (least !== null) said.minLength = countOf((least[1] ?? "").toLowerCase());
}

function readRange(text: string, said: Said): void {
  for (const pattern of rangePatterns) {
    const found = pattern.exec(text);
    if (found === null) continue;
    const [min, max] = [number2(found[1] ?? ""), number2(found[2] ?? "")];
    const [low, high] = [decimal(min), decimal(max)];
    if (low === undefined || high === undefined || low.gt(high)) continue;
    said.min = min;
    said.max = max;
    return;
  }
  const least = leastPatterns.map((pattern) => pattern.exec(text)).find(isFound);
  if (least !== undefined) said.min = number2(least[1] ?? "");
  const greatest = mostPatterns.map((pattern) => pattern.exec(text)).find(isFound);
  if (greatest !== undefined) said.max = number2(greatest[1] ?? "");
}

function readDecimals(text: string, said: Said): void {
  if (words.noDecimals.test(text)) said.decimals = 0;
  for (const pattern of decimalPatterns) {
    const found = pattern.exec(text);
    const count = found === null ? undefined : countOf((found[1] ?? "").toLowerCase());
    if (count !== undefined && count <= 8) {
      said.decimals = count;
      return;
    }
  }
}

/** A unit that a sentence or label names: `in kg`, `unit: cm`, `(mm)`, `[g]`. */
export function unitIn(text: string): string | undefined {
  const patterns = [
    /[([]\s*(?:in )?([\p{L}²³"]{1,12})\s*[)\]]/u,
    /(?<!\p{L})(?:in|en|unit|units|einheit|unité|unidad|given in|angabe in)\s*[:=]?\s+([\p{L}²³]{1,12})(?!\p{L})/iu,
    /[,;]\s*(kg|g|mm|cm|m|l|ml|W|kW|lb|oz|in)\s*[.;,]?$/u,
  ];
  for (const pattern of patterns) {
    const word = pattern.exec(text)?.[1] ?? "";
    const unit = word === "" ? undefined : unitOf(word);
    // "in" and "m" within a sentence are words first.
    // So are pounds where the talk is of money.
    if (
      /^pounds?$/i.test(word) &&
      /(?<!\p{L})(?:amount|price|currency|pence|money|sterling)(?!\p{L})/iu.test(text)
    )
      continue;
    if (unit !== undefined && unit.dimension !== "count" && unit.dimension !== "time") return unit.code;
  }
  return undefined;
}

function kindOf(text: string, said: Said): Kind | undefined {
  if (kindWords.isbn.test(text)) return "isbn";
  if (kindWords.barcode.test(text)) return "gtin";
  if (kindWords.yesNo.test(text)) return "yes-no";
  if (said.date !== undefined) return "date";
  if (kindWords.integer.test(text)) return said.unit === undefined ? "integer" : "measure";
  if (said.unit !== undefined && (kindWords.number.test(text) || said.decimals !== undefined))
    return "measure";
  const isNumber = said.decimals !== undefined || kindWords.number.test(text);
  if (isNumber && kindWords.money.test(text)) return "money";
  if (said.maxLength === undefined && kindWords.link.test(text)) return "url";
  if (isNumber) return said.decimals === 0 ? "integer" : "decimal";
  if (said.maxLength === undefined && kindWords.money.test(text) && text.length < 30) return "money";
  if (kindWords.html.test(text) && !kindWords.noHtml.test(text)) return "html";
  if (said.maxLength !== undefined || said.minLength !== undefined)
    return kindWords.link.test(text) ? "url" : "text";
  if (kindWords.date.test(text) && text.length < 60) return "date";
  if (kindWords.choice.test(text)) return "choice";
  return textWord.test(text) ? "text" : undefined;
}

/** Reads what a sentence of the rules says, in English, German, French or Spanish. */
export function readSentence(written: string): Said {
  const text = written.replace(/\s+/g, " ").trim();
  const short = readShorthand(text);
  if (short !== undefined) return short;
  const said: Said = {};
  if (text === "") return said;
  readLength(text, said);
  for (const pattern of itemPatterns) {
    const found = pattern.exec(text);
    if (found === null) continue;
    said.maxItems = countOf((found[1] ?? "").toLowerCase());
    break;
  }
  readDecimals(text, said);
  const unit = unitIn(text);
  if (unit !== undefined) said.unit = unit;
  const day = dateForms.exec(text);
  const form = day === null ? undefined : dateForm(day[1] ?? "");
  if (form !== undefined) said.date = form;
  const values = valuesIn(written);
  if (values.length > 0) said.values = values;
  const pixels =
    /(\d{2,5})\s*(?:x|×|by|mal|par|por)\s*(\d{2,5})?\s*(?:px|pixels?|píxeles)?/iu.exec(text) ??
    /(\d{3,5})\s*(?:px|pixels?|píxeles)/iu.exec(text);
  if (pixels !== null && /px|pixel|píxel/iu.test(text)) said.pixels = Number(pixels[1]);
  const kind = values.length > 0 ? "choice" : kindOf(text, said);
  if (kind !== undefined) said.kind = kind;
  const isNumber = kind === "integer" || kind === "decimal" || kind === "money" || kind === "measure";
  if (isNumber || (kind === undefined && said.maxLength === undefined)) readRange(text, said);
  if (!isNumber && kind !== undefined) {
    delete said.min;
    delete said.max;
  }
  return said;
}
