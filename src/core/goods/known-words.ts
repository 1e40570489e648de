/**
 * What a glossary knows of single words: the goods that they name, by themselves, by the end of a joined word or as what a
 * dictionary says they are one of; their qualities; and of which known word an unknown one may be a slip of the pen.
 */
import type { Glossary } from "./glossary.js";
import type { Quality, WordMeaning } from "./good.js";
import { isOneEditApart } from "./slips.js";
import { families, formOf, keyOf, type LanguageFamily } from "./word-forms.js";

/** The goods that a word or phrase may name. */
export interface FoundGood {
  readonly meanings: readonly WordMeaning[];
  /** As the glossary has it; by the end of a joined word; by what a dictionary says it is one of. */
  readonly how: "term" | "compound" | "kind";
  /** 0 to 1 */
  readonly sure: number;
  /** Words before the end of a joined word, and the family of the whole. */
  readonly before: readonly string[];
  readonly family?: LanguageFamily;
}

const SHORTEST_END = 4;
const SHORTEST_BEGINNING = 3;
const SHORTEST_SLIP = 5;
/** So much is a thing still what a dictionary says it is one of, step by step. */
const STEP = 0.85;
const SENSES = [0.75, 0.5, 0.35] as const;
const RARE_SENSE = 0.25;
const COMPOUND = 0.85;
/** Two words in one, or one in two. */
export const JOINED = 0.95;
/** None. */
export const noWords: readonly string[] = [];

/** Goods that words in this order name. */
export const termsOf = (words: readonly string[], glossary: Glossary): readonly WordMeaning[] =>
  families.flatMap((family) => glossary.meanings(keyOf(words, family), family));

/** English words that a noun may be the plural of. */
const singularsOf = (word: string): readonly string[] => [
  word,
  ...(word.endsWith("s") && word.length > 3 ? [word.slice(0, -1)] : []),
  ...(word.endsWith("es") && word.length > 4 ? [word.slice(0, -2)] : []),
  ...(word.endsWith("ies") && word.length > 4 ? [`${word.slice(0, -3)}y`] : []),
  ...(word.endsWith("ves") && word.length > 4 ? [`${word.slice(0, -3)}f`, `${word.slice(0, -3)}fe`] : []),
];

/** The end of a joined word that the glossary knows, with what stands before it: "Wanderstiefel" is Stiefel. */
function splitIn(word: string, family: LanguageFamily, glossary: Glossary): FoundGood | undefined {
  for (let at = SHORTEST_BEGINNING; at <= word.length - SHORTEST_END; at++) {
    const end = word.slice(at);
    const beginning = word.slice(0, at);
    // Two words written as one: "headtorch" is a head torch.
    const both = glossary.meanings(keyOf([beginning, end], family), family);
    if (both.length > 0) return { meanings: both, how: "compound", sure: JOINED, before: noWords, family };
    const meanings = glossary.meanings(formOf(end, family), family);
    if (meanings.length > 0)
      return { meanings, how: "compound", sure: COMPOUND, before: [beginning], family };
  }
  return undefined;
}

/** What a dictionary says a word is one of, as far as the glossary knows that. */
function kindOf(word: string, glossary: Glossary): FoundGood | undefined {
  const senses = singularsOf(word).flatMap((singular) => glossary.kindsOfThings.sensesOf(singular));
  let [sure, meanings]: [number, readonly WordMeaning[]] = [0, []];
  for (const { rank, steps } of senses)
    for (const [step, names] of steps.entries()) {
      const known = names.flatMap((name) =>
        glossary.meanings(keyOf(name.split(/[ -]/), "english"), "english"),
      );
      if (known.length === 0) continue;
      const here = (SENSES[rank] ?? RARE_SENSE) * STEP ** step;
      // A rarer sense speaks too; the surest tells how sure.
      meanings = here > sure ? [...known, ...meanings] : [...meanings, ...known];
      sure = Math.max(sure, here);
      break;
    }
  return meanings.length === 0 ? undefined : { meanings, how: "kind", sure, before: noWords };
}

/** Words of the glossary a slip of the pen away from one that nobody knows; letters left out or doubled first. */
function slipsOf(word: string, glossary: Glossary): readonly string[] {
  if (word.length < SHORTEST_SLIP) return noWords;
  const near = families.flatMap((family) =>
    [word, ...(word.endsWith("s") ? [word.slice(0, -1)] : [])].flatMap((form) =>
      glossary.wordsLike(form.slice(0, 1), family).filter((other) => isOneEditApart(form, other)),
    ),
  );
  const letters = [...word].sort().join("");
  const cost = (other: string): number =>
    other.length !== word.length || [...other].sort().join("") === letters ? 0 : 1;
  return [...new Set(near)].sort((a, b) => cost(a) - cost(b));
}

const REMEMBERED = 50_000;

/** What joins the parts of a German word. */
export const LINK = /(?:s|en|n|er)$/;

function remembered<T>(find: (word: string) => T): (word: string) => T {
  const known = new Map<string, T>();
  return (word) => {
    const before = known.get(word);
    if (before !== undefined || known.has(word)) return before as T;
    const found = find(word);
    if (known.size < REMEMBERED) known.set(word, found);
    return found;
  };
}

/** What is known of words; each is looked up once. */
export interface KnownWords {
  /** Colours, materials and the like that a word tells. */
  qualitiesOf(word: string): readonly Quality[];
  /** What a word that nobody knows may be a slip of, the likeliest first. */
  slips(word: string): readonly string[];
  /** The goods that a word by itself may name. */
  found(word: string): FoundGood | undefined;
}

/** A word as two, whose end the glossary knows. */
const joined = (word: string, glossary: Glossary): FoundGood | undefined =>
  splitIn(word, "germanic", glossary) ?? splitIn(word, "english", glossary);

/** What a glossary knows of words. */
export function knownWords(glossary: Glossary): KnownWords {
  const qualitiesOf = remembered((word) =>
    families.flatMap((family) => glossary.qualities(formOf(word, family), family)),
  );
  const isKnownNoun = (word: string): boolean =>
    singularsOf(word).some((singular) => glossary.kindsOfThings.sensesOf(singular).length > 0);
  const isKnown = (word: string): boolean =>
    families.some((family) => glossary.hasWord(formOf(word, family), family)) ||
    qualitiesOf(word).length > 0 ||
    isKnownNoun(word);
  /** Whether what stands before the end of a joined word is a word of that family. */
  const isPart = (before: string, family: LanguageFamily): boolean =>
    [before, before.replace(LINK, "")].some(
      (one) => glossary.hasWord(formOf(one, family), family) || qualitiesOf(one).length > 0,
    );
  const slips = remembered((word): readonly string[] => {
    if (isKnown(word)) return noWords;
    // A joined word whose parts are known is no slip.
    const split = joined(word, glossary);
    const isJoined =
      split !== undefined &&
      split.before.every((before) => split.family !== undefined && isPart(before, split.family));
    return isJoined ? noWords : slipsOf(word, glossary);
  });
  const found = remembered((word): FoundGood | undefined => {
    const terms = termsOf([word], glossary);
    if (terms.length > 0) return { meanings: terms, how: "term", sure: 1, before: noWords };
    if (isKnownNoun(word)) return kindOf(word, glossary);
    return slips(word).length > 0 ? undefined : joined(word, glossary);
  });
  return { qualitiesOf, slips, found };
}
