/**
 * Reads a name into mentions: phrases that the glossary knows, each with all that it may mean. Which is meant is chosen
 * elsewhere, by the company it keeps.
 */
import { addAll } from "../many.js";
import type { Glossary } from "./glossary.js";
import type { WordMeaning, Quality } from "./good.js";
import {
  JOINED,
  knownWords,
  LINK,
  noWords,
  termsOf,
  type FoundGood,
  type KnownWords,
} from "./known-words.js";
import { tokensOf, type Joint, type NameToken } from "./tokens.js";

/** What a word or phrase of a name may mean. */
export interface Mention {
  readonly words: readonly string[];
  readonly part: number;
  readonly joint: Joint;
  readonly meanings: readonly WordMeaning[];
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
export interface NameReading {
  readonly tokens: readonly NameToken[];
  /** In the order of the name. */
  readonly mentions: readonly Mention[];
  readonly qualities: readonly Quality[];
}

/** A name in which nothing is known. */
export const nothingRead: NameReading = { tokens: [], mentions: [], qualities: [] };

const SLIP = 0.9;
const DOUBTFUL_SLIP = 0.5;
const PACK = 0.3;

/** Words that count or pack a thing: what is counted stands beside them. */
const packs = new Set(
  "set kit pack pair box bundle collection selection assortment bag roll piece refill size litre metre bale tub paar packung satz stuck stk lot coffret jeu".split(
    " ",
  ),
);

/** Whether words belong together: "cup and saucer", "ball of wool", but not "jar with lid". */
function isOnePhrase(tokens: readonly NameToken[], start: number, end: number): boolean {
  const first = tokens[start]?.part;
  for (let at = start + 1; at <= end; at++) {
    const token = tokens[at];
    if (token !== undefined && token.part !== first && token.joint !== "and" && token.joint !== "of")
      return false;
  }
  return true;
}

/** Reads names by a glossary; words are remembered, so that the same ones are not looked up again. */
export interface NameReader {
  read(text: string): NameReading;
  /** Colours, materials and the like that a word tells. */
  qualitiesOf(word: string): readonly Quality[];
}

/** A word as it was meant: of what it may be a slip of, what makes a phrase with its neighbours, or the nearest. */
function meantAt(tokens: readonly NameToken[], at: number, words: KnownWords, glossary: Glossary): string {
  const word = tokens[at]?.word ?? "";
  const near = words.slips(word);
  if (near.length < 2) return near[0] ?? word;
  const [before, after] = [tokens[at - 1]?.word, tokens[at + 1]?.word];
  const isPhrase = (phrase: readonly (string | undefined)[]): boolean =>
    phrase.every((one) => one !== undefined) && termsOf(phrase, glossary).length > 0;
  return (
    near.find((one) => isPhrase([one, after]) || isPhrase([before, one])) ??
    near.find((one) => termsOf([one], glossary).length > 0) ??
    near[0] ??
    word
  );
}

/** Words that name something together, and how many they are. */
interface Phrase {
  readonly size: number;
  readonly found: FoundGood;
}

/** The longest phrase that ends at a word. */
function phraseAt(
  tokens: readonly NameToken[],
  end: number,
  words: KnownWords,
  glossary: Glossary,
): Phrase | undefined {
  for (let size = Math.min(glossary.longest, end + 1); size > 1; size--) {
    if (!isOnePhrase(tokens, end - size + 1, end)) continue;
    const phrase = tokens.slice(end - size + 1, end + 1).map(({ word }) => word);
    const meanings = termsOf(phrase, glossary);
    if (meanings.length > 0) return { size, found: { meanings, how: "term", sure: 1, before: noWords } };
  }
  const [before, last] = [tokens[end - 1], tokens[end]];
  if (before !== undefined && last !== undefined && before.part === last.part) {
    const meanings = termsOf([before.word + last.word], glossary);
    if (meanings.length > 0)
      return { size: 2, found: { meanings, how: "term", sure: JOINED, before: noWords } };
  }
  const one = last === undefined || last.word.length < 2 ? undefined : words.found(last.word);
  return one === undefined ? undefined : { size: 1, found: one };
}

/** "Coats for girls" are girls' coats. */
function withAudience(
  mention: Mention,
  tokens: readonly NameToken[],
  words: KnownWords,
  glossary: Glossary,
): Mention {
  if (mention.part > 0) return mention;
  for (const { word, joint } of tokens) {
    if (joint !== "use" || !words.qualitiesOf(word).some(({ isA }) => isA === "audience")) continue;
    const meanings = termsOf([word, ...mention.words], glossary);
    if (meanings.length > 0) return { ...mention, meanings: [...meanings, ...mention.meanings] };
  }
  return mention;
}

/** What words of a name mention: `taken` as they were meant, `written` as they stand there. */
function mentionOf(
  { size, found }: Phrase,
  taken: readonly [NameToken, ...NameToken[]],
  written: readonly NameToken[],
  words: KnownWords,
): Mention {
  const [first] = taken;
  const isSlip = taken.some(({ word }, at) => written[at]?.word !== word);
  // What may be a slip of several words is hardly any of them.
  const isDoubtful = size === 1 && taken.some((_, at) => words.slips(written[at]?.word ?? "").length > 1);
  const isPack = size === 1 && packs.has(first.word);
  return {
    words: taken.map(({ word }) => word),
    part: first.part,
    joint: first.joint,
    meanings: found.meanings,
    how: isSlip ? "slip" : found.how,
    sure: found.sure * (isPack ? PACK : 1) * (isSlip ? (isDoubtful ? DOUBTFUL_SLIP : SLIP) : 1),
    isPack,
    isQuality: size === 1 && taken.some(({ word }) => words.qualitiesOf(word).length > 0),
  };
}

/** Begins to read names by a glossary. */
export function nameReader(glossary: Glossary): NameReader {
  const words = knownWords(glossary);
  const read = (text: string): NameReading => {
    const written = tokensOf(text);
    const tokens = written.map((token, at) => {
      const word = meantAt(written, at, words, glossary);
      return word === token.word ? token : { ...token, word };
    });
    const qualities: Quality[] = [];
    const mentions: Mention[] = [];
    // From the end: what a thing is stands there, and longer phrases go before the words in them.
    for (let end = tokens.length - 1; end >= 0; end--) {
      const phrase = phraseAt(tokens, end, words, glossary);
      const start = end - (phrase?.size ?? 1) + 1;
      const [first, ...more] = tokens.slice(start, end + 1);
      if (first === undefined) continue;
      for (const { word } of [first, ...more]) addAll(qualities, words.qualitiesOf(word));
      if (phrase === undefined) continue;
      for (const word of phrase.found.before)
        for (const one of [word, word.replace(LINK, "")]) addAll(qualities, words.qualitiesOf(one));
      mentions.push(mentionOf(phrase, [first, ...more], written.slice(start, end + 1), words));
      end = start;
    }
    return {
      tokens,
      mentions: mentions.reverse().map((mention) => withAudience(mention, tokens, words, glossary)),
      qualities: [...new Set(qualities)],
    };
  };
  return { read, qualitiesOf: words.qualitiesOf };
}
