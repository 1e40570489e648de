/**
 * Adds rows to a glossary. Passes, each over all rows, since a row may name what stands below it: goods find their place →
 * their words are learned → kinds and wholes are joined → parts of phrases and ends of compounds that may stand for them →
 * qualities → plain data. What goes in stays as it is.
 */
import { addAll } from "../many.js";
import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import type { GoodRow, Quality, QualityRow } from "./good.js";
import { NAME, PART, WORD, type GlossaryData, type GoodData, type PerFamily } from "./glossary-data.js";
import { tokensOf } from "./tokens.js";
import {
  familyOf,
  formOf,
  goodsLanguages,
  keyOf,
  perFamily,
  type LanguageFamily,
  type GoodsLanguage,
} from "./word-forms.js";

interface GrowingGood extends GoodData {
  readonly id: number;
  readonly kindOf: number[];
  readonly withIt: number[];
}

/** A good beside the row that named it. */
type GoodOfRow = readonly [good: GrowingGood, row: GoodRow];

/** A glossary while rows come to it. */
interface GrowingGlossary {
  readonly goods: GrowingGood[];
  readonly byName: Map<string, GrowingGood[]>;
  readonly terms: PerFamily<Map<string, number[]>>;
  readonly words: PerFamily<Map<string, string>>;
  longest: number;
}

const SHORTEST_END = 4;

/** A word that so many goods end with tells nothing of any. */
const MANY = 40;
/** Above this a kind says too little for its name to be left out. */
const KINDS_UP = 3;

const wordsIn = (text: string): readonly string[] => tokensOf(text).map(({ word }) => word);

function pushTo<K, V>(map: Map<K, V[]>, key: K, value: V): void {
  const known = map.get(key);
  if (known === undefined) map.set(key, [value]);
  else known.push(value);
}

function begun(base: GlossaryData): GrowingGlossary {
  const goods = base.goods.map((good, id): GrowingGood => ({
    ...good,
    id,
    kindOf: [...good.kindOf],
    withIt: [...good.withIt],
  }));
  const byName = new Map<string, GrowingGood[]>();
  for (const good of goods) pushTo(byName, good.name, good);
  return {
    goods,
    byName,
    terms: perFamily(
      (family) =>
        new Map<string, number[]>(base.terms[family].map(([key, meanings]) => [key, [...meanings]])),
    ),
    words: perFamily((family) => new Map(base.words[family])),
    longest: base.longest,
  };
}

function hasMeaning(
  { terms }: GrowingGlossary,
  family: LanguageFamily,
  key: string,
  good: number,
  language?: GoodsLanguage,
): boolean {
  const known = terms[family].get(key) ?? [];
  for (let at = 0; at < known.length; at += 3)
    if (known[at] === good && (language === undefined || known[at + 1] === goodsLanguages.indexOf(language)))
      return true;
  return false;
}

function addMeaning(
  { terms }: GrowingGlossary,
  family: LanguageFamily,
  key: string,
  meaning: number[],
): void {
  const known = terms[family].get(key);
  if (known === undefined) terms[family].set(key, meaning);
  else addAll(known, meaning);
}

/** Finds the good of each row: one of before that the row says more of, or a new one. */
function placed({ goods, byName }: GrowingGlossary, rows: readonly GoodRow[]): readonly GoodOfRow[] {
  const kindNames = new Map<number, readonly string[]>();
  const isSame = (good: GrowingGood, row: GoodRow): boolean =>
    row.kindOf.length === 0 ||
    row.kindOf.some((kind) => kindNames.get(good.id)?.includes(kind) === true) ||
    good.kindOf.some((id) => row.kindOf.includes(goods[id]?.name ?? ""));
  return rows.map((row): GoodOfRow => {
    const same = byName.get(row.name)?.find((good) => isSame(good, row));
    if (same !== undefined) return [same, row];
    const { name, field, forWhom } = row;
    const good: GrowingGood = { id: goods.length, name, field, forWhom, kindOf: [], withIt: [] };
    goods.push(good);
    pushTo(byName, name, good);
    kindNames.set(good.id, row.kindOf);
    return [good, row];
  });
}

/** What a row calls its good, in each language. */
function learnWords(growing: GrowingGlossary, [good, row]: GoodOfRow): void {
  for (const language of goodsLanguages)
    for (const [at, text] of (row.words[language] ?? []).entries()) {
      const said = wordsIn(text);
      if (said.length === 0) continue;
      growing.longest = Math.max(growing.longest, said.length);
      const family = familyOf[language];
      for (const word of said) growing.words[family].set(formOf(word, family), word);
      const key = keyOf(said, family);
      if (hasMeaning(growing, family, key, good.id, language)) continue;
      const way = language === "en" && at === 0 ? NAME : WORD;
      addMeaning(growing, family, key, [good.id, goodsLanguages.indexOf(language), way]);
    }
}

/** Goods of a name, or that an English word means. */
function goodsCalled({ goods, byName, terms }: GrowingGlossary, name: string): readonly GrowingGood[] {
  const named = byName.get(name);
  if (named !== undefined) return named;
  const meanings = terms.english.get(keyOf(wordsIn(name), "english")) ?? [];
  return goods.filter(({ id }) =>
    meanings.some((value, at) => at % 3 === 0 && value === id && meanings[at + 2] !== PART),
  );
}

/** Joins a good with its kinds, and with the wholes that it belongs to. Tells those that nobody names. */
function joinKinds(growing: GrowingGlossary, [good, row]: GoodOfRow, findings: Diagnostic[]): void {
  const called = (name: string): readonly GrowingGood[] => {
    const others = goodsCalled(growing, name).filter(({ id }) => id !== good.id);
    if (others.length === 0)
      findings.push(diagnostic("unknown-good", { name, good: good.name }, { place: row.place }));
    return others;
  };
  for (const kind of row.kindOf)
    for (const { id } of called(kind)) if (!good.kindOf.includes(id)) good.kindOf.push(id);
  for (const whole of row.partOf)
    for (const other of called(whole)) {
      good.withIt.push(other.id);
      other.withIt.push(good.id);
    }
}

/** Last words of what a good is one of: "bean seed" is one of the seeds, so that "bean" may stand for it among seeds. */
const endsAbove = (goods: readonly GoodData[], good: GoodData, steps = KINDS_UP): readonly string[] =>
  good.kindOf.flatMap((id) => {
    const above = goods[id];
    if (above === undefined) return [];
    const own = formOf(above.name.split(" ").at(-1) ?? "", "english");
    return steps > 1 ? [own, ...endsAbove(goods, above, steps - 1)] : [own];
  });

/** Keys that may stand for goods where nothing else is meant, by the key. */
type MayMean = ReadonlyMap<string, ReadonlySet<number>>;

const add = (found: Map<string, Set<number>>, key: string, good: number): void =>
  void found.set(key, (found.get(key) ?? new Set()).add(good));

/**
 * A part of a phrase may stand for it: its last word ("brush" of "hair brush"), or what stands before the kind that it is
 * one of. The company that a word keeps decides whether it does.
 */
function partsOfPhrases({ goods }: GrowingGlossary, rows: readonly GoodOfRow[]): MayMean {
  const found = new Map<string, Set<number>>();
  for (const [good, row] of rows)
    for (const text of row.words.en ?? []) {
      const said = wordsIn(text);
      const last = said.at(-1);
      if (said.length < 2 || last === undefined) continue;
      const end = formOf(last, "english");
      add(found, end, good.id);
      if (endsAbove(goods, good).includes(end)) add(found, keyOf(said.slice(0, -1), "english"), good.id);
    }
  return found;
}

/** A German word is made up of others: "auto" may stand for "Spielzeugauto" among toys. */
function endsOfCompounds({ terms }: GrowingGlossary, rows: readonly GoodOfRow[]): MayMean {
  const found = new Map<string, Set<number>>();
  for (const [good, row] of rows)
    for (const language of ["de", "nl"] as const)
      for (const text of row.words[language] ?? []) {
        const said = wordsIn(text);
        const word = said.length === 1 ? (said[0] ?? "") : "";
        for (let at = 3; at <= word.length - SHORTEST_END; at++) {
          const key = formOf(word.slice(at), "germanic");
          if (terms.germanic.has(key)) add(found, key, good.id);
        }
      }
  return found;
}

function learnParts(
  growing: GrowingGlossary,
  parts: MayMean,
  family: LanguageFamily,
  language: GoodsLanguage,
): void {
  for (const [key, ids] of parts) {
    if (ids.size > MANY) continue;
    for (const good of ids)
      if (!hasMeaning(growing, family, key, good))
        addMeaning(growing, family, key, [good, goodsLanguages.indexOf(language), PART]);
  }
}

/** Qualities of before, and those of further rows. */
function withQualities(base: GlossaryData, rows: readonly QualityRow[]): PerFamily<Map<string, Quality[]>> {
  const qualities = perFamily(
    (family) => new Map<string, Quality[]>(base.qualities[family].map(([key, all]) => [key, [...all]])),
  );
  for (const { name, words, kindOf, isA } of rows)
    for (const language of goodsLanguages)
      for (const text of words[language] ?? []) {
        const family = familyOf[language];
        pushTo(qualities[family], keyOf(wordsIn(text), family), { name, isA, kindOf });
      }
  return qualities;
}

interface Grown {
  readonly data: GlossaryData;
  /** Kinds that no row names. */
  readonly findings: readonly Diagnostic[];
}

/**
 * A row that names a good again, without a kind or with one of its kinds, adds its words to it; any other is a good of its
 * own.
 */
export function growGlossary(
  base: GlossaryData,
  rows: readonly GoodRow[],
  qualityRows: readonly QualityRow[] = [],
): Grown {
  const growing = begun(base);
  const findings: Diagnostic[] = [];
  const all = placed(growing, rows);
  for (const one of all) learnWords(growing, one);
  for (const one of all) joinKinds(growing, one, findings);
  const [parts, ends] = [partsOfPhrases(growing, all), endsOfCompounds(growing, all)];
  learnParts(growing, ends, "germanic", "de");
  learnParts(growing, parts, "english", "en");
  const qualities = withQualities(base, qualityRows);
  const { goods, terms, words, longest } = growing;
  return {
    findings,
    data: {
      goods: goods.map(({ name, field, forWhom, kindOf, withIt }) => ({
        name,
        field,
        forWhom,
        kindOf,
        withIt,
      })),
      terms: perFamily((family) => [...terms[family]]),
      words: perFamily((family) => [...words[family]].filter(([, word]) => word.length > 1)),
      qualities: perFamily((family) => [...qualities[family]]),
      longest,
    },
  };
}
