/**
 * Names of columns read in five languages: the attribute, the language or currency beside it, its unit, the number of a
 * list. Words are a table; what is left over says how sure it is.
 */
import { ownOf } from "../../own.js";
import { isSlip, nearest } from "../../values/nearest.js";
import { isCurrency } from "../../values/currencies.js";
import { languageNamed } from "../../values/languages.js";
import { fold } from "../../values/text.js";
import { unitOf, type Dimension } from "../../values/units.js";
import { dimensionOf } from "../possible-values.js";
import { attributeKind, columnSynonyms } from "../vocabulary.js";

/** What a column's name says: the attribute it usually stands for, how surely, and marks that stand beside it. */
export interface ColumnName {
  readonly attribute: string | undefined;
  /** 0 to 1. */
  readonly certainty: number;
  readonly unit: string | undefined;
  readonly currency: string | undefined;
  readonly language: string | undefined;
  /** A number at the end, like `Image 2`. */
  readonly number: number | undefined;
  readonly words: string;
}

// Languages by whose short names columns are marked: others are words of a name, such as "is" and "no".
const shortLanguages = new Set("de en fr es it nl pl sv no da cs pt fi".split(" "));

/** A language by its word or its short name. */
const languageOf = (word: string): string | undefined =>
  languageNamed(word) ?? (shortLanguages.has(word) ? word : undefined);

/** Whether a word is a language's short name, as texts are marked by it. */
export const isLanguage = (word: string): boolean =>
  /^[a-z]{2}(?:-[A-Za-z]{2,4})?$/i.test(word) && shortLanguages.has(word.slice(0, 2).toLowerCase());

const signs: Readonly<Record<string, string>> = { "€": "EUR", "£": "GBP" };

/** Words that say nothing of what a column holds. */
const fillers = new Set(
  (
    "the of in a an product item article artikel produkt produit producto prodotto master main our shop current default " +
    "en w à each per piece pieces st stück pc pce new neu neue nouveau nuevo nieuw nieuwe nowy nowa from this"
  ).split(" "),
);

/** What stands beside a price to say which tax is in it; "net" alone is a weight or a price, as its neighbours say. */
const withTax =
  /(?:^| )(?:(?:inkl|incl|inc|including|mit|met|con|z|avec)(?: d)? ?(?:\d+ )?(?:mwst|ust|vat|tax|btw|iva|tva|podatkiem)|ttc|brutto|gross|bruto)(?= |$)/;
const withoutTax =
  /(?:^| )(?:(?:exkl|excl|ex|exc|excluding|ohne|zzgl|zonder|sin|bez|hors)(?: d)? ?(?:mwst|ust|vat|tax|btw|iva|tva|podatku|taxe)|ht|netto|neto|nett|net)(?= |$)/;
const plainPrices = new Set(["price", "sale_price", "list_price"]);

const withoutPlurals = (words: string): string =>
  words
    .split(" ")
    .map((word) => (/[^su]s$/.test(word) && word.length > 3 ? word.slice(0, -1) : word))
    .join(" ");

/** A price's name without what it says of tax: what a shop pays is told without, what a customer pays with it. */
function pricedName(words: string): { readonly attribute: string; readonly certainty: number } | undefined {
  const isGross = withTax.test(words);
  if (!isGross && !withoutTax.test(words)) return undefined;
  const rest = words.replace(withTax, " ").replace(withoutTax, " ").replace(/\s+/g, " ").trim();
  const meant = columnSynonyms.get(rest) ?? columnSynonyms.get(withoutPlurals(rest));
  if (meant === undefined || attributeKind(meant).kind !== "money") return undefined;
  return { attribute: !isGross && plainPrices.has(meant) ? "cost" : meant, certainty: 0.95 };
}

/** Usual names written as one word, where they have more than three letters. */
const withoutBlanks: ReadonlyMap<string, string> = new Map(
  [...columnSynonyms]
    .filter(([synonym]) => synonym.length > 3)
    .map(([synonym, attribute]) => [synonym.replaceAll(" ", ""), attribute]),
);

/** Usual names that begin alike and are about as long: a slip touches neither. */
const alikeIn = (words: string): readonly string[] =>
  [...columnSynonyms.keys()].filter(
    (synonym) => synonym[0] === words[0] && Math.abs(synonym.length - words.length) <= 2,
  );

function fromSynonyms(words: string): { readonly attribute: string; readonly certainty: number } | undefined {
  const exact = columnSynonyms.get(words);
  if (exact !== undefined) return { attribute: exact, certainty: 1 };
  const priced = pricedName(words);
  if (priced !== undefined) return priced;
  const single = columnSynonyms.get(withoutPlurals(words));
  if (single !== undefined) return { attribute: single, certainty: 0.97 };
  const kept = words
    .split(" ")
    .filter((word) => !fillers.has(word))
    .join(" ");
  const shorter = columnSynonyms.get(kept);
  if (kept !== words && shorter !== undefined) return { attribute: shorter, certainty: 0.9 };
  const joined = withoutBlanks.get(words.replaceAll(" ", ""));
  if (joined !== undefined) return { attribute: joined, certainty: 0.95 };
  const [close] = words.length >= 5 ? nearest(words, alikeIn(words), 1) : [];
  const attribute = close === undefined ? undefined : columnSynonyms.get(close);
  if (attribute !== undefined && close !== undefined && areClose(words, close))
    return { attribute, certainty: 0.7 };
  return contained(words);
}

/** Spelling mistakes touch a letter or two of a word: "pub date" is no slip for "due date", nor "reason" for "rayon". */
function areClose(words: string, close: string): boolean {
  const [own, others] = [words.split(" "), close.split(" ")];
  if (close[0] !== words[0]) return false;
  if (own.length !== others.length) return isSlip(words.replaceAll(" ", ""), close.replaceAll(" ", ""));
  return own.every((word, index) => isSlip(word, others[index] ?? ""));
}

/** A longer name that ends or begins with a usual one, such as `web shop colour`. */
function contained(words: string): { readonly attribute: string; readonly certainty: number } | undefined {
  const parts = words.split(" ");
  for (let length = parts.length - 1; length >= 1; length--) {
    const [head, tail] = [parts.slice(0, length).join(" "), parts.slice(-length).join(" ")];
    const attribute = columnSynonyms.get(tail) ?? columnSynonyms.get(head);
    const weak = (columnSynonyms.has(tail) ? tail : head).length <= 3;
    if (attribute !== undefined && !weak)
      return { attribute, certainty: 0.35 + 0.25 * (length / parts.length) };
  }
  return undefined;
}

/** Short forms of the trade, as systems with narrow columns write them. */
const shortForms: Readonly<Record<string, string>> = {
  desc: "description",
  descr: "description",
  grp: "group",
  cat: "category",
  categ: "category",
  wt: "weight",
  wgt: "weight",
  len: "length",
  lng: "length",
  wid: "width",
  hgt: "height",
  ht: "height",
  dpt: "depth",
  pct: "percent",
  prc: "price",
  prce: "price",
  amt: "amount",
  nr: "number",
  num: "number",
  avail: "available",
  grs: "gross",
  pkg: "package",
  ship: "shipping",
  pic: "picture",
  pics: "pictures",
  img: "image",
  imgs: "images",
  mfr: "manufacturer",
  mfg: "manufacturer",
  mat: "material",
  col: "colour",
  clr: "colour",
  qnty: "quantity",
  prod: "product",
  art: "article",
  manuf: "manufacturer",
};

/** Short forms that mean something only beside another word: "col1" is a column. */
const ambiguousAlone = new Set(["col", "art", "mat", "ht", "len", "cat", "ship", "prod", "num", "nr", "net"]);

/** Marks taken off the end of a name, one by one: a number, a currency, a language, a unit. */
interface NameMarks {
  tokens: readonly string[];
  unit: string | undefined;
  currency: string | undefined;
  language: string | undefined;
  number: number | undefined;
}

function takeMark(marks: NameMarks): boolean {
  const { tokens } = marks;
  const last = tokens.at(-1) ?? "";
  if (tokens.length < 2) return false;
  const rest = tokens.slice(0, -1);
  const unit = unitOf(last);
  // A unit is one even where the whole is a usual name: what it says must not be lost.
  if (unit !== undefined && marks.unit === undefined && measures(rest.join(" "), unit.dimension)) {
    marks.unit = unit.code;
    marks.tokens = rest;
    return true;
  }
  if (columnSynonyms.has(tokens.join(" "))) return false;
  if (/^\d{1,2}$/.test(last)) marks.number = Number(last);
  else if (last.length === 3 && isCurrency(last.toUpperCase())) marks.currency = last.toUpperCase();
  else if (languageOf(last) !== undefined) marks.language = languageOf(last);
  else return false;
  marks.tokens = rest;
  return true;
}

/** A language before the name, like `de title`. */
function takeLeadingLanguage(marks: NameMarks): void {
  const [first = "", ...rest] = marks.tokens;
  if (rest.length === 0 || languageOf(first) === undefined) return;
  if (fromSynonyms(rest.join(" "))?.certainty !== 1) return;
  marks.language = languageOf(first);
  marks.tokens = rest;
}

const tokensOf = (column: string): readonly string[] =>
  fold(column.replace(/([a-zäöü])([A-Z])/g, "$1 $2").replaceAll("#", " number "))
    .split(" ")
    .filter(Boolean);

/** What a step above says of all below it: a language, a currency. */
function marksOf(step: string): Pick<ColumnName, "language" | "currency"> {
  const tokens = tokensOf(step);
  const inBrackets = /[([]\s*(\p{L}{2,3})\s*[)\]]/u.exec(step)?.[1] ?? "";
  // A short name is one in brackets, by itself or at the end; a word for a language or a currency is one anywhere.
  const short = [inBrackets.toLowerCase(), tokens.length === 1 ? (tokens[0] ?? "") : (tokens.at(-1) ?? "")];
  const language =
    tokens.flatMap((token) => languageNamed(token) ?? [])[0] ?? short.find((one) => shortLanguages.has(one));
  const currency = [...tokens, inBrackets].find((one) => one.length === 3 && isCurrency(one.toUpperCase()));
  return { language, currency: currency?.toUpperCase() };
}

/** Reads a column's name, or the last steps of a path into a record, parted by ` / `. */
export function columnName(column: string): ColumnName {
  const steps = column.split(" / ");
  const [last = ""] = steps.slice(-1);
  const [above] = steps.slice(-2);
  if (steps.length < 2 || above === undefined) return nameOf(column);
  const found = belowStep(above, last);
  const marks = steps.slice(0, -1).map(marksOf).reverse();
  return {
    ...found,
    language: found.language ?? marks.find(({ language }) => language !== undefined)?.language,
    currency: found.currency ?? marks.find(({ currency }) => currency !== undefined)?.currency,
  };
}

function belowStep(above: string, last: string): ColumnName {
  const [both, alone, parent] = [nameOf(`${above} ${last}`), nameOf(last), nameOf(above)];
  if (both.certainty >= 0.9 && !/^offers?$/i.test(above)) return both;
  // What a brand or a maker has of its own is not the product's.
  const isOthers = parent.certainty >= 0.9 && ["brand", "manufacturer"].includes(parent.attribute ?? "");
  return { ...alone, certainty: alone.certainty * (isOthers ? 0.4 : 0.97) };
}

/** One name in two languages, such as `netto/net`: what both mean, or the one that means something. */
function nameInTwo(column: string): ColumnName | undefined {
  const parts = column.split("/").map((part) => part.trim());
  const [one, other] = parts;
  if (parts.length !== 2 || one === undefined || other === undefined) return undefined;
  if (!parts.every((part) => /^\p{L}[\p{L} -]+$/u.test(part)) || unitOf(other) !== undefined)
    return undefined;
  const [first, second] = [nameOf(one), nameOf(other)];
  if (first.attribute !== undefined && first.attribute === second.attribute)
    return first.certainty >= second.certainty ? first : second;
  if (first.attribute !== undefined && second.attribute !== undefined) return undefined;
  const known = first.attribute === undefined ? second : first;
  return known.attribute === undefined ? undefined : { ...known, certainty: known.certainty * 0.9 };
}

/** Reads one name: marks for unit, currency, language and number first, then what is left. */
function nameOf(column: string): ColumnName {
  const twice = column.includes("/") ? nameInTwo(column) : undefined;
  if (twice !== undefined) return twice;
  const sign = Object.keys(signs).find((mark) => column.includes(mark));
  const marks: NameMarks = {
    tokens: tokensOf(column),
    unit: undefined,
    currency: sign === undefined ? undefined : ownOf(signs, sign),
    language: undefined,
    number: undefined,
  };
  const [only = ""] = marks.tokens;
  const numbered =
    marks.tokens.length === 1 && !columnSynonyms.has(only) ? /^(\D+?)(\d{1,2})$/.exec(only) : null;
  if (numbered !== null) {
    marks.tokens = [numbered[1] ?? ""];
    marks.number = Number(numbered[2]);
  }
  const unit = /[([]\s*(\p{L}{1,3}|["″])\s*[)\]]/u.exec(column)?.[1];
  if (unit !== undefined && unitOf(unit) !== undefined) {
    const rest = marks.tokens.filter((token) => token !== fold(unit));
    if (
      rest.length > 0 &&
      (measures(rest.join(" "), unitOf(unit)?.dimension) || sideOf(rest) !== undefined)
    ) {
      marks.unit = unitOf(unit)?.code;
      marks.tokens = rest;
    }
  }
  while (takeMark(marks)) continue;
  takeLeadingLanguage(marks);
  const { tokens, ...found } = marks;
  const words = tokens.join(" ");
  // A currency alone, as a column's whole name, heads prices in it.
  if (words.length === 3 && isCurrency(words.toUpperCase()))
    return { ...found, attribute: "price", certainty: 0.9, currency: words.toUpperCase(), words };
  // A unit of weight alone, as a column's whole name, heads weights in it.
  if (/^(?:kg|kgs|kilo|lb|lbs|oz|gram|grams|gramm)$/.test(words))
    return { ...found, attribute: "weight", certainty: 0.85, unit: unitOf(words)?.code ?? "g", words };
  const side = sideOf(tokens);
  if (side !== undefined) return { ...found, attribute: side, certainty: 0.9, words };
  const meant =
    dayOfOffer(words) ?? meaning(words, fold(column)) ?? (sign === undefined ? undefined : signedPrice);
  return { ...found, attribute: meant?.attribute, certainty: meant?.certainty ?? 0, words };
}

// A sign of money in a name heads prices, whatever else it says.
const signedPrice = { attribute: "price", certainty: 0.75 } as const;

const offer =
  /^(?:sale|offer|special|promo|promotion|promocja|aktion|angebot|sonderpreis|oferta|promoción|promocion|actie|aanbieding|réduction|soldes)/;
const starts = /(?: |^)(?:from|start|starts|von|ab|du|début|debut|desde|inicio|van|vanaf|od)(?: |$)/;
const ends = /(?: |^)(?:to|until|till|end|ends|bis|au|fin|hasta|tot|do)(?: |$)/;

/** The first or last day of an offer, in any of the words for both. */
function dayOfOffer(words: string): NameMeaning | undefined {
  if (!offer.test(words) || columnSynonyms.has(words)) return undefined;
  if (starts.test(words)) return { attribute: "sale_from", certainty: 0.9 };
  return ends.test(words) ? { attribute: "sale_until", certainty: 0.9 } : undefined;
}

const sides: Readonly<Record<string, string>> = {
  w: "width",
  b: "width",
  h: "height",
  d: "depth",
  l: "depth",
  t: "depth",
};
const sizeWords =
  /^(?:size|dimension|dimensions|maße|masse|maß|afmeting|afmetingen|medida|medidas|wymiar|wymiary|mesure|mesures|format|dim)$/;

/** One letter for a side, behind a word for sizes. */
function sideOf(tokens: readonly string[]): string | undefined {
  const [word = "", letter = ""] = tokens.slice(-2);
  return tokens.length > 1 && sizeWords.test(word) ? ownOf(sides, letter) : undefined;
}

type NameMeaning = NonNullable<ReturnType<typeof fromSynonyms>>;

/** The words as they stand, with their short forms written out, or the whole name; the surest counts. */
function meaning(words: string, whole: string): NameMeaning | undefined {
  const parts = words.split(" ");
  const full = parts
    .map((word) =>
      parts.length === 1 && ambiguousAlone.has(word) ? word : (ownOf(shortForms, word) ?? word),
    )
    .join(" ");
  return [words, full, whole]
    .flatMap((name, index) => {
      const found = fromSynonyms(name);
      return found === undefined ? [] : [{ ...found, certainty: found.certainty * (index === 0 ? 1 : 0.98) }];
    })
    .sort((a, b) => b.certainty - a.certainty)[0];
}

/** Whether the words name a measure of a dimension, so that a unit of it behind them is one: "in" beside a weight is a word. */
function measures(words: string, dimension: Dimension | undefined): boolean {
  const attribute = meaning(words, words)?.attribute;
  if (attribute === undefined || attributeKind(attribute).kind !== "measure") return false;
  return (dimensionOf(attribute) ?? dimension) === dimension;
}
