/**
 * Chooses meanings: each word votes for the fields of trade of its meanings, and the company decides what each means.
 */
import { greatest } from "../many.js";
import type { Glossary } from "../goods/glossary.js";
import type { Mention, NameReading } from "../goods/read-name.js";
import { goodsLanguages, type GoodsLanguage } from "../goods/word-forms.js";

/** A good that something may be, with how far (0 to 1). */
export type Masses = ReadonlyMap<number, number>;

/** Fields of trade and languages that names around a word speak of: by them its meaning is chosen. */
export interface Company {
  /** Share of each field, the most spoken of 1. */
  readonly fields: Float64Array;
  readonly languages: Readonly<Record<GoodsLanguage, number>>;
}

/** A name that is listened to, and how much. */
export interface Heard {
  readonly reading: NameReading;
  readonly weight: number;
}

/** How much a meaning is still believed that nothing around speaks for. */
const ALONE = 0.08;
/** A phrase of several words is seldom something else. */
const LONGER = 0.5;
/** Below this a word is no more than a chance likeness in another language. */
const BELIEVED = 0.2;
const ANOTHER_NAME = 0.9;
/** A part of a phrase stands for it only in company that speaks of its field. */
const PART = 0.35;

const highest = (values: Float64Array): number => values.reduce((most, value) => Math.max(most, value), 0);

const PART_ALONE = 0.8;

/** The fields of trade that a mention speaks of; a part counts only where the word is nothing else. */
export function fieldsOf({ meanings }: Mention, glossary: Glossary): ReadonlySet<number> {
  const told = meanings.filter(({ by }) => by !== "part");
  return new Set((told.length > 0 ? told : meanings).map(({ good }) => glossary.fieldOf(good)));
}

/** Hears names: each word votes for the fields and languages of its meanings, the fewer the more. */
export function companyOf(heard: readonly Heard[], glossary: Glossary): Company {
  const fields = new Float64Array(glossary.fields);
  const languages = { en: ALONE, de: 0, fr: 0, es: 0, nl: 0 };
  for (const { reading, weight } of heard)
    for (const mention of reading.mentions) {
      const { meanings, sure, words, how } = mention;
      const vote = weight * sure * (1 + LONGER * (words.length - 1));
      const own = fieldsOf(mention, glossary);
      for (const field of own) fields[field] = (fields[field] ?? 0) + vote / own.size;
      // A slip may be one in any language.
      if (how === "slip") continue;
      const spoken = new Set(meanings.map(({ language }) => language));
      for (const language of spoken) languages[language] += vote / spoken.size;
    }
  const most = highest(fields);
  if (most > 0) for (const [at, value] of fields.entries()) fields[at] = value / most;
  const mostSpoken = greatest(goodsLanguages.map((language) => languages[language]));
  for (const language of goodsLanguages) languages[language] /= mostSpoken;
  return { fields, languages };
}

/**
 * What a mention is, its meanings weighed by the company that they keep. The whole is as sure as the mention, less where
 * only a language has it that nobody around speaks. A category that is called "Knives" names any knife, where a product's
 * name means one.
 */
export function massesOf(
  { meanings, sure }: Mention,
  company: Company,
  glossary: Glossary,
  names: "one" | "any" = "one",
): Masses {
  const weights = new Map<number, number>();
  let heard = 0;
  for (const { good, language, by } of meanings) {
    const around = company.fields[glossary.fieldOf(good)] ?? 0;
    const field = by === "part" ? PART * around * around : ALONE + around;
    const spoken = Math.min(1, ALONE + company.languages[language]);
    const weight = field * spoken * (by === "name" ? 1 : ANOTHER_NAME);
    weights.set(good, Math.max(weight, weights.get(good) ?? 0));
    heard = Math.max(heard, spoken);
  }
  let total = 0;
  for (const weight of weights.values()) total += weight;
  if (total === 0) return new Map();
  // Words that only may stand for something are less sure, the more things they may stand for.
  const isPart = meanings.every(({ by }) => by === "part");
  const whole = sure * Math.min(1, heard * 2) * (isPart ? Math.min(PART_ALONE, 2 * total) : 1);
  if (names === "any" && isPart) {
    let most = 0;
    for (const weight of weights.values()) most = Math.max(most, weight);
    return new Map([...weights].map(([good, weight]) => [good, (sure * PART_ALONE * weight) / most]));
  }
  return new Map([...weights].map(([good, weight]) => [good, (whole * weight) / total]));
}

/** How much masses are together. */
export function wholeOf(masses: Masses): number {
  let sum = 0;
  for (const mass of masses.values()) sum += mass;
  return sum;
}

/** A word that says what a thing is, with what it is. */
export interface Head {
  readonly mention: Mention;
  readonly goods: Masses;
}

/**
 * The words of a name that say what the thing is: of each part the last that is believed in English, the first elsewhere.
 * Packs, colours and materials are passed over where another word is there; so are kinds that only a dictionary knows.
 */
export function headsOf(
  { mentions }: NameReading,
  company: Company,
  glossary: Glossary,
  names: "one" | "any" = "one",
): readonly Head[] {
  const { en, de, nl, fr, es } = company.languages;
  // English says last what a thing is; the others say it first, German what it is made up of in one word.
  const isFirst = Math.max(de, nl, fr, es) > en;
  const ranked = (mention: Mention): number =>
    (mention.isPack ? 4 : 0) + (mention.isQuality ? 2 : 0) + (mention.how === "kind" ? 1 : 0);
  const heads = new Map<number, Head>();
  for (const mention of mentions) {
    const goods = massesOf(mention, company, glossary, names);
    if (wholeOf(goods) < BELIEVED * (mention.isPack ? 0.5 : 1)) continue;
    const before = heads.get(mention.part);
    const [own, others] = [ranked(mention), before === undefined ? Infinity : ranked(before.mention)];
    if (isFirst ? own < others : own <= others) heads.set(mention.part, { mention, goods });
  }
  const all = [...heads.values()];
  // "Boot, leather": leather says of what.
  return all.filter(({ mention }, at) => at === 0 || !mention.isQuality);
}

/** Adds masses of goods, each at a share. */
export function addMasses(to: Map<number, number>, masses: Masses, share: number): void {
  for (const [good, mass] of masses) to.set(good, (to.get(good) ?? 0) + mass * share);
}
