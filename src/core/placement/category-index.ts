/** A channel's tree made ready for finding: what each category is by the glossary, its words, and those above it. */
import { onceFor } from "../once-for.js";
import type { Category, CategoryTree } from "../channel/category-tree.js";
import type { Glossary } from "../goods/glossary.js";
import type { Quality } from "../goods/good.js";
import { nameReader, nothingRead, type NameReader, type NameReading } from "../goods/read-name.js";
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

function addTo<K>(postings: Map<K, number[]>, key: K, position: number): void {
  const known = postings.get(key);
  if (known === undefined) postings.set(key, [position]);
  else if (known.at(-1) !== position) known.push(position);
}

interface ReadCategories {
  readonly category: Category;
  readonly own: readonly NameReading[];
  readonly sought: readonly NameReading[];
}

const readCategory = (category: Category, reader: NameReader): ReadCategories => ({
  category,
  own: [category.name, ...category.otherNames].map((name) => reader.read(name)),
  sought: category.searchWords.map((words) => reader.read(words)),
});

/** A name in a material's or colour's word alone may mean that: "Iron" under "Old Metal". */
const MAYBE_QUALITY = 0.6;

/** Things of a name, each with its words; a part without a known thing has words alone. */
function namedBy(text: string, reading: NameReading, company: Company, glossary: Glossary): readonly Named[] {
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
}

/** The index of a tree by what a glossary knows; made once for the two. */
export const categoryIndex: (tree: CategoryTree, glossary: Glossary) => CategoryIndex = onceFor(
  (tree, glossary) => indexOf(tree, glossary),
);

/** How much what a category, those above it and the words that it is sought by say of the company that its words keep. */
const COMPANY = { own: 1, sought: 0.5, above: 0.9, soughtAbove: 0.3, step: 0.75 } as const;

/** What speaks for the meaning of a category's words: its own names, its search words, and those above it, less by step. */
const companyIn = (
  { own, sought }: ReadCategories,
  ancestors: readonly ReadCategories[],
  glossary: Glossary,
): Company =>
  companyOf(
    [
      ...own.map((reading) => ({ reading, weight: COMPANY.own })),
      ...sought.map((reading) => ({ reading, weight: COMPANY.sought })),
      ...ancestors.flatMap((above, step) => [
        ...above.own.map((reading) => ({ reading, weight: COMPANY.above * COMPANY.step ** step })),
        ...above.sought.map((reading) => ({ reading, weight: COMPANY.soughtAbove * COMPANY.step ** step })),
      ]),
    ],
    glossary,
  );

/** One category, by what its names mean where it stands; `parent` is the one above it, indexed before. */
function indexedCategory(
  read: ReadCategories,
  position: number,
  parent: IndexedCategory | undefined,
  company: Company,
  glossary: Glossary,
): IndexedCategory {
  const { category } = read;
  const named = [category.name, ...category.otherNames].flatMap((text, at) =>
    namedBy(text, read.own[at] ?? nothingRead, company, glossary),
  );
  const soughtBy = category.searchWords.flatMap((text, at) =>
    namedBy(text, read.sought[at] ?? nothingRead, company, glossary),
  );
  const goodsNamed = new Map<number, number>();
  for (const { goods } of [...named, ...soughtBy])
    for (const [good, mass] of goods) goodsNamed.set(good, Math.max(mass, goodsNamed.get(good) ?? 0));
  const name = new Set(wordsOf(category.name));
  const search = new Set(
    [...category.searchWords, ...category.otherNames].flatMap((words) => withCompounds(wordsOf(words))),
  );
  for (const word of name) search.delete(word);
  const goodsAbove = new Map<number, number>(parent?.goodsAbove);
  for (const { goods } of parent?.named ?? []) addMasses(goodsAbove, goods, 1);
  return {
    category,
    position,
    named,
    soughtBy,
    goodsNamed,
    name,
    search,
    goodsAbove,
    above: new Set(parent === undefined ? [] : [...parent.name, ...parent.search, ...parent.above]),
    qualities: read.own.flatMap(({ qualities }) => qualities),
    qualitiesAbove: parent === undefined ? [] : [...parent.qualities, ...parent.qualitiesAbove],
    fields: company.fields,
  };
}

const SHORTEST_SLIP = 5;
const SHORTEST_COMPOUND = 7;
const SHORTEST_NEAR = 4;

/** Finds the tree's own words near to one that it does not have; each is looked for once. */
function wordsNear(all: readonly IndexedCategory[]): (word: string) => readonly string[] {
  const words = [...new Set(all.flatMap(({ name, search }) => [...name, ...search]))];
  const byInitial = new Map<string, string[]>();
  for (const word of words) {
    const key = word.slice(0, 1);
    const known = byInitial.get(key);
    if (known === undefined) byInitial.set(key, [word]);
    else known.push(word);
  }
  const look = (word: string): readonly string[] => {
    const same = word.length < SHORTEST_SLIP ? [] : (byInitial.get(word.slice(0, 1)) ?? []);
    const slips = same.filter((other) => other.length >= SHORTEST_NEAR && isOneEditApart(word, other));
    if (slips.length > 0 || word.length < SHORTEST_COMPOUND) return slips;
    // A compound says what it is at its end: "rosebush" is a bush; its beginning tells less.
    return words.filter((other) => other.length >= SHORTEST_NEAR && word.endsWith(other));
  };
  const near = new Map<string, readonly string[]>();
  return (word) => {
    const found = near.get(word) ?? look(word);
    near.set(word, found);
    return found;
  };
}

function indexOf(tree: CategoryTree, glossary: Glossary): CategoryIndex {
  const reader = nameReader(glossary);
  const postings = new Map<string, number[]>();
  const byGood = new Map<number, number[]>();
  const indexed = new Map<Category, IndexedCategory>();
  const reads = new Map<Category, ReadCategories>();
  const parts = new Map<string, readonly string[]>();
  // The tree's order has what is above a category before it.
  const all = tree.all.map((category, position): IndexedCategory => {
    const read = readCategory(category, reader);
    reads.set(category, read);
    const ancestors: ReadCategories[] = [];
    for (let up = category.parent; up !== undefined; up = up.parent) {
      const above = reads.get(up);
      if (above !== undefined) ancestors.push(above);
    }
    const parent = category.parent === undefined ? undefined : indexed.get(category.parent);
    const one = indexedCategory(read, position, parent, companyIn(read, ancestors, glossary), glossary);
    indexed.set(category, one);
    const own = wordsOf(category.name);
    own.slice(1).forEach((word, at) => parts.set((own[at] ?? "") + word, [own[at] ?? "", word]));
    for (const word of new Set([...withCompounds(own), ...one.search])) addTo(postings, word, position);
    for (const good of one.goodsNamed.keys()) addTo(byGood, good, position);
    return one;
  });
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
    nearWords: wordsNear(all),
  };
}
