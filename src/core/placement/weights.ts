import type { Glossary } from "../goods/glossary.js";
import type { Evidence } from "./evidence.js";
import type { Understood } from "./subject.js";
import type { Weighed } from "./weighed.js";
import type { Surroundings } from "./surroundings.js";

/**
 * How much each kind of evidence speaks for a category, in logits: fitted on the half of the labels in `bench/placement/`
 * that was looked at, so that a category's share of the belief is how often it is right.
 */
const weights: Readonly<Record<keyof Evidence, number>> = {
  productsKin: 5.4,
  productsSame: 1.1,
  productsNarrower: 1.25,
  productsNear: 1.7,
  productsWith: -0.9,
  leafKin: 3.3,
  leafSame: 0.6,
  leafNarrower: 2.7,
  leafNear: 2.7,
  aside: 3.7,
  words: 1.8,
  sought: 2,
  likeness: 0.25,
  branchWords: 1.8,
  branchGoods: 0.6,
  kindsAbove: 2.1,
  field: 3.1,
  qualitySame: 0.75,
  qualityUnsaid: 0,
  qualityOther: -0.85,
  branchOther: -1.9,
  branchUnsaid: 0,
  unsaid: -1.6,
  holds: 0.8,
  general: 1.6,
  deeper: -3.25,
};

/** What the labels do not have, set by hand: a person's word says most. */
const surroundings: Readonly<Record<keyof Surroundings, number>> = {
  beside: 1.2,
  elsewhere: 2.5,
  confirmed: 4,
};

/** What "nothing fits" weighs against the best category; more where our things are none that are sold. */
const NOTHING = 4.8;
const NO_GOODS = 2.8;
/** Shops write otherwise than the labels: all is believed a little less. */
const CAUTION = 0.9;

const evidenceNames = Object.keys(weights) as (keyof Evidence)[];
const surroundingNames = Object.keys(surroundings) as (keyof Surroundings)[];

export interface Ranked {
  readonly weighed: Weighed;
  /** 0 to 1. */
  readonly share: number;
}

const scoreOf = ({ evidence, around }: Weighed): number => {
  let score = 0;
  for (const name of evidenceNames) score += weights[name] * evidence[name];
  for (const name of surroundingNames) score += surroundings[name] * around[name];
  return score;
};

/** Ranks candidates and gives each its share of the belief; the rest of it is that nothing fits. */
export const weigh = (
  all: readonly Weighed[],
  ours: Understood,
  glossary: Glossary,
): { readonly ranked: readonly Ranked[]; readonly nothing: number } => {
  let services = 0;
  for (const [good, mass] of ours.products) if (glossary.goods[good]?.field === "trade") services += mass;
  const scored = all
    .map((weighed) => ({ weighed, score: CAUTION * scoreOf(weighed) }))
    .sort(
      (a, b) =>
        b.score - a.score ||
        a.weighed.candidate.category.path.length - b.weighed.candidate.category.path.length,
    );
  const none = CAUTION * (NOTHING + NO_GOODS * services);
  // The greatest is taken away, so that no power grows past what a number holds.
  const most = Math.max(none, scored[0]?.score ?? none);
  const total = scored.reduce((sum, { score }) => sum + Math.exp(score - most), Math.exp(none - most));
  return {
    nothing: Math.exp(none - most) / total,
    ranked: scored.map(({ weighed, score }) => ({ weighed, share: Math.exp(score - most) / total })),
  };
};
