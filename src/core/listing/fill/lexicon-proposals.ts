import { termParts } from "../../channel/term-forms.js";
import type { ValueList } from "../../channel/value-list.js";
import { isSlip, nearest } from "../../values/nearest.js";
import { fold } from "../../values/text.js";

/** A permitted value that our term may mean, for a person to confirm. */
export interface ValueProposal {
  readonly value: string;
  /** 0 to 1. */
  readonly confidence: number;
  readonly reason: string;
}

const SHOWN = 4;

const firstPart = (term: string, list: ValueList): readonly ValueProposal[] => {
  const parts = termParts(term);
  const value = parts[0] === undefined || parts.length < 2 ? undefined : list.match(parts[0]);
  if (value === undefined) return [];
  const byShare = /\d\s*%/.test(term);
  return [
    {
      value,
      confidence: byShare ? 0.85 : 0.7,
      reason: byShare ? "the largest share" : "the first of its parts",
    },
  ];
};

/** "forest green" is a green: the last word names the thing, the words before say which. */
const byWords = (term: string, list: ValueList): readonly ValueProposal[] => {
  const words = fold(term).split(" ").filter(Boolean);
  if (words.length < 2) return [];
  const isOfParts = termParts(term).length > 1;
  return words.flatMap((word, at): readonly ValueProposal[] => {
    const value = word.length < 3 ? undefined : list.match(word);
    if (value === undefined) return [];
    // Where a term names several things, its last word names the last of them only.
    const isLast = at === words.length - 1 && !isOfParts;
    return [{ value, confidence: isLast ? 0.9 : 0.6, reason: isLast ? "its last word" : "one of its words" }];
  });
};

/** Values whose own words have the term among them: "cotton" for "organic cotton". */
const withinValues = (term: string, list: ValueList): readonly ValueProposal[] => {
  const wanted = fold(term);
  if (wanted.length < 3) return [];
  return list.values
    .filter((one) =>
      [one.value, one.label, ...one.synonyms].some((text) => fold(text).split(" ").includes(wanted)),
    )
    .map(({ value }) => ({ value, confidence: 0.6, reason: "a value with this word" }));
};

const SHORT = 4;

/** A slip of the pen, and no more: a cornflower is no sunflower. Sizes and other texts with digits differ by a sign and mean another thing. */
const isWritten = (term: string, text: string): boolean => {
  const [own, other] = [fold(term), fold(text)];
  return own === other || (own.length >= SHORT && !/\d/.test(own + other) && isSlip(own, other));
};

const spelledAlike = (term: string, list: ValueList): readonly ValueProposal[] => {
  const meant = new Map<string, string>();
  for (const { value, label, synonyms } of list.values)
    for (const text of [value, label, ...synonyms])
      if (text !== "" && !meant.has(text)) meant.set(text, value);
  const alike = [...meant.keys()].filter((text) => isWritten(term, text));
  return nearest(term, alike, SHOWN).map((text) => ({
    value: meant.get(text) ?? text,
    confidence: 0.5,
    reason: meant.get(text) === text ? "spelt alike" : `spelt like its other name "${text}"`,
  }));
};

/** The permitted values that a term may mean, surest first. None is taken without a person's word. */
export const proposeValues = (term: string, list: ValueList): readonly ValueProposal[] => {
  const best = new Map<string, ValueProposal>();
  for (const propose of [firstPart, byWords, withinValues, spelledAlike])
    for (const one of propose(term, list)) {
      const known = best.get(one.value);
      if (known === undefined || known.confidence < one.confidence) best.set(one.value, one);
    }
  return [...best.values()].sort((a, b) => b.confidence - a.confidence).slice(0, SHOWN);
};
