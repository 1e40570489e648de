/** Suggests categories for a subject: candidates by goods and words, evidence for each, weighed and ranked. */
import type { Category } from "../channel/category-tree.js";
import type { CategoryIndex, IndexedCategory } from "./category-index.js";
import { evidenceFor, type Evidence } from "./evidence.js";
import { reasonOf } from "./reasons.js";
import { understand, type Subject, type Understood } from "./subject.js";
import type { Learned, PlacesLike } from "./learned.js";
import { aroundOf, surroundingsOf } from "./surroundings.js";
import type { Weighed } from "./weighed.js";
import { weigh } from "./weights.js";

/** A category that may be meant, and how surely. */
export interface Suggestion {
  readonly category: Category;
  /** 0 to 1: of ten proposals with 0.9 nine are right. */
  readonly confidence: number;
  /** Why, in words. */
  readonly reason: string;
}

/** Where something of ours would go. */
export interface Suggested {
  /** Best first; a later one is never surer. */
  readonly suggestions: readonly Suggestion[];
  /** 0 to 1: that the tree has no place for it. */
  readonly nothing: number;
  /** 0 to 1: how far anybody knows what it is; else nothing fits since its trade is unknown, not since the tree lacks it. */
  readonly goodsKnown: number;
}

const CANDIDATES = 120;

/** A shelf's own name tells less of what is on it than what is on it. */
const BY_LEAF = 0.6;

const nowhere: PlacesLike = { goods: new Map(), names: new Map() };

/** Categories that share a good or a word with a subject, those first of which it says most. */
function candidatesFor(
  ours: Understood,
  { goods: placed, names: called }: PlacesLike,
  index: CategoryIndex,
): readonly IndexedCategory[] {
  const scores = new Map<number, number>();
  const add = (position: number, score: number): void => {
    scores.set(position, (scores.get(position) ?? 0) + score);
  };
  for (const [masses, share] of [
    [ours.products, 3],
    [ours.leaf, 2],
    [ours.elsewhere, 1.5],
    [ours.aside, 0.6],
    [ours.branch, 0.5],
  ] as const)
    for (const [good, mass] of masses)
      for (const [other, { near }] of index.kinship.of(good)) {
        const found = index.withGood(other);
        // What half a tree names decides nothing.
        const rare = 1 / Math.sqrt(1 + found.length / 4);
        for (const position of found) add(position, mass * near * share * rare);
      }
  for (const [word, weight] of ours.words) {
    const tells = index.weight(word) * weight;
    for (const position of index.withWord(word)) add(position, tells);
  }
  for (const places of [placed, called])
    for (const [category, alike] of places) add(index.positionOf(category), 3 * alike);
  return [...scores]
    .sort((a, b) => b[1] - a[1] || a[0] - b[0])
    .flatMap(([position]) => {
      const found = index.all[position];
      return found === undefined || !found.category.isOpen ? [] : [found];
    })
    .slice(0, CANDIDATES);
}

/** How exactly a category says what our things are, and no more than we say of them. */
const exactness = ({ productsKin, leafKin, unsaid, qualityUnsaid }: Evidence): number =>
  (productsKin + 0.4 * leafKin) * (1 - unsaid) * (1 - qualityUnsaid / 2);

/** Tells each that holds others how exactly one below it names our things: listings belong as deep as they can. */
function withDeeper(all: readonly Weighed[]): readonly Weighed[] {
  const deepest = new Map<Category, number>();
  for (const { candidate, evidence } of all)
    for (let up = candidate.category.parent; up !== undefined; up = up.parent)
      deepest.set(up, Math.max(deepest.get(up) ?? 0, exactness(evidence)));
  return all.map((one) => {
    const deeper = deepest.get(one.candidate.category) ?? 0;
    return deeper === 0 ? one : { ...one, evidence: { ...one.evidence, deeper: Math.min(1, deeper) } };
  });
}

/** All candidates with what speaks for each. */
export function weighable(
  subject: Subject,
  ours: Understood,
  index: CategoryIndex,
  learned?: Learned,
): readonly Weighed[] {
  const places = learned?.placesLike(ours) ?? nowhere;
  const around = aroundOf(subject, places);
  return withDeeper(
    candidatesFor(ours, places, index).map((candidate) => ({
      candidate,
      evidence: evidenceFor(ours, candidate, index),
      around: surroundingsOf(around, ours, candidate, index),
    })),
  );
}

interface SuggestOptions {
  readonly count?: number;
  /** What a person placed by now. */
  readonly learned?: Learned;
}

/** The channel's categories that a subject most likely belongs in, best first, and whether any fits. */
export const suggest = (subject: Subject, index: CategoryIndex, options: SuggestOptions = {}): Suggested =>
  suggestFor(subject, understand(subject, index), index, options);

/** The same for a subject that was read already. */
export function suggestFor(
  subject: Subject,
  ours: Understood,
  index: CategoryIndex,
  { count = 3, learned }: SuggestOptions = {},
): Suggested {
  const { ranked, nothing } = weigh(weighable(subject, ours, index, learned), ours, index.glossary);
  return {
    nothing,
    goodsKnown: Math.min(1, Math.max(ours.named.products, BY_LEAF * ours.named.leaf)),
    suggestions: ranked.slice(0, count).map(({ weighed, share }) => ({
      category: weighed.candidate.category,
      confidence: share,
      reason: reasonOf(weighed, ours, index),
    })),
  };
}
