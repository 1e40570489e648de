import { addAll } from "../many.js";
import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import type { GoodRow, Quality, QualityRow } from "./good.js";
import { tokensOf } from "./tokens.js";
import {
  familyOf,
  formOf,
  goodsLanguages,
  keyOf,
  perFamily,
  type Family,
  type GoodsLanguage,
} from "./word-forms.js";

/** A good as plain data; ids are positions in the list. */
export interface GoodData {
  readonly name: string;
  readonly field: string;
  readonly forWhom: string;
  readonly kindOf: readonly number[];
  readonly withIt: readonly number[];
}

type PerFamily<T> = Readonly<Record<Family, T>>;

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

export const noGlossary: GlossaryData = {
  goods: [],
  terms: perFamily(() => []),
  words: perFamily(() => []),
  qualities: perFamily(() => []),
  longest: 1,
};

interface Growing extends GoodData {
  readonly id: number;
  readonly kindOf: number[];
  readonly withIt: number[];
}

const NAME = 0;
const WORD = 1;
const PART = 2;

const SHORTEST_END = 4;

/** A word that so many goods end with tells nothing of any. */
const MANY = 40;
/** Above this a kind says too little for its name to be left out. */
const KINDS_UP = 3;

const wordsIn = (text: string): readonly string[] => tokensOf(text).map(({ word }) => word);

const pushTo = <K, V>(map: Map<K, V[]>, key: K, value: V): void => {
  const known = map.get(key);
  if (known === undefined) map.set(key, [value]);
  else known.push(value);
};

interface Grown {
  readonly data: GlossaryData;
  /** Kinds that no row names. */
  readonly findings: readonly Diagnostic[];
}

/**
 * Adds rows to a glossary: a row that names a good again, without a kind or with one of its kinds, adds its words to it;
 * any other is a good of its own. Tells kinds and wholes that no row names.
 */
export const growGlossary = (
  base: GlossaryData,
  rows: readonly GoodRow[],
  qualityRows: readonly QualityRow[] = [],
): Grown => {
  const findings: Diagnostic[] = [];
  const goods = base.goods.map((good, id): Growing => ({
    ...good,
    id,
    kindOf: [...good.kindOf],
    withIt: [...good.withIt],
  }));
  const byName = new Map<string, Growing[]>();
  for (const good of goods) pushTo(byName, good.name, good);
  const terms = perFamily(
    (family) => new Map<string, number[]>(base.terms[family].map(([key, meanings]) => [key, [...meanings]])),
  );
  const words = perFamily((family) => new Map(base.words[family]));
  let { longest } = base;

  const hasMeaning = (family: Family, key: string, good: number, language?: GoodsLanguage): boolean => {
    const known = terms[family].get(key) ?? [];
    for (let at = 0; at < known.length; at += 3)
      if (
        known[at] === good &&
        (language === undefined || known[at + 1] === goodsLanguages.indexOf(language))
      )
        return true;
    return false;
  };
  const addMeaning = (family: Family, key: string, meaning: number[]): void => {
    const known = terms[family].get(key);
    if (known === undefined) terms[family].set(key, meaning);
    else addAll(known, meaning);
  };
  const learn = (good: Growing, row: GoodRow): void => {
    for (const language of goodsLanguages)
      for (const [at, text] of (row.words[language] ?? []).entries()) {
        const said = wordsIn(text);
        if (said.length === 0) continue;
        longest = Math.max(longest, said.length);
        const family = familyOf[language];
        for (const word of said) words[family].set(formOf(word, family), word);
        const key = keyOf(said, family);
        if (hasMeaning(family, key, good.id, language)) continue;
        const way = language === "en" && at === 0 ? NAME : WORD;
        addMeaning(family, key, [good.id, goodsLanguages.indexOf(language), way]);
      }
  };

  // Goods first, so that a row may name a kind that stands below it, or a word that its own kind is called by.
  const nameOfKind = new Map<number, readonly string[]>();
  const placed = rows.map((row): readonly [Growing, GoodRow] => {
    const same = byName
      .get(row.name)
      ?.find(
        (good) =>
          row.kindOf.length === 0 ||
          row.kindOf.some((kind) => nameOfKind.get(good.id)?.includes(kind) === true) ||
          good.kindOf.some((id) => row.kindOf.includes(goods[id]?.name ?? "")),
      );
    if (same !== undefined) return [same, row];
    const good: Growing = {
      id: goods.length,
      name: row.name,
      field: row.field,
      forWhom: row.forWhom,
      kindOf: [],
      withIt: [],
    };
    goods.push(good);
    pushTo(byName, row.name, good);
    nameOfKind.set(good.id, row.kindOf);
    return [good, row];
  });
  for (const [good, row] of placed) learn(good, row);
  const named = (good: Growing, name: string, row: GoodRow): readonly Growing[] => {
    const others = (byName.get(name) ?? byWord(name)).filter(({ id }) => id !== good.id);
    if (others.length === 0)
      findings.push(diagnostic("unknown-good", { name, good: good.name }, { place: row.place }));
    return others;
  };
  const byWord = (name: string): readonly Growing[] => {
    const meanings = terms.english.get(keyOf(wordsIn(name), "english")) ?? [];
    return goods.filter(({ id }) =>
      meanings.some((value, at) => at % 3 === 0 && value === id && meanings[at + 2] !== PART),
    );
  };
  for (const [good, row] of placed) {
    for (const kind of row.kindOf)
      for (const { id } of named(good, kind, row)) if (!good.kindOf.includes(id)) good.kindOf.push(id);
    for (const whole of row.partOf)
      for (const other of named(good, whole, row)) {
        good.withIt.push(other.id);
        other.withIt.push(good.id);
      }
  }

  /** Last words of what a good is one of: "bean seed" is one of the seeds, so that "bean" may stand for it among seeds. */
  const endsAbove = (good: GoodData, steps = KINDS_UP): readonly string[] =>
    good.kindOf.flatMap((id) => {
      const above = goods[id];
      if (above === undefined) return [];
      const own = formOf(above.name.split(" ").at(-1) ?? "", "english");
      return steps > 1 ? [own, ...endsAbove(above, steps - 1)] : [own];
    });
  // A part of a phrase may stand for it where nothing else is meant: its last word ("brush" of "hair brush"), or what stands
  // before the kind that it is one of. The company that a word keeps decides whether it does.
  const parts = new Map<string, Set<number>>();
  for (const [good, row] of placed)
    for (const text of row.words.en ?? []) {
      const said = wordsIn(text);
      const last = said.at(-1);
      if (said.length < 2 || last === undefined) continue;
      const end = formOf(last, "english");
      for (const key of endsAbove(good).includes(end) ? [end, keyOf(said.slice(0, -1), "english")] : [end])
        parts.set(key, (parts.get(key) ?? new Set()).add(good.id));
    }
  // A German word is made up of others: "auto" may stand for "Spielzeugauto" among toys.
  const ends = new Map<string, Set<number>>();
  for (const [good, row] of placed)
    for (const language of ["de", "nl"] as const)
      for (const text of row.words[language] ?? []) {
        const said = wordsIn(text);
        const word = said.length === 1 ? (said[0] ?? "") : "";
        for (let at = 3; at <= word.length - SHORTEST_END; at++) {
          const key = formOf(word.slice(at), "germanic");
          if (terms.germanic.has(key)) ends.set(key, (ends.get(key) ?? new Set()).add(good.id));
        }
      }
  for (const [key, ids] of ends)
    if (ids.size <= MANY)
      for (const good of ids)
        if (!hasMeaning("germanic", key, good))
          addMeaning("germanic", key, [good, goodsLanguages.indexOf("de"), PART]);
  for (const [key, ids] of parts)
    if (ids.size <= MANY)
      for (const good of ids)
        if (!hasMeaning("english", key, good))
          addMeaning("english", key, [good, goodsLanguages.indexOf("en"), PART]);

  const qualities = perFamily(
    (family) => new Map<string, Quality[]>(base.qualities[family].map(([key, all]) => [key, [...all]])),
  );
  for (const { name, words: own, kindOf, isA } of qualityRows)
    for (const language of goodsLanguages)
      for (const text of own[language] ?? [])
        pushTo(qualities[familyOf[language]], keyOf(wordsIn(text), familyOf[language]), {
          name,
          isA,
          kindOf,
        });
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
};
