/**
 * Reads a name into mentions: phrases that the glossary knows, each with all that it may mean. Which is meant is chosen
 * elsewhere, by the company it keeps.
 */
import { addAll } from "../many.js";
import type { Glossary } from "./glossary.js";
import type { Meaning, Quality } from "./good.js";
import { isOneEditApart } from "./slips.js";
import { tokensOf, type Joint, type Token } from "./tokens.js";
import { families, formOf, keyOf, type Family } from "./word-forms.js";

/** What a word or phrase of a name may mean. */
export interface Mention {
  readonly words: readonly string[];
  readonly part: number;
  readonly joint: Joint;
  readonly meanings: readonly Meaning[];
  /** As the glossary has it; by the end of a joined word; by what a dictionary says it is one of; as a slip of the pen. */
  readonly how: "term" | "compound" | "kind" | "slip";
  /** 0 to 1: how far the word is that good, and not something near to it. */
  readonly sure: number;
  /** Whether it counts or packs what stands beside it: "set", "box". */
  readonly isPack: boolean;
  /** Whether it is as well a colour, a material, or for whom a thing is. */
  readonly isQuality: boolean;
}

/** A name read: what it may be, and how, of what and for whom it is. */
export interface Reading {
  readonly tokens: readonly Token[];
  /** In the order of the name. */
  readonly mentions: readonly Mention[];
  readonly qualities: readonly Quality[];
}

/** A name in which nothing is known. */
export const nothingRead: Reading = { tokens: [], mentions: [], qualities: [] };

interface Found {
  readonly meanings: readonly Meaning[];
  readonly how: Mention["how"];
  readonly sure: number;
  /** Words before the end of a joined word, and the family of the whole. */
  readonly before: readonly string[];
  readonly family?: Family;
}

const SHORTEST_END = 4;
const SHORTEST_BEGINNING = 3;
const SHORTEST_SLIP = 5;
/** So much is a thing still what a dictionary says it is one of, step by step. */
const STEP = 0.85;
const SENSES = [0.75, 0.5, 0.35] as const;
const RARE_SENSE = 0.25;
const SLIP = 0.9;
const DOUBTFUL_SLIP = 0.5;
const COMPOUND = 0.85;
const JOINED = 0.95;
const PACK = 0.3;

const noWords: readonly string[] = [];

/** Words that count or pack a thing: what is counted stands beside them. */
const packs = new Set(
  "set kit pack pair box bundle collection selection assortment bag roll piece refill size litre metre bale tub paar packung satz stuck stk lot coffret jeu".split(
    " ",
  ),
);

const termsOf = (words: readonly string[], glossary: Glossary): readonly Meaning[] =>
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
const splitIn = (word: string, family: Family, glossary: Glossary): Found | undefined => {
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
};

/** What a dictionary says a word is one of, as far as the glossary knows that. */
const kindOf = (word: string, glossary: Glossary): Found | undefined => {
  const senses = singularsOf(word).flatMap((singular) => glossary.kindsOfThings.sensesOf(singular));
  let [sure, meanings]: [number, readonly Meaning[]] = [0, []];
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
};

/** Words of the glossary a slip of the pen away from one that nobody knows; letters left out or doubled first. */
const slipsOf = (word: string, glossary: Glossary): readonly string[] => {
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
};

/** Whether words belong together: "cup and saucer", "ball of wool", but not "jar with lid". */
const isOnePhrase = (tokens: readonly Token[], start: number, end: number): boolean => {
  const first = tokens[start]?.part;
  for (let at = start + 1; at <= end; at++) {
    const token = tokens[at];
    if (token !== undefined && token.part !== first && token.joint !== "and" && token.joint !== "of")
      return false;
  }
  return true;
};

const REMEMBERED = 50_000;

/** What joins the parts of a German word. */
const LINK = /(?:s|en|n|er)$/;

const remembered = <T>(find: (word: string) => T): ((word: string) => T) => {
  const known = new Map<string, T>();
  return (word) => {
    const before = known.get(word);
    if (before !== undefined || known.has(word)) return before as T;
    const found = find(word);
    if (known.size < REMEMBERED) known.set(word, found);
    return found;
  };
};

/** Reads names by a glossary; words are remembered, so that the same ones are not looked up again. */
export interface NameReader {
  read(text: string): Reading;
  /** Colours, materials and the like that a word tells. */
  qualitiesOf(word: string): readonly Quality[];
}

/** Begins to read names by a glossary. */
export const nameReader = (glossary: Glossary): NameReader => {
  const qualitiesOf = remembered((word) =>
    families.flatMap((family) => glossary.qualities(formOf(word, family), family)),
  );
  const isKnownNoun = (word: string): boolean =>
    singularsOf(word).some((singular) => glossary.kindsOfThings.sensesOf(singular).length > 0);
  const isKnown = (word: string): boolean =>
    families.some((family) => glossary.hasWord(formOf(word, family), family)) ||
    qualitiesOf(word).length > 0 ||
    isKnownNoun(word);
  /** What a word that nobody knows may be a slip of; a joined word whose parts are known is no slip. */
  const slips = remembered((word): readonly string[] => {
    if (isKnown(word)) return noWords;
    const split = joined(word);
    const isOfFamily = (before: string): boolean =>
      split?.family !== undefined &&
      [before, before.replace(LINK, "")].some(
        (one) =>
          glossary.hasWord(formOf(one, split.family ?? "english"), split.family ?? "english") ||
          qualitiesOf(one).length > 0,
      );
    const isJoined = split !== undefined && split.before.every(isOfFamily);
    return isJoined ? noWords : slipsOf(word, glossary);
  });
  const found = remembered((word): Found | undefined => {
    const terms = termsOf([word], glossary);
    if (terms.length > 0) return { meanings: terms, how: "term", sure: 1, before: noWords };
    if (isKnownNoun(word)) return kindOf(word, glossary);
    return slips(word).length > 0 ? undefined : joined(word);
  });
  const joined = (word: string): Found | undefined =>
    splitIn(word, "germanic", glossary) ?? splitIn(word, "english", glossary);
  /** A word as it was meant: of what it may be a slip of, what makes a phrase with its neighbours, or the nearest. */
  const meant = (tokens: readonly Token[], at: number): string => {
    const word = tokens[at]?.word ?? "";
    const near = slips(word);
    if (near.length < 2) return near[0] ?? word;
    const [before, after] = [tokens[at - 1]?.word, tokens[at + 1]?.word];
    const isPhrase = (words: readonly (string | undefined)[]): boolean =>
      words.every((one) => one !== undefined) && termsOf(words, glossary).length > 0;
    return (
      near.find((one) => isPhrase([one, after]) || isPhrase([before, one])) ??
      near.find((one) => termsOf([one], glossary).length > 0) ??
      near[0] ??
      word
    );
  };
  /** The longest phrase that ends at a word. */
  const phraseAt = (tokens: readonly Token[], end: number): { size: number; found: Found } | undefined => {
    for (let size = Math.min(glossary.longest, end + 1); size > 1; size--) {
      if (!isOnePhrase(tokens, end - size + 1, end)) continue;
      const meanings = termsOf(
        tokens.slice(end - size + 1, end + 1).map(({ word }) => word),
        glossary,
      );
      if (meanings.length > 0) return { size, found: { meanings, how: "term", sure: 1, before: noWords } };
    }
    const [before, last] = [tokens[end - 1], tokens[end]];
    if (before !== undefined && last !== undefined && before.part === last.part) {
      const meanings = termsOf([before.word + last.word], glossary);
      if (meanings.length > 0)
        return { size: 2, found: { meanings, how: "term", sure: JOINED, before: noWords } };
    }
    const one = last === undefined || last.word.length < 2 ? undefined : found(last.word);
    return one === undefined ? undefined : { size: 1, found: one };
  };
  /** "Coats for girls" are girls' coats. */
  const withAudience = (mention: Mention, tokens: readonly Token[]): Mention => {
    if (mention.part > 0) return mention;
    for (const { word, joint } of tokens) {
      if (joint !== "use" || !qualitiesOf(word).some(({ isA }) => isA === "audience")) continue;
      const meanings = termsOf([word, ...mention.words], glossary);
      if (meanings.length > 0) return { ...mention, meanings: [...meanings, ...mention.meanings] };
    }
    return mention;
  };
  const read = (text: string): Reading => {
    const written = tokensOf(text);
    const tokens = written.map((token, at) => {
      const word = meant(written, at);
      return word === token.word ? token : { ...token, word };
    });
    const qualities: Quality[] = [];
    const mentions: Mention[] = [];
    for (let end = tokens.length - 1; end >= 0; end--) {
      const at = phraseAt(tokens, end);
      const taken = tokens.slice(end - (at?.size ?? 1) + 1, end + 1);
      const told = taken.flatMap(({ word }) => qualitiesOf(word));
      addAll(qualities, told);
      const [first] = taken;
      if (at === undefined || first === undefined) continue;
      for (const word of at.found.before)
        for (const one of [word, word.replace(LINK, "")]) addAll(qualities, qualitiesOf(one));
      const isSlip = taken.some(({ word }, index) => written[end - at.size + 1 + index]?.word !== word);
      // What may be a slip of several words is hardly any of them.
      const isDoubtful =
        at.size === 1 && taken.some((_, index) => slips(written[end + index]?.word ?? "").length > 1);
      const isPack = at.size === 1 && packs.has(first.word);
      mentions.push({
        words: taken.map(({ word }) => word),
        part: first.part,
        joint: first.joint,
        meanings: at.found.meanings,
        how: isSlip ? "slip" : at.found.how,
        sure: at.found.sure * (isPack ? PACK : 1) * (isSlip ? (isDoubtful ? DOUBTFUL_SLIP : SLIP) : 1),
        isPack,
        isQuality: at.size === 1 && told.length > 0,
      });
      end -= at.size - 1;
    }
    return {
      tokens,
      mentions: mentions.reverse().map((mention) => withAudience(mention, tokens)),
      qualities: [...new Set(qualities)],
    };
  };
  return { read, qualitiesOf };
};
