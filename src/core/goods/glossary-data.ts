/**
 * A glossary as plain data: what the build writes, what is read from disk, and what grows when a shop or a definition adds
 * rows (`grow-glossary.ts`). Meanings are flat threes of numbers: reading them costs no more than parsing JSON.
 */
import type { Quality } from "./good.js";
import { perFamily, type LanguageFamily } from "./word-forms.js";

/** A good as plain data; ids are positions in the list. */
export interface GoodData {
  readonly name: string;
  readonly field: string;
  readonly forWhom: string;
  readonly kindOf: readonly number[];
  readonly withIt: readonly number[];
}

/** Something for each family of languages. */
export type PerFamily<T> = Readonly<Record<LanguageFamily, T>>;

/** A glossary as plain data, as the build writes it: reading it costs no more than parsing JSON. */
export interface GlossaryData {
  readonly goods: readonly GoodData[];
  /** Keys of phrases with threes of numbers: good, position of the language, 0 its name, 1 a word, 2 a part of one. */
  readonly terms: PerFamily<readonly (readonly [key: string, meanings: readonly number[]])[]>;
  /** Forms of single words with one way in which they are written. */
  readonly words: PerFamily<readonly (readonly [form: string, word: string])[]>;
  readonly qualities: PerFamily<readonly (readonly [key: string, qualities: readonly Quality[]])[]>;
  readonly longest: number;
}

/** A glossary of nothing, to grow from. */
export const noGlossary: GlossaryData = {
  goods: [],
  terms: perFamily(() => []),
  words: perFamily(() => []),
  qualities: perFamily(() => []),
  longest: 1,
};

/** How a phrase means a good: it is its name, another word for it, or a part of one. */
export const NAME = 0;
/** Another word for it. */
export const WORD = 1;
/** A part of a phrase for it, which may stand for it among its like. */
export const PART = 2;
