import { greatest } from "../many.js";
import { pathParts } from "../values/category-path.js";
import { withAncestors, type Category } from "../channel/category-tree.js";
import type { CategoryIndex, IndexedCategory } from "./category-index.js";
import { withCompounds, wordsOf } from "./words.js";

/** What is to be placed: one of our categories, or a product that stands apart from its own. */
export interface Subject {
  /** Our path, outer first. */
  readonly path: string;
  /** Words of the products in it, with the share of products that have them. */
  readonly goods: ReadonlyMap<string, number>;
  /** Channel categories that neighbours were placed in: siblings and what stands above. */
  readonly neighbours: readonly Category[];
  /** Paths that the same category has on other channels. */
  readonly elsewhere: readonly string[];
}

export interface Suggestion {
  readonly category: Category;
  /** 0 to 1. */
  readonly confidence: number;
  /** Why, in words. */
  readonly reason: string;
}

/** What speaks for one category, each from 0 to 1. */
interface Evidence {
  readonly leaf: number;
  readonly context: number;
  readonly goods: number;
  readonly neighbours: number;
  readonly elsewhere: number;
  readonly shared: readonly string[];
}

const CANDIDATES = 160;
/** What a word of our branch weighs that the tree does not have. */
const UNKNOWN = 0.4;
/** How much single words of the phrases by which shoppers look for a category say. */
const SEARCH = 0.82;
/** A category that holds others says less exactly what it holds itself. */
const INNER = 0.95;

/** A word of ours as the tree has it, with how sure that is the same word. */
const inTree = (word: string, index: CategoryIndex): ReadonlyMap<string, number> => {
  if (index.withWord(word).length > 0) return new Map([[word, 1]]);
  return new Map(index.nearWords(word).map((near) => [near, 0.7]));
};

interface Words {
  /** The tree's words, each with how far it is meant. */
  readonly meant: ReadonlyMap<string, number>;
  /** The weight of all of ours, found in the tree or not. */
  readonly weight: number;
}

const treeWords = (words: readonly string[], index: CategoryIndex): Words => {
  const meant = new Map<string, number>();
  let weight = 0;
  for (const word of words) {
    const found = inTree(word, index);
    weight += index.weight(word);
    for (const [own, share] of found)
      for (const one of [own, ...index.partsOf(own)]) meant.set(one, Math.max(share, meant.get(one) ?? 0));
  }
  return { meant, weight };
};

/** Share of the weight that two sets of words have in common, both ways (a harmonic mean). */
const likeness = (ours: Words, theirs: ReadonlySet<string>, index: CategoryIndex): number => {
  let [common, total] = [0, 0];
  for (const word of theirs) {
    const weight = index.weight(word);
    total += weight;
    common += weight * (ours.meant.get(word) ?? 0);
  }
  if (total === 0 || ours.weight === 0) return 0;
  const [precision, recall] = [common / total, Math.min(1, common / ours.weight)];
  return precision + recall === 0 ? 0 : (2 * precision * recall) / (precision + recall);
};

/** Share of their words that ours contain. */
const covered = (
  ours: ReadonlyMap<string, number>,
  theirs: ReadonlySet<string>,
  index: CategoryIndex,
): number => {
  let [common, total] = [0, 0];
  for (const word of theirs) {
    const weight = index.weight(word);
    total += weight;
    common += weight * (ours.get(word) ?? 0);
  }
  return total === 0 ? 0 : common / total;
};

interface Prepared {
  readonly leaf: Words;
  readonly above: Words;
  readonly goods: ReadonlyMap<string, number>;
  readonly elsewhere: readonly Words[];
  readonly nearBy: ReadonlySet<Category>;
  readonly branches: ReadonlySet<Category>;
}

/** Words with the joined ones that the tree knows. */
const leafWords = (words: readonly string[], index: CategoryIndex): Words =>
  treeWords(
    withCompounds(words).filter((word, at) => at < words.length || index.withWord(word).length > 0),
    index,
  );

/** Words of our branch; those that the tree does not have make it foreign to all of the tree's, but only half as much. */
const branchWords = (parts: readonly string[], index: CategoryIndex): Words => {
  const words = parts.flatMap(wordsOf);
  const known = treeWords(
    parts.flatMap((part) => withCompounds(wordsOf(part))).filter((word) => index.withWord(word).length > 0),
    index,
  );
  const unknown = words.filter((word) => index.withWord(word).length === 0).length;
  return { meant: known.meant, weight: known.weight + unknown * UNKNOWN };
};

const prepare = (subject: Subject, index: CategoryIndex): Prepared => {
  const parts = pathParts(subject.path);
  const leaf = wordsOf(parts.at(-1) ?? "");
  const goods = new Map<string, number>();
  for (const [word, share] of subject.goods)
    for (const [own, sure] of inTree(word, index)) goods.set(own, share * sure);
  return {
    leaf: leafWords(leaf, index),
    above: branchWords(parts.slice(0, -1), index),
    goods,
    elsewhere: subject.elsewhere.map((path) => leafWords(wordsOf(path), index)),
    nearBy: new Set(
      subject.neighbours.flatMap((category) => (category.parent === undefined ? [] : [category.parent])),
    ),
    branches: new Set(subject.neighbours.flatMap((category) => withAncestors(category))),
  };
};

const candidatesFor = (
  { leaf, above, goods, elsewhere }: Prepared,
  index: CategoryIndex,
): readonly IndexedCategory[] => {
  const scores = new Map<number, number>();
  const add = (word: string, share: number): void => {
    const weight = index.weight(word) * share;
    for (const position of index.withWord(word)) scores.set(position, (scores.get(position) ?? 0) + weight);
  };
  for (const [word, share] of leaf.meant) add(word, share * 3);
  for (const [word, share] of above.meant) add(word, share * 0.6);
  for (const [word, share] of goods) add(word, share * 1.5);
  for (const words of elsewhere) for (const [word, share] of words.meant) add(word, share * 0.8);
  return [...scores]
    .sort((a, b) => b[1] - a[1] || a[0] - b[0])
    .slice(0, CANDIDATES)
    .flatMap(([position]) => index.all[position] ?? []);
};

const evidenceFor = (prepared: Prepared, candidate: IndexedCategory, index: CategoryIndex): Evidence => {
  const { leaf, above, goods, elsewhere, nearBy, branches } = prepared;
  const byName = likeness(leaf, candidate.name, index);
  // A phrase that shoppers look for it by says nearly as much as its name; single words of such phrases say less.
  const byPhrase =
    greatest(
      candidate.phrases.map((phrase) => likeness(leaf, phrase, index)),
      0,
    ) * 0.9;
  const asked = [...leaf.meant].reduce(
    (sum, [word, share]) =>
      sum + (candidate.search.has(word) || candidate.name.has(word) ? index.weight(word) * share : 0),
    0,
  );
  const bySearch = Math.max(byPhrase, leaf.weight === 0 ? 0 : Math.min(1, asked / leaf.weight) * SEARCH);
  const ourWords =
    above.weight === 0
      ? 0
      : [...above.meant].reduce(
          (sum, [word, share]) =>
            sum + (candidate.above.has(word) || candidate.name.has(word) ? index.weight(word) * share : 0),
          0,
        ) / above.weight;
  // Ours may say above what theirs says in the leaf: "Hives > Roofs" is "Hive Roofs".
  const both: Words = { meant: new Map([...above.meant, ...leaf.meant]), weight: leaf.weight };
  const byBoth = Math.min(1, likeness(both, candidate.name, index)) * 0.94;
  const named = covered(goods, candidate.name, index);
  const looked = [...candidate.search].reduce(
    (most, word) => Math.max(most, (goods.get(word) ?? 0) * 0.8),
    0,
  );
  const sibling = candidate.category.parent !== undefined && nearBy.has(candidate.category.parent);
  const inBranch = withAncestors(candidate.category)
    .slice(1)
    .some((category) => branches.has(category));
  return {
    leaf: Math.max(byName, bySearch, byBoth),
    context: Math.min(1, ourWords),
    goods: Math.max(named, looked),
    neighbours: sibling ? 1 : inBranch ? 0.6 : 0,
    elsewhere: greatest(
      elsewhere.map((words) => likeness(words, new Set([...candidate.name]), index)),
      0,
    ),
    shared: [...candidate.name].filter((word) => leaf.meant.has(word) || above.meant.has(word)),
  };
};

/** The leaf weighs more than the root; neighbours and other channels add, where there are any. */
const scoreOf = (
  { leaf, context, goods, neighbours, elsewhere }: Evidence,
  has: { readonly context: boolean; readonly goods: boolean },
): number => {
  const parts: readonly (readonly [value: number, weight: number])[] = [
    [leaf, 0.58],
    ...(has.context ? [[context, 0.17] as const] : []),
    ...(has.goods ? [[goods, 0.26] as const] : []),
  ];
  const weight = parts.reduce((sum, [, own]) => sum + own, 0);
  const base = parts.reduce((sum, [value, own]) => sum + value * own, 0) / weight;
  return base + 0.12 * neighbours * (1 - base) + 0.15 * elsewhere * (1 - base);
};

const reasonOf = ({ leaf, context, goods, neighbours, elsewhere }: Evidence): string => {
  const reasons = [
    ...(leaf >= 0.95 ? ["the same name"] : leaf >= 0.5 ? ["a like name"] : []),
    ...(context >= 0.5 ? ["in a like branch"] : []),
    ...(goods >= 0.4 ? ["its products say so"] : []),
    ...(neighbours >= 1 ? ["beside its neighbours"] : neighbours > 0 ? ["near its neighbours"] : []),
    ...(elsewhere >= 0.6 ? ["as on another channel"] : []),
  ];
  return reasons.length === 0 ? "a word in common" : reasons.join(", ");
};

/**
 * How sure the best of several is: by what speaks for it, by how far it stands before the next, and by whether more than
 * one kind of evidence speaks. A name that matches in a foreign branch is doubted.
 */
const confidenceOf = (
  score: number,
  next: number,
  evidence: Evidence,
  has: { readonly context: boolean; readonly goods: boolean },
): number => {
  const margin = Math.min(1, Math.max(0, score - next) / 0.2);
  const kinds = [
    evidence.leaf >= 0.85,
    evidence.context >= 0.4,
    evidence.goods >= 0.4,
    evidence.neighbours > 0,
    evidence.elsewhere >= 0.6,
  ].filter(Boolean).length;
  const isForeign =
    has.context && evidence.context < 0.05 && evidence.goods < 0.3 && evidence.neighbours === 0;
  const base = 0.62 * Math.min(1, score / 0.85) + 0.2 * margin + 0.06 * Math.min(3, kinds);
  const confidence = base * (isForeign ? 0.7 : 1) * (evidence.leaf < 0.3 ? 0.75 : 1);
  // Sure is only what the name says, and something beside it, with room before the next.
  const isSure = evidence.leaf >= 0.85 && kinds >= 2 && score - next >= 0.12;
  return Math.max(0.01, Math.min(isSure ? 0.99 : 0.89, confidence));
};

interface Ranked {
  readonly candidate: IndexedCategory;
  readonly evidence: Evidence;
  readonly score: number;
}

/** Of a category and one below it that says it as well, the one below is meant: listings belong as deep as they can. */
const preferBelow = (ranked: Ranked[]): void => {
  const [best] = ranked;
  if (best === undefined || !best.candidate.category.hasChildren) return;
  const below = ranked.findIndex(
    ({ candidate, evidence, score }, at) =>
      at > 0 &&
      at < 4 &&
      score > best.score * 0.9 &&
      evidence.leaf >= best.evidence.leaf * 0.95 &&
      withAncestors(candidate.category).includes(best.candidate.category),
  );
  const found = ranked[below];
  if (below > 0 && found !== undefined) {
    ranked.splice(below, 1);
    ranked.unshift(found);
  }
};

/** The channel's categories that a subject most likely belongs in, best first. */
export const suggest = (subject: Subject, index: CategoryIndex, count = 3): readonly Suggestion[] => {
  const prepared = prepare(subject, index);
  const has = { context: prepared.above.weight > 0, goods: prepared.goods.size > 0 };
  const ranked = candidatesFor(prepared, index)
    .filter(({ category }) => category.isOpen)
    .map((candidate) => {
      const evidence = evidenceFor(prepared, candidate, index);
      return {
        candidate,
        evidence,
        score: scoreOf(evidence, has) * (candidate.category.hasChildren ? INNER : 1),
      };
    })
    .sort((a, b) => b.score - a.score || a.candidate.category.path.length - b.candidate.category.path.length);
  preferBelow(ranked);
  return ranked.slice(0, count).map(({ candidate, evidence, score }, position) => ({
    category: candidate.category,
    confidence: confidenceOf(
      score,
      position === 0 ? (ranked[1]?.score ?? 0) : (ranked[0]?.score ?? score),
      evidence,
      has,
    ),
    reason: reasonOf(evidence),
  }));
};
