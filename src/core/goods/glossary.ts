/**
 * The glossary, opened: goods, the words for them in each language, and what is a kind of what. Nothing is unpacked
 * before it is asked.
 */
import type { Good, WordMeaning, Quality } from "./good.js";
import type { GlossaryData } from "./glossary-data.js";
import { nothingKnown, type KindsOfThings } from "./kinds-of-things.js";
import { families, goodsLanguages, perFamily, type LanguageFamily } from "./word-forms.js";

/** What is known of goods and of the words for them, in several languages. */
export interface Glossary {
  readonly goods: readonly Good[];
  /** Most words that a phrase of it has. */
  readonly longest: number;
  meanings(key: string, family: LanguageFamily): readonly WordMeaning[];
  qualities(key: string, family: LanguageFamily): readonly Quality[];
  /** Whether any phrase has a word of such a form. */
  hasWord(form: string, family: LanguageFamily): boolean;
  /** Words of a family's phrases, as they are written, by their first letter: for what is like a word that nobody knows. */
  wordsLike(initial: string, family: LanguageFamily): readonly string[];
  /** How many fields of trade there are; a good's is `fieldOf`. */
  readonly fields: number;
  fieldOf(good: number): number;
  readonly kindsOfThings: KindsOfThings;
}

const noMeanings: readonly WordMeaning[] = [];
const noQualities: readonly Quality[] = [];
const noWords: readonly string[] = [];

const ways = ["name", "word", "part"] as const;

/** Meanings packed as threes of good, language and way, unpacked when they are asked for. */
function unpack(packed: readonly number[]): readonly WordMeaning[] {
  const found: WordMeaning[] = [];
  for (let at = 0; at < packed.length; at += 3)
    found.push({
      good: packed[at] ?? 0,
      language: goodsLanguages[packed[at + 1] ?? 0] ?? "en",
      by: ways[packed[at + 2] ?? 0] ?? "word",
    });
  return found;
}

/** Makes the data of a glossary ready to be asked; nothing is unpacked before it is. */
export function openGlossary(
  { goods: rows, terms, words, qualities, longest }: GlossaryData,
  kindsOfThings: KindsOfThings = nothingKnown,
): Glossary {
  const fields = new Map<string, number>();
  const fieldIds = rows.map(({ field }) => {
    const known = fields.get(field) ?? fields.size;
    fields.set(field, known);
    return known;
  });
  const kinds = rows.map((): number[] => []);
  for (const [id, { kindOf }] of rows.entries()) for (const parent of kindOf) kinds[parent]?.push(id);
  const packed = perFamily((family) => new Map(terms[family]));
  const opened = perFamily(() => new Map<string, readonly WordMeaning[]>());
  const told = perFamily((family) => new Map(qualities[family]));
  const forms = perFamily((family) => new Set(words[family].map(([form]) => form)));
  const initials = perFamily(() => new Map<string, string[]>());
  let hasInitials = false;
  const listInitials = (): void => {
    hasInitials = true;
    for (const family of families)
      for (const [, word] of words[family]) {
        const known = initials[family].get(word.slice(0, 1));
        if (known === undefined) initials[family].set(word.slice(0, 1), [word]);
        else known.push(word);
      }
  };
  return {
    goods: rows.map((row, id) => ({ ...row, id, kinds: kinds[id] ?? [] })),
    longest,
    kindsOfThings,
    fields: fields.size,
    fieldOf: (good) => fieldIds[good] ?? 0,
    meanings(key, family) {
      const known = opened[family].get(key);
      if (known !== undefined) return known;
      const found = packed[family].get(key);
      if (found === undefined) return noMeanings;
      const meanings = unpack(found);
      opened[family].set(key, meanings);
      return meanings;
    },
    qualities: (key, family) => told[family].get(key) ?? noQualities,
    hasWord: (form, family) => forms[family].has(form),
    wordsLike(initial, family) {
      if (!hasInitials) listInitials();
      return initials[family].get(initial) ?? noWords;
    },
  };
}
