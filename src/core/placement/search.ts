import type { Category } from "../channel/category-tree.js";
import type { CategoryIndex } from "./category-index.js";
import { withCompounds, wordsOf } from "./words.js";

export interface FoundCategory {
  readonly category: Category;
  readonly score: number;
}

/** What matches less than this share of the best is not what was meant. */
const FAR = 0.35;

/** Categories that a person's words mean, best first; slips of the pen are forgiven, words in the name count most. */
export const searchCategories = (words: string, index: CategoryIndex): readonly FoundCategory[] => {
  const scores = new Map<number, number>();
  const asked = wordsOf(words);
  const add = (word: string, share: number): void => {
    for (const position of index.withWord(word)) {
      const found = index.all[position];
      if (found === undefined) continue;
      const inName = found.name.has(word);
      scores.set(position, (scores.get(position) ?? 0) + index.weight(word) * share * (inName ? 1 : 0.55));
    }
  };
  for (const [at, word] of withCompounds(asked).entries()) {
    const share = at < asked.length ? 1 : 0.6;
    if (index.withWord(word).length > 0) add(word, share);
    else if (at < asked.length) for (const near of index.nearWords(word)) add(near, 0.6 * share);
  }
  const ranked = [...scores]
    .flatMap(([position, score]) => {
      const found = index.all[position];
      if (found === undefined) return [];
      const above = asked
        // A word counts once, where it says most.
        .filter((word) => found.above.has(word) && !found.name.has(word) && !found.search.has(word))
        .reduce((sum, word) => sum + index.weight(word), 0);
      // Of two that match alike, the one with the shorter name says it most exactly.
      return [
        {
          category: found.category,
          score:
            (score + above * 0.6) / (1 + 0.06 * found.name.size + (found.category.hasChildren ? 0.25 : 0)),
        },
      ];
    })
    .sort(
      (a, b) =>
        b.score - a.score ||
        a.category.path.length - b.category.path.length ||
        (a.category.code < b.category.code ? -1 : 1),
    );
  const least = (ranked[0]?.score ?? 0) * FAR;
  return ranked.filter(({ score }) => score >= least);
};
