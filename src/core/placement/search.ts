import { withAncestors, type Category } from "../channel/category-tree.js";
import type { CategoryIndex } from "./category-index.js";
import { understand } from "./subject.js";
import { weighable } from "./suggest.js";
import { weigh } from "./weights.js";

/** A category that words found. */
export interface FoundCategory {
  readonly category: Category;
  readonly score: number;
}

/** What is believed less than this share of the best is not what was meant. */
const FAR = 0.002;
/** Nothing that is hardly believed at all was meant. */
const BELIEVED = 0.05;

/** Categories that a person's words mean, best first, by what a thing is; slips of the pen are forgiven. */
export function searchCategories(words: string, index: CategoryIndex): readonly FoundCategory[] {
  const subject = { path: words.replaceAll(">", " "), names: [words], neighbours: [], elsewhere: [] };
  const ours = understand(subject, index);
  const { ranked } = weigh(weighable(subject, ours, index), ours, index.glossary);
  const best = ranked[0]?.share ?? 0;
  if (best < BELIEVED) return [];
  const least = best * FAR;
  const found = ranked
    .filter(({ share }) => share >= least)
    .map(({ weighed, share }) => ({ category: weighed.candidate.category, score: share }));
  // Who looks for gloves wants those, and then what they stand under.
  const isAboveAnother = (category: Category): boolean =>
    found.some((other) => other.category !== category && withAncestors(other.category).includes(category));
  return [
    ...found.filter(({ category }) => !isAboveAnother(category)),
    ...found.filter(({ category }) => isAboveAnother(category)),
  ];
}
