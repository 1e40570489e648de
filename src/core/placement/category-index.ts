import type { Category, CategoryTree } from "../channel/category-tree.js";
import { synonyms, withCompounds, wordsOf } from "./words.js";

/** A category with the words that speak for it. */
export interface IndexedCategory {
  readonly category: Category;
  /** Words of its own name, without joined ones. */
  readonly name: ReadonlySet<string>;
  /** Words by which shoppers look for it, beside its name. */
  readonly search: ReadonlySet<string>;
  /** The same, each of its search words or phrases by itself. */
  readonly phrases: readonly ReadonlySet<string>[];
  /** Words of the categories above it, with theirs to look for them. */
  readonly above: ReadonlySet<string>;
}

/** A tree made ready for finding categories by words; built once for a channel. */
export interface CategoryIndex {
  readonly all: readonly IndexedCategory[];
  /** How much a word tells: rare words tell most. */
  weight(word: string): number;
  /** Categories with any of the words in their name or search words, as positions in `all`. */
  withWord(word: string): readonly number[];
  /** The words that a joined word is made of: "beehive" of bee and hive. */
  partsOf(word: string): readonly string[];
  /** The tree's own words near to one that it does not have: slips of the pen, compounds, shorter forms. */
  nearWords(word: string): readonly string[];
  of(category: Category): IndexedCategory | undefined;
}

const nothing: readonly number[] = [];

/** Edits between two words, given up beyond one. */
const isOneEditApart = (a: string, b: string): boolean => {
  if (Math.abs(a.length - b.length) > 1 || a === b) return a === b;
  let i = 0;
  while (i < a.length && a[i] === b[i]) i++;
  const [restA, restB] = [a.slice(i), b.slice(i)];
  return (
    restA.slice(1) === restB ||
    restA === restB.slice(1) ||
    restA.slice(1) === restB.slice(1) ||
    (restA[0] === restB[1] && restA[1] === restB[0] && restA.slice(2) === restB.slice(2))
  );
};

export const categoryIndex = (tree: CategoryTree): CategoryIndex => {
  const postings = new Map<string, number[]>();
  const byCategory = new Map<Category, IndexedCategory>();
  const parts = new Map<string, readonly string[]>();
  const all = tree.all.map((category, position): IndexedCategory => {
    const own = wordsOf(category.name);
    const name = new Set(own);
    own.slice(1).forEach((word, at) => parts.set((own[at] ?? "") + word, [own[at] ?? "", word]));
    const search = new Set(category.searchWords.flatMap((words) => withCompounds(wordsOf(words))));
    for (const word of name) search.delete(word);
    const phrases = category.searchWords
      .map((words) => new Set(wordsOf(words)))
      .filter(({ size }) => size > 0);
    const parent = category.parent === undefined ? undefined : byCategory.get(category.parent);
    const above = new Set(parent === undefined ? [] : [...parent.name, ...parent.search, ...parent.above]);
    const indexed = { category, name, search, phrases, above };
    byCategory.set(category, indexed);
    for (const word of new Set([...withCompounds(own), ...search])) {
      const known = postings.get(word);
      if (known === undefined) postings.set(word, [position]);
      else known.push(position);
    }
    return indexed;
  });
  // What a person may have meant to write: the tree's words, and those of the thesaurus that stand for one of them.
  const written = new Map<string, string>([...postings.keys()].map((word) => [word, word]));
  for (const [word, meant] of synonyms) if (postings.has(meant)) written.set(word, meant);
  const byInitial = new Map<string, string[]>();
  for (const word of written.keys()) {
    const key = word.slice(0, 1);
    const known = byInitial.get(key);
    if (known === undefined) byInitial.set(key, [word]);
    else known.push(word);
  }
  const near = new Map<string, readonly string[]>();
  const total = Math.max(2, all.length);
  return {
    all,
    weight: (word) => Math.log(1 + total / (1 + (postings.get(word)?.length ?? 0))) / Math.log(1 + total),
    partsOf: (word) => parts.get(word) ?? [],
    withWord: (word) => postings.get(word) ?? nothing,
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
          : [...written.keys()].filter((other) => other.length > 3 && word.endsWith(other));
      const found = [...new Set((slips.length > 0 ? slips : ends).flatMap((own) => written.get(own) ?? []))];
      near.set(word, found);
      return found;
    },
    of: (category) => byCategory.get(category),
  };
};
