import { nearest } from "../../diagnostics/nearest.js";
import { isCurrency } from "../../values/currencies.js";
import { fold } from "../../values/text.js";
import { unitOf } from "../../values/units.js";
import { attributeKind, columnSynonyms } from "../vocabulary.js";

/** What a column's name says: the attribute it usually stands for, how surely, and marks that stand beside it. */
export interface ColumnName {
  readonly attribute: string | undefined;
  /** 0 to 1. */
  readonly certainty: number;
  readonly unit: string | undefined;
  readonly currency: string | undefined;
  readonly language: string | undefined;
  /** A number at the end, as in `Image 2`. */
  readonly number: number | undefined;
  readonly words: string;
}

const languages: Readonly<Record<string, string>> = {
  ...{
    de: "de",
    deutsch: "de",
    german: "de",
    en: "en",
    english: "en",
    englisch: "en",
    fr: "fr",
    french: "fr",
  },
  ...{
    französisch: "fr",
    français: "fr",
    es: "es",
    spanish: "es",
    it: "it",
    italian: "it",
    nl: "nl",
    dutch: "nl",
  },
  ...{
    pl: "pl",
    polish: "pl",
    sv: "sv",
    swedish: "sv",
    no: "no",
    norwegian: "no",
    da: "da",
    danish: "da",
    ger: "de",
    eng: "en",
  },
};

const signs: Readonly<Record<string, string>> = { "€": "EUR", "£": "GBP" };

/** Words that say nothing of what a column holds. */
const fillers = new Set(
  "the of in a an product item article artikel produkt produit master main our shop current default".split(
    " ",
  ),
);

const fromSynonyms = (
  words: string,
): { readonly attribute: string; readonly certainty: number } | undefined => {
  const exact = columnSynonyms.get(words);
  if (exact !== undefined) return { attribute: exact, certainty: 1 };
  const kept = words
    .split(" ")
    .filter((word) => !fillers.has(word))
    .join(" ");
  const shorter = columnSynonyms.get(kept);
  if (kept !== words && shorter !== undefined) return { attribute: shorter, certainty: 0.9 };
  const joined = words.replaceAll(" ", "");
  for (const [synonym, attribute] of columnSynonyms)
    if (synonym.length > 3 && synonym.replaceAll(" ", "") === joined) return { attribute, certainty: 0.95 };
  const [close] = words.length >= 5 ? nearest(words, columnSynonyms.keys(), 1) : [];
  const attribute = close === undefined ? undefined : columnSynonyms.get(close);
  if (attribute !== undefined && close !== undefined && Math.abs(close.length - words.length) <= 2)
    return { attribute, certainty: 0.7 };
  return contained(words);
};

/** A longer name that ends or begins with a usual one, such as `web shop colour`. */
const contained = (words: string): { readonly attribute: string; readonly certainty: number } | undefined => {
  const parts = words.split(" ");
  for (let length = parts.length - 1; length >= 1; length--) {
    const [head, tail] = [parts.slice(0, length).join(" "), parts.slice(-length).join(" ")];
    const attribute = columnSynonyms.get(tail) ?? columnSynonyms.get(head);
    const weak = (columnSynonyms.has(tail) ? tail : head).length <= 3;
    if (attribute !== undefined && !weak)
      return { attribute, certainty: 0.35 + 0.25 * (length / parts.length) };
  }
  return undefined;
};

/** Reads a column's name: marks for unit, currency, language and number first, then what is left. */
export const columnName = (column: string): ColumnName => {
  const sign = Object.keys(signs).find((mark) => column.includes(mark));
  const spaced = column.replace(/([a-zäöü])([A-Z])/g, "$1 $2");
  let tokens = fold(spaced).split(" ").filter(Boolean);
  const whole = fold(column);
  let unit: string | undefined;
  let currency = sign === undefined ? undefined : signs[sign];
  let language: string | undefined;
  let number: number | undefined;
  if (!columnSynonyms.has(tokens.join(" ")) && tokens.length > 1) {
    const last = (): string => tokens.at(-1) ?? "";
    const drop = (): void => void (tokens = tokens.slice(0, -1));
    for (let changed = true; changed && tokens.length > 1;) {
      changed = true;
      if (/^\d{1,2}$/.test(last()) && !columnSynonyms.has(tokens.join(" "))) number = Number(last());
      else if (isCurrency(last().toUpperCase()) && last().length === 3) currency = last().toUpperCase();
      else if (languages[last()] !== undefined && !columnSynonyms.has(tokens.join(" ")))
        language = languages[last()];
      else if (unitOf(last()) !== undefined && measures(tokens.slice(0, -1).join(" ")))
        unit = unitOf(last())?.code;
      else changed = false;
      if (changed) drop();
    }
    const first = tokens[0] ?? "";
    if (
      tokens.length > 1 &&
      languages[first] !== undefined &&
      first.length === 2 &&
      fromSynonyms(tokens.slice(1).join(" "))?.certainty === 1
    ) {
      language = languages[first];
      tokens = tokens.slice(1);
    }
  } else if (tokens.length === 1) {
    const numbered = /^(\D+?)(\d{1,2})$/.exec(tokens[0] ?? "");
    if (numbered !== null && !columnSynonyms.has(tokens[0] ?? "")) {
      tokens = [numbered[1] ?? ""];
      number = Number(numbered[2]);
    }
  }
  const words = tokens.join(" ");
  const found = fromSynonyms(words) ?? (words === whole ? undefined : fromSynonyms(whole));
  return {
    attribute: found?.attribute,
    certainty: found?.certainty ?? 0,
    unit,
    currency,
    language,
    number,
    words,
  };
};

/** Whether the words name a measure, so that a letter behind them is a unit. */
const measures = (words: string): boolean => {
  const attribute = fromSynonyms(words)?.attribute;
  return attribute !== undefined && attributeKind(attribute).kind === "measure";
};
