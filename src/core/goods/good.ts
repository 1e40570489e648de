/** Rows of a glossary: a thing that shops sell, a word that says how it is. */
import type { Place } from "../diagnostics/place.js";
import type { GoodsLanguage } from "./word-forms.js";

/** One row of a glossary: a thing that shops sell. */
export interface GoodRow {
  /** In British English; what others name it by. */
  readonly name: string;
  /** What it is called, by language, its name among the English words. */
  readonly words: Readonly<Partial<Record<GoodsLanguage, readonly string[]>>>;
  /** Names of goods or kinds that it is one of. */
  readonly kindOf: readonly string[];
  /** Names of goods that it is a part of, or bought for. */
  readonly partOf: readonly string[];
  /** A quality's name: for whom it is made. */
  readonly forWhom: string;
  /** The field of trade: the file's name. */
  readonly field: string;
  readonly place: Place;
}

/** A word that says how, of what or for whom a thing is, and never what it is. */
export interface QualityRow {
  readonly name: string;
  readonly words: Readonly<Partial<Record<GoodsLanguage, readonly string[]>>>;
  /** Nearest wider quality: burgundy is a red. */
  readonly kindOf: string;
  readonly isA: string;
}

/** A thing that shops sell. */
export interface Good {
  /** Its position in its glossary. */
  readonly id: number;
  readonly name: string;
  readonly field: string;
  readonly forWhom: string;
  readonly kindOf: readonly number[];
  /** What is one of it. */
  readonly kinds: readonly number[];
  /** What it is a part of or bought for, and what belongs to it. */
  readonly withIt: readonly number[];
}

/** How, of what or for whom a thing is. */
export interface Quality {
  readonly name: string;
  /** `colour`, `material`, `audience` or `place of use`. */
  readonly isA: string;
  readonly kindOf: string;
}

/** One meaning of a word: a good in a language. */
export interface WordMeaning {
  readonly good: number;
  readonly language: GoodsLanguage;
  /** Its own name, one of its others, or a part of one that may stand for it: "brush" for a hair brush. */
  readonly by: "name" | "word" | "part";
}
