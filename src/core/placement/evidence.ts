/** What speaks for a category, number by number, each from 0 to 1. Nothing is weighed here. */
import type { Quality } from "../goods/good.js";
import { greatest } from "../many.js";
import type { CategoryIndex, IndexedCategory, Named } from "./category-index.js";
import { wholeOf, type Masses } from "./company.js";
import type { Kin } from "./kinship.js";
import type { Understood } from "./subject.js";

/** What speaks for or against one category, each from 0 to 1. */
export interface Evidence {
  /** How far products are what it names, or one of it; share that are just that; of which it names a sort; near to it. */
  readonly productsKin: number;
  readonly productsSame: number;
  readonly productsNarrower: number;
  readonly productsNear: number;
  /** Share of products to which what it names belongs: blades are no saws. */
  readonly productsWith: number;
  /** The same by our leaf. */
  readonly leafKin: number;
  readonly leafSame: number;
  readonly leafNarrower: number;
  readonly leafNear: number;
  /** What products' names mention beside. */
  readonly aside: number;
  /** Share of its name that our words cover; of what shoppers seek it by; likeness of both names. */
  readonly words: number;
  readonly sought: number;
  readonly likeness: number;
  /** Share of our branch's words and goods that its branch has. */
  readonly branchWords: number;
  readonly branchGoods: number;
  /** How far its branch names kinds of our things. */
  readonly kindsAbove: number;
  /** Likeness of fields of trade. */
  readonly field: number;
  /** Its name says for whom or of what, and we say the same; we do not; we say another. */
  readonly qualitySame: number;
  readonly qualityUnsaid: number;
  readonly qualityOther: number;
  /** Its branch says for whom, and we say another or nothing. */
  readonly branchOther: number;
  readonly branchUnsaid: number;
  /** We say for whom our things are, and neither it nor its branch does. */
  readonly audienceLost: number;
  /** Share of its name that nobody of ours says. */
  readonly unsaid: number;
  /** Whether it holds others. */
  readonly holds: number;
  /** Share of our things that are of a kind that it names, where it holds others: all that has no nearer place goes there. */
  readonly general: number;
  /** How far one below it says more exactly what our things are. */
  readonly deeper: number;
}

/** What shoppers seek it by says less than its name. */
const SOUGHT = 0.85;

/** How much of a subject's goods stand how to a category's. */
export interface KinShares {
  same: number;
  wider: number;
  narrower: number;
  near: number;
  with: number;
}

const slot: Readonly<Record<Kin, keyof KinShares>> = {
  same: "same",
  wider: "wider",
  narrower: "narrower",
  beside: "near",
  with: "with",
};

/** How goods of ours stand to those that names name: each by its nearest way. */
export function kinTo(ours: Masses, theirs: readonly Named[], index: CategoryIndex): KinShares {
  const shares: KinShares = { same: 0, wider: 0, narrower: 0, near: 0, with: 0 };
  for (const [good, mass] of ours) {
    const reach = index.kinship.of(good);
    let [kin, most]: [Kin, number] = ["same", 0];
    for (const { goods } of theirs)
      for (const [other, weight] of goods) {
        const reached = reach.get(other);
        if (reached === undefined || reached.near * weight <= most) continue;
        kin = reached.kin;
        most = reached.near * weight;
      }
    shares[slot[kin]] += mass * most;
  }
  return shares;
}

/** Share of a name's words that ours cover; its last word says twice as much. */
function coverOf(words: readonly string[], ours: ReadonlyMap<string, number>, index: CategoryIndex): number {
  let [covered, total] = [0, 0];
  for (const [at, word] of words.entries()) {
    const weight = (0.15 + index.weight(word)) * (at === words.length - 1 ? 2 : 1);
    total += weight;
    covered += weight * Math.min(1, ours.get(word) ?? 0);
  }
  return total === 0 ? 0 : covered / total;
}

function weightOf(words: Iterable<string>, index: CategoryIndex): number {
  let sum = 0;
  for (const word of words) sum += 0.15 + index.weight(word);
  return sum;
}

/** Share of the weight that two names have in common, both ways (a harmonic mean). */
export function likenessOf(leaf: readonly string[], name: ReadonlySet<string>, index: CategoryIndex): number {
  const ours = new Set(
    leaf.flatMap((word) => (index.withWord(word).length > 0 ? [word] : index.nearWords(word))),
  );
  const common = weightOf(
    [...ours].filter((word) => name.has(word)),
    index,
  );
  const [mine, theirs] = [weightOf(new Set(leaf), index), weightOf(name, index)];
  return mine + theirs === 0 ? 0 : Math.min(1, (2 * common) / (mine + theirs));
}

interface QualityShares {
  same: number;
  unsaid: number;
  other: number;
}

/** Whether one quality is another or one of it, either way: girls are children, burgundy is a red. */
const isAlike = (one: Quality, other: Quality): boolean =>
  one.name === other.name || one.kindOf === other.name || one.name === other.kindOf;

/** How their qualities stand to ours: for whom first, since a coat for men is never one for women. */
function qualitiesTo(theirs: readonly Quality[], { qualities }: Understood, isA?: string): QualityShares {
  const shares = { same: 0, unsaid: 0, other: 0 };
  const asked = theirs.filter((quality) => isA === undefined || quality.isA === isA);
  if (asked.length === 0) return shares;
  const ours = [...qualities.values()];
  const same = greatest(
    asked.map((quality) =>
      greatest(
        ours.map((own) => (isAlike(own.quality, quality) ? own.share : 0)),
        0,
      ),
    ),
    0,
  );
  const other = greatest(
    ours.map((own) =>
      asked.some(({ isA: kind }) => kind === own.quality.isA) &&
      !asked.some((quality) => isAlike(own.quality, quality))
        ? own.share
        : 0,
    ),
    0,
  );
  shares.same = same;
  shares.other = Math.max(0, other - same);
  shares.unsaid = Math.max(0, 1 - same - shares.other);
  return shares;
}

/** How far we say for whom our things are where a category is for anybody. */
function audienceLostIn({ qualities, qualitiesAbove }: IndexedCategory, ours: Understood): number {
  const theirs = [...qualities, ...qualitiesAbove].filter(({ isA }) => isA === "audience");
  return greatest(
    [...ours.qualities.values()].map(({ quality, share }) =>
      quality.isA === "audience" && !theirs.some((other) => isAlike(quality, other)) ? share : 0,
    ),
    0,
  );
}

function cosine(one: Float64Array, other: Float64Array): number {
  let [product, ones, others] = [0, 0, 0];
  for (const [at, value] of one.entries()) {
    const theirs = other[at] ?? 0;
    product += value * theirs;
    ones += value * value;
    others += theirs * theirs;
  }
  return ones === 0 || others === 0 ? 0 : product / Math.sqrt(ones * others);
}

/** However far a kind is above a thing, the thing is still one of it. */
const KIND_FLOOR = 0.5;

/** How far goods of a branch are those of ours, or kinds of them. */
function kindsIn(ours: Masses, above: Masses, index: CategoryIndex): number {
  let sum = 0;
  for (const [good, mass] of ours) {
    const reach = index.kinship.of(good);
    let most = 0;
    for (const [other, weight] of above) {
      const reached = reach.get(other);
      if (reached !== undefined && (reached.kin === "same" || reached.kin === "wider"))
        most = Math.max(
          most,
          (reached.kin === "same" ? 1 : KIND_FLOOR + (1 - KIND_FLOOR) * reached.near) * Math.min(1, weight),
        );
    }
    sum += mass * most;
  }
  return Math.min(1, sum);
}

function shareOf(
  words: readonly string[],
  theirs: readonly ReadonlySet<string>[],
  index: CategoryIndex,
): number {
  const total = weightOf(words, index);
  if (total === 0) return 0;
  return (
    weightOf(
      words.filter((word) => theirs.some((set) => set.has(word))),
      index,
    ) / total
  );
}

/** What speaks for one category, by its own words and goods. */
export function evidenceFor(ours: Understood, candidate: IndexedCategory, index: CategoryIndex): Evidence {
  const products = kinTo(ours.products, candidate.named, index);
  const productsSought = kinTo(ours.products, candidate.soughtBy, index);
  const leaf = kinTo(ours.leaf, candidate.named, index);
  const leafSought = kinTo(ours.leaf, candidate.soughtBy, index);
  const beside = kinTo(ours.aside, candidate.named, index);
  const covers = candidate.named.map(({ words }) => coverOf(words, ours.words, index));
  const words = greatest(covers, 0);
  const best = candidate.named[covers.indexOf(words)]?.words ?? [];
  const qualities = qualitiesTo(candidate.qualities, ours);
  const above = qualitiesTo(candidate.qualitiesAbove, ours, "audience");
  const branch = kinTo(ours.branch, [{ goods: candidate.goodsAbove, words: [] }, ...candidate.named], index);
  const things = ours.products.size > 0 ? ours.products : ours.leaf;
  const branchMass = wholeOf(ours.branch);
  return {
    productsKin: Math.max(
      products.same + products.wider,
      SOUGHT * (productsSought.same + productsSought.wider),
    ),
    productsSame: Math.max(products.same, SOUGHT * productsSought.same),
    productsNarrower: Math.max(products.narrower, 0.7 * productsSought.narrower),
    productsNear: Math.max(products.near, 0.7 * productsSought.near),
    productsWith: products.with,
    leafKin: Math.min(1, Math.max(leaf.same + leaf.wider, SOUGHT * (leafSought.same + leafSought.wider))),
    leafSame: Math.min(1, Math.max(leaf.same, SOUGHT * leafSought.same)),
    leafNarrower: Math.min(1, Math.max(leaf.narrower, 0.7 * leafSought.narrower)),
    leafNear: Math.min(1, Math.max(leaf.near, 0.7 * leafSought.near)),
    aside: Math.min(1, beside.same + 0.5 * beside.wider),
    words,
    sought: greatest(
      candidate.soughtBy.map((one) => coverOf(one.words, ours.words, index)),
      0,
    ),
    likeness: likenessOf(ours.leafWords, candidate.name, index),
    branchWords: shareOf(ours.branchWords, [candidate.above, candidate.name, candidate.search], index),
    branchGoods:
      branchMass === 0 ? 0 : Math.min(1, (branch.same + branch.wider + 0.5 * branch.narrower) / branchMass),
    kindsAbove: kindsIn(things, candidate.goodsAbove, index),
    field: cosine(ours.fields, candidate.fields),
    qualitySame: qualities.same,
    qualityUnsaid: qualities.unsaid,
    qualityOther: qualities.other,
    branchOther: above.other,
    branchUnsaid: above.unsaid,
    audienceLost: audienceLostIn(candidate, ours),
    unsaid:
      best.length === 0
        ? 0
        : weightOf(
            best.filter((word) => !ours.words.has(word)),
            index,
          ) / weightOf(best, index),
    holds: candidate.category.hasChildren ? 1 : 0,
    general: candidate.category.hasChildren ? kindsIn(things, candidate.goodsNamed, index) : 0,
    deeper: 0,
  };
}
