/**
 * One value on its way into the catalogue: cleaned, repaired where the truth can be proved, typed, held against what
 * its attribute can have. Gives a canonical text, or why there is none; never a guess.
 */
import { kindFacts } from "../values/kinds.js";
import type { AttributeKind } from "../values/attribute-kind.js";
import { beforeDate, hasLostLetters, isFormulaFault, type Damage } from "../values/damage.js";
import { isDecimal } from "../values/decimal.js";
import { repairEncoding } from "../values/garbled.js";
import { isRestricted } from "../values/gtin.js";
import { measure } from "../values/measure.js";
import { money } from "../values/money.js";
import { readValue, type Reading, type ReadingDefaults, type ReadingProblem } from "../values/read.js";
import { plainText } from "../values/html.js";
import { canonicalText, shownText } from "../values/show.js";
import { termKey } from "../values/text.js";
import { unitOf } from "../values/units.js";
import { isList, isMeasure, isMoney, type Value } from "../values/value.js";
import { asPossible, dimensionOf } from "./possible-values.js";
import { isUnread, unread } from "./record.js";
import { isOurs, withoutMark } from "./vocabulary.js";

/** A damaged value that only the catalogue itself can prove: what it holds already may be what was meant. */
export interface ItemDoubt {
  readonly written: string;
  readonly damage: Damage;
  /** What the cell can have held; empty when there are too many possibilities to name. */
  readonly candidates: readonly string[];
}

/** What happened to a value on its way in. */
export type CellEvent =
  | { readonly event: "repaired"; readonly written: string; readonly now: string; readonly damage: Damage }
  | { readonly event: "unreadable"; readonly written: string; readonly problem: ReadingProblem }
  | { readonly event: "doubt"; readonly doubt: ItemDoubt }
  | { readonly event: "restricted"; readonly written: string };

/** A value's canonical text, or what could not be read, with what is to be told of it. */
export interface ReadItem {
  readonly text: string;
  readonly events: readonly CellEvent[];
}

/** How the values of one attribute are read. */
export interface ItemReading extends ReadingDefaults {
  /** Currencies that amounts can be in; any where it is undefined. */
  readonly currencies?: readonly string[] | undefined;
  /** Whether the column's values are days as a rule, or never; undefined where nothing shows it. */
  readonly areDays?: boolean | undefined;
}

/** A text at once where nothing happened on the way, which is nearly always. */
export type ItemReader = (value: Value) => string | ReadItem;

const refused = (written: string, problem: ReadingProblem): ReadItem => ({
  text: unread(written),
  events: [{ event: "unreadable", written, problem }],
});

const doubted = (doubt: ItemDoubt): ReadItem => ({
  text: unread(doubt.written),
  events: [{ event: "doubt", doubt }],
});

/** The reader of one value of an attribute: of a cell's text, or of what an expression made. */
export function itemReader(attribute: string, kind: AttributeKind, defaults: ItemReading): ItemReader {
  const read = anyReader(attribute, kind, defaults);
  return kind.permitted === undefined ? read : permittedReader(read, kind.permitted);
}

/** A value that is one of a list, in the list's own spelling. */
function permittedReader(read: ItemReader, permitted: readonly string[]): ItemReader {
  const bySpelling = new Map(permitted.map((value) => [termKey(value), value]));
  return (value) => {
    const found = read(value);
    const text = typeof found === "string" ? found : found.text;
    if (text === "" || isUnread(text)) return found;
    const own = permitted.includes(text) ? text : bySpelling.get(termKey(text));
    if (own === undefined) return refused(shownText(value), "not-permitted");
    return typeof found === "string" ? own : { ...found, text: own };
  };
}

function anyReader(attribute: string, { kind }: AttributeKind, defaults: ItemReading): ItemReader {
  if (kindFacts[kind].isAnyText) {
    // A text of ours is never a day; what a shop keeps under a name of its own may be.
    const name = withoutMark(attribute);
    const isDatable = defaults.areDays !== true && kind !== "html" && !freeTexts.has(name);
    const isKnown = isOurs(attribute);
    return (value) =>
      typeof value === "string"
        ? textItem(
            value,
            isDatable,
            isKnown || defaults.areDays === false,
            isKnown && !answersNone.has(name),
            isKnown && kind === "text",
          )
        : canonicalText(value);
  }
  const quick = quickReader(attribute, kind, defaults);
  return (value) => {
    if (typeof value !== "string") return valueItem(value);
    const direct = quick?.(value);
    if (direct !== undefined) return direct;
    const letters = repairEncoding(value);
    if (letters !== undefined)
      return settled(value, readValue(kind, letters, defaults), defaults.currencies, "encoding");
    // An apostrophe is how a spreadsheet was told that a number is a text; it is no part of it.
    return settled(value, readValue(kind, value.replace(/^'(?=\d)/, ""), defaults), defaults.currencies);
  };

  /** What an expression made, as the attribute's kind: a number is a price in the source's currency. */
  function valueItem(value: Value): string | ReadItem {
    // An amount that an expression made in a currency is meant so.
    if (isMoney(value) && kind === "money") return settled(canonicalText(value), { value }, undefined);
    return settled(shownText(value), asKind(value), defaults.currencies);
  }

  function asKind(value: Value): Reading {
    const { currency, unit } = defaults;
    if (isDecimal(value) && kind === "money" && currency !== undefined)
      return { value: money(value, currency) };
    const known = unit === undefined ? undefined : unitOf(unit);
    if (isDecimal(value) && kind === "measure" && known !== undefined)
      return { value: measure(value, known) };
    if (isList(value)) return { problem: "several-values" };
    if (isMeasure(value) && kind === "measure") return { value };
    const plain = { ...defaults, decimalMark: ".", openMarks: "" } as const;
    return readValue(kind, canonicalText(value), plain);
  }

  function settled(
    written: string,
    reading: Reading,
    currencies: readonly string[] | undefined,
    mended?: Damage,
  ): string | ReadItem {
    if ("problem" in reading)
      return reading.problem === "gtin-scientific"
        ? doubted({ written, damage: "scientific", candidates: [] })
        : refused(written, reading.problem);
    const possible = asPossible(attribute, reading.value, currencies);
    if ("problem" in possible) return refused(written, possible.problem);
    const text = canonicalText(possible.value);
    const damage = possible.repaired ?? reading.repaired ?? mended;
    const events: CellEvent[] = [];
    if (damage !== undefined) events.push({ event: "repaired", written, now: text, damage });
    if (kind === "gtin" && isRestricted(text)) events.push({ event: "restricted", written: text });
    return events.length === 0 ? text : { text, events };
  }
}

// Words that people write freely: "10-Dec" may be a title.
const freeTexts = new Set(["name", "features", "keywords"]);
const LONGEST_DAY = 25;
const shortDay = /^\d{1,2}[-. /]{1,2}\p{L}{3,9}\.?$|^\p{L}{3,9}\.?[-. /]{1,2}\d{1,2}$/u;

// What stands where there is nothing. In attributes of ours alone: a shop's own may well answer "none".
const nothings =
  /^(?:null|nil|nan|undefined|\(?(?:null|none|blank|empty|leer|vide)\)?|n\/?a|n\.a\.?|n\.?v\.?|k\.?a\.?|tb[acd]|t\.b\.[acd]\.|unknown|unbekannt|inconnu|desconocido|onbekend|nieznany|#+|-+|–|—|\.+|\?+|_+|x{3,}|0{4}-00-00)$/i;
// These say something by it: no hazard, no battery.
const answersNone = new Set(["hazard", "battery", "pattern", "material"]);
const marksOfPages =
  /<\/?(?:b|i|u|em|strong|span|p|br|div|font|sup|sub|a|ul|li|h[1-6])(?:\s[^<>]*)?\/?>|&(?:amp|quot|apos|lt|gt|nbsp|eacute|uuml|ouml|auml|szlig|#\d{1,6}|#x[0-9a-f]{1,6});/i;

function textItem(
  value: string,
  isDatable: boolean,
  hasNoDays: boolean,
  isNone: boolean,
  isPlain: boolean,
): string | ReadItem {
  // Among several values a failed formula is one that is missing; alone, the cell's reader has told it.
  if (isFormulaFault(value)) return doubted({ written: value, damage: "formula", candidates: [] });
  if (isNone && value.length < 12 && nothings.test(value)) return refused(value, "no-value");
  if (isPlain && (value.includes("<") || value.includes("&")) && marksOfPages.test(value)) {
    const now = plainText(value);
    return now === ""
      ? refused(value, "no-value")
      : { text: now, events: [{ event: "repaired", written: value, now, damage: "markup" }] };
  }
  // "10-Dec" is nobody's word for a day beside a product; a whole date may be one under a shop's own name.
  if (isDatable && value.length <= LONGEST_DAY && /\d/.test(value) && (hasNoDays || shortDay.test(value))) {
    const candidates = beforeDate(value);
    if (candidates.length > 0) return doubted({ written: value, damage: "date", candidates });
  }
  if (hasLostLetters(value)) return doubted({ written: value, damage: "encoding", candidates: [] });
  const now = repairEncoding(value);
  return now === undefined
    ? value
    : { text: now, events: [{ event: "repaired", written: value, now, damage: "encoding" }] };
}

/** Whether a text is made of these pieces in order, with one to three characters between them. */
function fitsPieces(text: string, pieces: readonly string[]): boolean {
  let at = 0;
  for (const [index, piece] of pieces.entries()) {
    const found = text.indexOf(piece, at);
    if (found < 0 || (index === 0 ? found !== 0 : found - at > 3)) return false;
    at = found + piece.length;
  }
  return text.length - at <= (pieces.at(-1) === "" ? 3 : 0);
}

/** Whether digits are those that a spreadsheet's short form has left of a number. */
function isShortened(digits: string, written: string): boolean {
  const value = Number(written.replace(",", "."));
  const shown = (/[.,](\d+)/.exec(written)?.[1] ?? "").length;
  return /^\d{8,14}$/.test(digits) && Number(digits).toExponential(shown) === value.toExponential(shown);
}

/** Whether a damaged value is what the catalogue has. */
export function isProvedBy({ written, damage, candidates }: ItemDoubt, existing: string): boolean {
  if (damage === "date") return candidates.includes(existing.replace(/\s/g, ""));
  if (damage === "encoding") return fitsPieces(existing, written.split("\ufffd"));
  return damage === "scientific" && isShortened(existing, written);
}

const canonicalNumber = /^(?:0|[1-9]\d{0,14})(?:\.\d{0,9}[1-9])?$/;
const aboveZero = /[1-9]/;
const threeBehind = /\.\d{3}$/;

/** Texts that are canonical as they stand, or become so by adding a code: most cells of most files. */
function quickReader(
  attribute: string,
  kind: AttributeKind["kind"],
  { decimalMark = ".", openMarks = "", currency, unit }: ReadingDefaults,
): ((text: string) => string | undefined) | undefined {
  if (kind === "integer") return (text) => (/^(?:0|[1-9]\d{0,14})$/.test(text) ? text : undefined);
  if (kind === "url")
    return (text) => (/^https:\/\/(?:[a-z0-9]+\.)+[a-z]{2,}(?:\/[\w/.-]*)?$/.test(text) ? text : undefined);
  if (decimalMark !== ".") return undefined;
  // What they let pass has no comma, and where a point may part thousands no three digits behind it.
  const isSure = openMarks.includes(".") ? (text: string) => !threeBehind.test(text) : () => true;
  if (kind === "decimal")
    return (text) =>
      canonicalNumber.test(text) && isSure(text) && (attribute !== "tax_rate" || text.length < 3)
        ? text
        : undefined;
  if (kind === "money" && currency !== undefined && currencyHasTwoPlaces(currency))
    return (text) =>
      /^(?:0|[1-9]\d{0,14})\.\d\d$/.test(text) && aboveZero.test(text) ? `${text} ${currency}` : undefined;
  const known = unit === undefined ? undefined : unitOf(unit);
  const wanted = dimensionOf(attribute);
  if (kind !== "measure" || known === undefined || (wanted ?? known.dimension) !== known.dimension)
    return undefined;
  return (text) =>
    canonicalNumber.test(text) && isSure(text) && aboveZero.test(text) ? `${text} ${known.code}` : undefined;
}

function currencyHasTwoPlaces(currency: string): boolean {
  const reading = readValue("money", `1 ${currency}`);
  return "value" in reading && canonicalText(reading.value) === `1.00 ${currency}`;
}
