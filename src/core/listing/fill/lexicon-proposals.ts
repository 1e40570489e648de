/** Permitted values that our term may mean, surest first. None is taken without a person's word. */
import { termParts } from "../../channel/term-forms.js";
import type { Glossary } from "../../goods/glossary.js";
import type { Quality } from "../../goods/good.js";
import { goodsNamed, qualityNamed } from "../../goods/qualities-in.js";
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

function firstPart(term: string, list: ValueList): readonly ValueProposal[] {
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
}

/** "forest green" is a green: the last word names the thing, the words before say which. */
function byWords(term: string, list: ValueList): readonly ValueProposal[] {
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
}

/** Values whose own words have the term among them: "cotton" for "organic cotton". */
function withinValues(term: string, list: ValueList): readonly ValueProposal[] {
  const wanted = fold(term);
  if (wanted.length < 3) return [];
  return list.values
    .filter((one) =>
      [one.value, one.label, ...one.synonyms].some((text) => fold(text).split(" ").includes(wanted)),
    )
    .map(({ value }) => ({ value, confidence: 0.6, reason: "a value with this word" }));
}

const SHORT = 4;

/** A slip of the pen, and no more: a cornflower is no sunflower. Sizes and other texts with digits differ by a sign and mean another thing. */
function isWritten(term: string, text: string): boolean {
  const [own, other] = [fold(term), fold(text)];
  return own === other || (own.length >= SHORT && !/\d/.test(own + other) && isSlip(own, other));
}

function spelledAlike(term: string, list: ValueList): readonly ValueProposal[] {
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
}

/** What the values of a list mean: read once for a list, however many terms are asked. */
export interface ListMeanings {
  readonly glossary: Glossary;
  readonly values: readonly {
    readonly value: string;
    /** By its own name or label; the channel's further words for it may be of something near. */
    readonly own: readonly Quality[];
    readonly qualities: readonly Quality[];
    readonly goods: ReadonlySet<number>;
  }[];
}

/** Reads what the values of a list mean. */
export const meaningsOf = ({ values }: ValueList, glossary: Glossary): ListMeanings => ({
  glossary,
  values: values.flatMap(({ value, label, synonyms }) => {
    const texts = [value, label, ...synonyms].filter((text) => text !== "");
    const own = [value, label].flatMap((text) => qualityNamed(text, glossary) ?? []);
    const qualities = texts.flatMap((text) => qualityNamed(text, glossary) ?? []);
    const goods = new Set(texts.flatMap((text) => goodsNamed(text, glossary)));
    return qualities.length === 0 && goods.size === 0 ? [] : [{ value, own, qualities, goods }];
  }),
});

/** Values by what a term means: another word for the same colour, material or good, in any language, or a kind of it. */
function byMeaning(term: string, { glossary, values }: ListMeanings): readonly ValueProposal[] {
  const quality = qualityNamed(term, glossary);
  const goods = goodsNamed(term, glossary);
  const wider = goods.flatMap((id) => glossary.goods[id]?.kindOf ?? []);
  const nameOf = (id: number): string => glossary.goods[id]?.name ?? "";
  return values.flatMap((one): readonly ValueProposal[] => {
    const { value } = one;
    if (
      quality !== undefined &&
      one.qualities.some(({ name, isA }) => name === quality.name && isA === quality.isA)
    )
      return [
        {
          value,
          confidence: one.own.some(({ name }) => name === quality.name) ? 0.8 : 0.6,
          reason: `another word for the ${quality.isA} ${quality.name}`,
        },
      ];
    if (
      quality !== undefined &&
      one.qualities.some(({ name, isA }) => name === quality.kindOf && isA === quality.isA)
    )
      return [{ value, confidence: 0.7, reason: `${quality.name} is a kind of ${quality.kindOf}` }];
    const same = goods.find((id) => one.goods.has(id));
    if (same !== undefined) return [{ value, confidence: 0.8, reason: `another word for ${nameOf(same)}` }];
    const kind = wider.find((id) => one.goods.has(id));
    return kind === undefined ? [] : [{ value, confidence: 0.65, reason: `a kind of ${nameOf(kind)}` }];
  });
}

/** The permitted values that a term may mean, surest first. None is taken without a person's word. */
export function proposeValues(
  term: string,
  list: ValueList,
  meanings?: ListMeanings,
): readonly ValueProposal[] {
  const best = new Map<string, ValueProposal>();
  const meant = meanings === undefined ? [] : byMeaning(term, meanings);
  for (const proposals of [
    ...[firstPart, byWords, withinValues, spelledAlike].map((propose) => propose(term, list)),
    meant,
  ])
    for (const one of proposals) {
      const known = best.get(one.value);
      if (known === undefined || known.confidence < one.confidence) best.set(one.value, one);
    }
  return [...best.values()].sort((a, b) => b.confidence - a.confidence).slice(0, SHOWN);
}
