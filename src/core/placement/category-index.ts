/** A channel's tree made ready for finding: what each category is by the glossary, its words, and those above it. */
import { onceFor } from "../once-for.js";
import type { Category, CategoryTree } from "../channel/category-tree.js";
import type { Glossary } from "../goods/glossary.js";
import type { Quality } from "../goods/good.js";
import { nameReader, nothingRead, type NameReader, type Reading } from "../goods/read-name.js";
import { isOneEditApart } from "../goods/slips.js";
import { addMasses, companyOf, headsOf, type Company, type Masses } from "./company.js";
import { kinshipOf, type Kinship } from "./kinship.js";
import { withCompounds, wordsOf } from "./words.js";

/** One thing that a category's name names: "Spades & Forks" names two. */
export interface Named {
  readonly goods: Masses;
  /** Its words, stemmed, the last one saying most. */
  readonly words: readonly string[];
}

/** A category with what it is and the words that speak for it. */
export interface IndexedCategory {
  readonly category: Category;
  readonly position: number;
  /** What its own name names. */
  readonly named: readonly Named[];
  /** What shoppers look for it by. */
  readonly soughtBy: readonly Named[];
  /** All that it names or is sought by. */
  readonly goodsNamed: Masses;
  /** Words of its own name, without joined ones. */
  readonly name: ReadonlySet<string>;
  /** Words by which shoppers look for it, beside its name. */
  readonly search: ReadonlySet<string>;
  /** Words of the categories above it, with theirs to look for them. */
  readonly above: ReadonlySet<string>;
  /** What the categories above it name. */
  readonly goodsAbove: Masses;
  /** Of what, for whom and where its things are, by its own name. */
  readonly qualities: readonly Quality[];
  /** The same by what stands above it. */
  readonly qualitiesAbove: readonly Quality[];
  /** Share of each field of trade, the most spoken of 1. */
  readonly fields: Float64Array;
}

/** A tree made ready for finding categories by what things are; built once for a channel. */
export interface CategoryIndex {
  readonly all: readonly IndexedCategory[];
  readonly glossary: Glossary;
  readonly reader: NameReader;
  readonly kinship: Kinship;
  /** How much a word tells: rare words tell most. */
  weight(word: string): number;
  /** Categories with any of the words in their name or search words, as positions in `all`. */
  withWord(word: string): readonly number[];
  /** Categories that name a good, or are sought by it, as positions in `all`. */
  withGood(good: number): readonly number[];
  /** Where a category stands in `all`. */
  positionOf(category: Category): number;
  /** The words that a joined word is made of: "beehive" of bee and hive. */
  partsOf(word: string): readonly string[];
  /** The tree's own words near to one that it does not have: slips of the pen, compounds, shorter forms. */
  nearWords(word: string): readonly string[];
}

const nothing: readonly number[] = [];

const addTo = <K>(postings: Map<K, number[]>, key: K, position: number): void => {
  const known = postings.get(key);
  if (known === undefined) postings.set(key, [position]);
  else if (known.at(-1) !== position) known.push(position);
};

interface Read {
  readonly category: Category;
  readonly own: readonly Reading[];
  readonly sought: readonly Reading[];
}

const readCategory = (category: Category, reader: NameReader): Read => ({
  category,
  own: [category.name, ...category.otherNames].map((name) => reader.read(name)),
  sought: category.searchWords.map((words) => reader.read(words)),
});

/** A name in a material's or colour's word alone may mean that: "Iron" under "Old Metal". */
const MAYBE_QUALITY = 0.6;

/** Things of a name, each with its words; a part without a known thing has words alone. */
const namedBy = (text: string, reading: Reading, company: Company, glossary: Glossary): readonly Named[] => {
  const heads = headsOf(reading, company, glossary, "any").filter(
    ({ mention: { joint } }) => joint === "begin" || joint === "list" || joint === "and",
  );
  const whole = wordsOf(text);
  const wordLists = text
    .split(/,|&|\/| and | und | et | y | en /i)
    .map(wordsOf)
    .filter((words) => words.length > 0);
  const named = heads.map(({ mention, goods }): Named => {
    const own = wordLists.find((words) =>
      wordsOf(mention.words.join(" ")).some((word) => words.includes(word)),
    );
    return {
      goods: mention.isQuality
        ? new Map([...goods].map(([good, mass]) => [good, mass * MAYBE_QUALITY]))
        : goods,
      words: own ?? whole,
    };
  });
  const rest = wordLists.filter((words) => !named.some((one) => one.words === words));
  return [...named, ...rest.map((words) => ({ goods: new Map<number, number>(), words }))];
};

/** The index of a tree by what a glossary knows; made once for the two. */
export const categoryIndex: (tree: CategoryTree, glossary: Glossary) => CategoryIndex = onceFor(
  (tree, glossary) => indexOf(tree, glossary),
);

const indexOf = (tree: CategoryTree, glossary: Glossary): CategoryIndex => {
  const reader = nameReader(glossary);
  const postings = new Map<string, number[]>();
  const byGood = new Map<number, number[]>();
  const indexed = new Map<Category, IndexedCategory>();
  const reads = new Map<Category, Read>();
  const parts = new Map<string, readonly string[]>();
  const all = tree.all.map((category, position): IndexedCategory => {
    const read = readCategory(category, reader);
    reads.set(category, read);
    const ancestors: Read[] = [];
    for (let up = category.parent; up !== undefined; up = up.parent) {
      const above = reads.get(up);
      if (above !== undefined) ancestors.push(above);
    }
    const company = companyOf(
      [
        ...read.own.map((reading) => ({ reading, weight: 1 })),
        ...read.sought.map((reading) => ({ reading, weight: 0.5 })),
        ...ancestors.flatMap(({ own, sought }, step) => [
          ...own.map((reading) => ({ reading, weight: 0.9 * 0.75 ** step })),
          ...sought.map((reading) => ({ reading, weight: 0.3 * 0.75 ** step })),
        ]),
      ],
      glossary,
    );
    const named = [category.name, ...category.otherNames].flatMap((text, at) =>
      namedBy(text, read.own[at] ?? nothingRead, company, glossary),
    );
    const soughtBy = category.searchWords.flatMap((text, at) =>
      namedBy(text, read.sought[at] ?? nothingRead, company, glossary),
    );
    const goodsNamed = new Map<number, number>();
    for (const { goods } of [...named, ...soughtBy])
      for (const [good, mass] of goods) goodsNamed.set(good, Math.max(mass, goodsNamed.get(good) ?? 0));
    const own = wordsOf(category.name);
    const name = new Set(own);
    own.slice(1).forEach((word, at) => parts.set((own[at] ?? "") + word, [own[at] ?? "", word]));
    const search = new Set(
      [...category.searchWords, ...category.otherNames].flatMap((words) => withCompounds(wordsOf(words))),
    );
    for (const word of name) search.delete(word);
    const parent = category.parent === undefined ? undefined : indexed.get(category.parent);
    const goodsAbove = new Map<number, number>(parent?.goodsAbove);
    for (const { goods } of parent?.named ?? []) addMasses(goodsAbove, goods, 1);
    const one: IndexedCategory = {
      category,
      position,
      named,
      soughtBy,
      goodsNamed,
      name,
      search,
      above: new Set(parent === undefined ? [] : [...parent.name, ...parent.search, ...parent.above]),
      goodsAbove,
      qualities: read.own.flatMap(({ qualities }) => qualities),
      qualitiesAbove: parent === undefined ? [] : [...parent.qualities, ...parent.qualitiesAbove],
      fields: company.fields,
    };
    indexed.set(category, one);
    for (const word of new Set([...withCompounds(own), ...search])) addTo(postings, word, position);
    for (const good of goodsNamed.keys()) addTo(byGood, good, position);
    return one;
  });
  const byInitial = new Map<string, string[]>();
  const words = new Set(all.flatMap(({ name, search }) => [...name, ...search]));
  for (const word of words) {
    const key = word.slice(0, 1);
    const known = byInitial.get(key);
    if (known === undefined) byInitial.set(key, [word]);
    else known.push(word);
  }
  const near = new Map<string, readonly string[]>();
  const total = Math.max(2, all.length);
  return {
    all,
    glossary,
    reader,
    kinship: kinshipOf(glossary),
    weight: (word) => Math.log(1 + total / (1 + (postings.get(word)?.length ?? 0))) / Math.log(1 + total),
    positionOf: (category) => indexed.get(category)?.position ?? -1,
    partsOf: (word) => parts.get(word) ?? [],
    withWord: (word) => postings.get(word) ?? nothing,
    withGood: (good) => byGood.get(good) ?? nothing,
    nearWords(word) {
      const known = near.get(word);
      if (known !== undefined) return known;
      const same = byInitial.get(word.slice(0, 1)) ?? [];
      const slips =
        word.length < 5 ? [] : same.filter((other) => other.length > 3 && isOneEditApart(word, other));
      // A compound says what it is at its end: "rosebush" is a bush; its beginning tells less.
      const ends =
        word.length < 7 || slips.length > 0
          ? []
          : [...words].filter((other) => other.length > 3 && word.endsWith(other));
      const found = slips.length > 0 ? slips : ends;
      near.set(word, found);
      return found;
    },
  };
};
