/** Our terms and the channel's values, by field and category. */
import { selfAndAbove, pathParts, pathText } from "../../values/category-path.js";
import type { FieldCode } from "../../ids.js";
import { termKey } from "../../values/text.js";

/** Our term for a field, and the channel's value it means; in one of our categories and below, or everywhere. */
export interface LexiconRow {
  readonly field: FieldCode;
  readonly ourCategory: string;
  readonly ourTerm: string;
  readonly channelValue: string;
}

/** Finds the channel's value for our term. */
export interface Lexicon {
  readonly size: number;
  /** The channel's value for our term: the nearest category's row wins; the exact term before one that differs in case, accents or spaces. */
  find(field: FieldCode, ourCategory: string | undefined, term: string): string | undefined;
}

const key = (field: string, category: string, term: string): string =>
  `${field}\u0000${category}\u0000${term}`;

/** Makes rows ready to be asked. */
export function lexiconOf(rows: readonly LexiconRow[]): Lexicon {
  const exact = new Map<string, string>();
  const folded = new Map<string, string>();
  const scoped = new Set<string>();
  for (const { field, ourCategory, ourTerm, channelValue } of rows) {
    const category = pathText(pathParts(ourCategory));
    if (category !== "") scoped.add(field);
    exact.set(key(field, category, ourTerm), channelValue);
    folded.set(key(field, category, termKey(ourTerm)), channelValue);
  }
  return {
    size: rows.length,
    find(field, ourCategory, term) {
      const alike = termKey(term);
      const paths = ourCategory === undefined || !scoped.has(field) ? [] : selfAndAbove(ourCategory);
      for (const path of [...paths, ""]) {
        const value = exact.get(key(field, path, term)) ?? folded.get(key(field, path, alike));
        if (value !== undefined) return value;
      }
      return undefined;
    },
  };
}
