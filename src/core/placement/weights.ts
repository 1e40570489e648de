/**
 * Weighs evidence and shares out belief, a part of it always for "nothing fits". The weights were measured by `npm run
 * bench placement`.
 */
import type { Glossary } from "../goods/glossary.js";
import type { Evidence } from "./evidence.js";
import type { Understood } from "./subject.js";
import type { Weighed } from "./weighed.js";
import type { CategoryHints } from "./surroundings.js";

/**
 * How much each kind of evidence speaks for a category, in logits: fitted on the half of the labels in `bench/placement/`
 * that was looked at, so that a category's share of the belief is how often it is right.
 */
const weights: Readonly<Record<keyof Evidence, number>> = {
  productsKin: 5.3,
  productsSame: 1.3,
  productsNarrower: 0.3,
  productsNear: 1.4,
  productsWith: -1.2,
  leafKin: 3.2,
  leafSame: 0.4,
  leafNarrower: 2.7,
  leafNear: 2.3,
  aside: 3.5,
  words: 1.8,
  sought: 1.9,
  likeness: 0.2,
  branchWords: 1.7,
  branchGoods: 0.5,
  kindsAbove: 1.9,
  field: 3.3,
  qualitySame: 0.8,
  qualityUnsaid: -0.1,
  qualityOther: -1.1,
  branchOther: -1.4,
  branchUnsaid: -0.1,
  audienceLost: -0.6,
  unsaid: -1.8,
  holds: 0.4,
  general: 2.1,
  deeper: -3.6,
};

/** What the labels do not have, set by hand: a person's word says most. */
const surroundings: Readonly<Record<keyof CategoryHints, number>> = {
  beside: 1.2,
  elsewhere: 5,
  confirmed: 4,
  called: 6,
};

/** What "nothing fits" weighs against the best category; more where our things are none that are sold. */
const NOTHING = 5.5;
const NO_GOODS = 2.5;
/** The table of what is done and not sold. */
const SERVICES = "services";
/** How sharply belief follows evidence: above 1 the best stands out more. */
const SHARPNESS = 1.1;

/** Sure (0.9 and above) is only what most of our things say, in a field that is ours, with a name that is not all foreign. */
const SURE = 0.9;
const BELOW_SURE = 0.89;
const MOST = 0.5;
const OWN_FIELD = 0.35;
const ALL_FOREIGN = 0.9;

/** So many different words have to speak of a field. */
const SEVERAL = 2;
/** A field that a category is of, and not one that its words also speak of. */
const OF_FIELD = 0.5;

/** Whether several words of ours agree on the trade that a category is of: one word means many things. */
function agreeOnField({ candidate }: Weighed, { witnesses }: Understood): boolean {
  return candidate.fields.some((share, field) => share >= OF_FIELD && (witnesses[field] ?? 0) >= SEVERAL);
}

function isAgreed(weighed: Weighed, ours: Understood): boolean {
  const { evidence } = weighed;
  const { productsKin, productsNarrower, leafKin, unsaid, field } = evidence;
  const said = ours.count > 0 ? productsKin + productsNarrower / 2 >= MOST : leafKin >= MOST;
  return said && unsaid <= ALL_FOREIGN && field >= OWN_FIELD && agreeOnField(weighed, ours);
}

/** A category that has our shelf's very name, or names just that. */
const isNamesake = ({ evidence }: Weighed): boolean => evidence.likeness >= 0.95 || evidence.leafSame >= 0.35;

/** Whether our shelf says another category than the one that its products say. */
const isContradicted = (best: Weighed, all: readonly Weighed[]): boolean =>
  best.evidence.leafKin < 0.6 && !isNamesake(best) && all.some((one) => one !== best && isNamesake(one));

const evidenceNames = Object.keys(weights) as (keyof Evidence)[];
const surroundingNames = Object.keys(surroundings) as (keyof CategoryHints)[];

/** A candidate with its share of the belief. */
export interface Ranked {
  readonly weighed: Weighed;
  /** 0 to 1. */
  readonly share: number;
}

function scoreOf({ evidence, around }: Weighed): number {
  let score = 0;
  for (const name of evidenceNames) score += weights[name] * evidence[name];
  for (const name of surroundingNames) score += surroundings[name] * around[name];
  return score;
}

/** Ranks candidates and gives each its share of the belief; the rest of it is that nothing fits. */
export function weigh(
  all: readonly Weighed[],
  ours: Understood,
  glossary: Glossary,
): { readonly ranked: readonly Ranked[]; readonly nothing: number } {
  let services = 0;
  for (const [good, mass] of ours.products) if (glossary.goods[good]?.field === SERVICES) services += mass;
  const scored = all
    .map((weighed) => ({ weighed, score: SHARPNESS * scoreOf(weighed) }))
    .sort(
      (a, b) =>
        b.score - a.score ||
        a.weighed.candidate.category.path.length - b.weighed.candidate.category.path.length,
    );
  const none = SHARPNESS * (NOTHING + NO_GOODS * services);
  // The greatest is taken away, so that no power grows past what a number holds.
  const most = Math.max(none, scored[0]?.score ?? none);
  const total = scored.reduce((sum, { score }) => sum + Math.exp(score - most), Math.exp(none - most));
  return {
    nothing: Math.exp(none - most) / total,
    ranked: scored.map(({ weighed, score }) => {
      const share = Math.exp(score - most) / total;
      return {
        weighed,
        share:
          share >= SURE && (!isAgreed(weighed, ours) || isContradicted(weighed, all)) ? BELOW_SURE : share,
      };
    }),
  };
}
