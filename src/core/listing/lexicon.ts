import { selfAndAbove, pathParts, pathText } from "../catalogue/category-path.js";
import type { FieldCode } from "../ids.js";
import { fold } from "../values/text.js";

/** Our term for a field, and the channel's value it means; in one of our categories and below, or everywhere. */
export interface LexiconRow {
  readonly field: FieldCode;
  readonly ourCategory: string;
  readonly ourTerm: string;
  readonly channelValue: string;
}

export interface Lexicon {
  readonly size: number;
  /** The channel's value for our term: the nearest category's row wins; case, accents and spaces do not matter. */
  find(field: FieldCode, ourCategory: string | undefined, term: string): string | undefined;
}

const key = (field: string, category: string, term: string): string =>
  `${field}\u0000${category}\u0000${term}`;

export const lexiconOf = (rows: readonly LexiconRow[]): Lexicon => {
  const found = new Map<string, string>();
  const scoped = new Set<string>();
  for (const { field, ourCategory, ourTerm, channelValue } of rows) {
    const category = pathText(pathParts(ourCategory));
    if (category !== "") scoped.add(field);
    found.set(key(field, category, fold(ourTerm)), channelValue);
  }
  return {
    size: rows.length,
    find(field, ourCategory, term) {
      const folded = fold(term);
      const paths = ourCategory === undefined || !scoped.has(field) ? [] : selfAndAbove(ourCategory);
      for (const path of [...paths, ""]) {
        const value = found.get(key(field, path, folded));
        if (value !== undefined) return value;
      }
      return undefined;
    },
  };
};
