/**
 * What a person's placements teach: shelves whose goods are like those of a shelf that was placed, or whose products are
 * called like its products, go where that went. Goods tell in trades that are known, names in all.
 */
import type { Category } from "../channel/category-tree.js";
import type { CategoryIndex } from "./category-index.js";
import type { Masses } from "./company.js";
import type { Understood } from "./subject.js";

/** A category of ours that a person has placed, with what is in it. */
export interface Confirmed {
  readonly goods: Masses;
  /** What its products are called: the words of each name's first part. */
  readonly calledBy: Understood["calledBy"];
  readonly category: Category;
}

/** Below this two of our categories have nothing to do with each other. */
const ALIKE = 0.25;
/** Things of one kind often have a word of their names in common and no more. */
const CALLED_ALIKE = 0.5;
/** The last word of what a thing is called says most of it. */
const LAST = 2;

/** What the things of one of our categories are, all its voices together. */
function goodsOf({ products, leaf }: Understood): Masses {
  const all = new Map(products);
  for (const [good, mass] of leaf) all.set(good, (all.get(good) ?? 0) + mass);
  return all;
}

/** What is remembered of a category of ours that was placed. */
export const confirmedAs = (ours: Understood, category: Category): Confirmed => ({
  goods: goodsOf(ours),
  calledBy: ours.calledBy,
  category,
});

/** Where a person put things like some, each place with how like (0 to 1): by what they are, and by what they are called. */
export interface PlacesLike {
  readonly goods: ReadonlyMap<Category, number>;
  readonly names: ReadonlyMap<Category, number>;
}

/** What was placed by now, made ready once for all that is still open. */
export class Learned {
  private readonly lengths: readonly number[];
  /** Shelves by their goods. */
  private readonly holders = new Map<number, (readonly [shelf: number, mass: number])[]>();
  /** Names of products of all shelves, each with its shelf, and by their words. */
  private readonly names: { readonly shelf: number; readonly words: ReadonlyMap<string, number> }[] = [];
  private readonly namesWith = new Map<string, number[]>();
  /** How many shelves say a word. */
  private readonly shelvesWith = new Map<string, number>();

  constructor(
    private readonly confirmed: readonly Confirmed[],
    private readonly index: Pick<CategoryIndex, "weight">,
  ) {
    this.lengths = confirmed.map(({ goods }) => lengthOf(goods));
    for (const [shelf, { goods, calledBy }] of confirmed.entries()) {
      for (const [good, mass] of goods) pushTo(this.holders, good, [shelf, mass] as const);
      for (const word of new Set(calledBy.flat()))
        this.shelvesWith.set(word, (this.shelvesWith.get(word) ?? 0) + 1);
    }
    // Only when all are counted is it known how much a word tells.
    for (const [shelf, { calledBy }] of confirmed.entries())
      for (const name of calledBy) {
        const words = this.weighed(name);
        for (const word of words.keys()) pushTo(this.namesWith, word, this.names.length);
        this.names.push({ shelf, words });
      }
  }

  /** Categories that a person put things in like ours, each with how like. */
  placesLike(ours: Understood): PlacesLike {
    return {
      goods: this.placesOf(this.byGoods(goodsOf(ours)), ALIKE),
      names: this.placesOf(this.byNames(ours.calledBy), CALLED_ALIKE),
    };
  }

  private placesOf(alike: ReadonlyMap<number, number>, least: number): ReadonlyMap<Category, number> {
    const found = new Map<Category, number>();
    for (const [shelf, like] of alike) {
      const category = this.confirmed[shelf]?.category;
      if (category !== undefined && like >= least)
        found.set(category, Math.max(like, found.get(category) ?? 0));
    }
    return found;
  }

  /** How like the goods of each shelf are that has any of ours (a cosine). */
  private byGoods(ours: Masses): ReadonlyMap<number, number> {
    const products = new Map<number, number>();
    for (const [good, mass] of ours)
      for (const [shelf, theirs] of this.holders.get(good) ?? [])
        products.set(shelf, (products.get(shelf) ?? 0) + mass * theirs);
    const own = lengthOf(ours);
    for (const [shelf, product] of products)
      products.set(shelf, product / (own * (this.lengths[shelf] ?? 1)));
    return products;
  }

  /** How far our products are called like one of each shelf, on the average of our names. */
  private byNames(calledBy: Understood["calledBy"]): ReadonlyMap<number, number> {
    const sums = new Map<number, number>();
    for (const name of calledBy) {
      const own = this.weighed(name);
      const common = new Map<number, number>();
      for (const [word, weight] of own)
        for (const at of this.namesWith.get(word) ?? [])
          common.set(at, (common.get(at) ?? 0) + Math.min(weight, this.names[at]?.words.get(word) ?? 0));
      const best = new Map<number, number>();
      for (const [at, shared] of common) {
        const other = this.names[at];
        if (other === undefined) continue;
        const like = (2 * shared) / (sumOf(own) + sumOf(other.words));
        best.set(other.shelf, Math.max(like, best.get(other.shelf) ?? 0));
      }
      for (const [shelf, like] of best) sums.set(shelf, (sums.get(shelf) ?? 0) + like / calledBy.length);
    }
    return sums;
  }

  /** Words of what a thing is called, each with how much it tells: those that many shelves or half the tree say tell little. */
  private weighed(name: readonly string[]): ReadonlyMap<string, number> {
    const all = this.confirmed.length;
    return new Map(
      name.map((word, at) => {
        const rare = Math.log(1 + all / (1 + (this.shelvesWith.get(word) ?? 0))) / Math.log(1 + all);
        return [word, rare * this.index.weight(word) * (at === name.length - 1 ? LAST : 1)];
      }),
    );
  }
}

function pushTo<Key, One>(lists: Map<Key, One[]>, key: Key, one: One): void {
  const known = lists.get(key);
  if (known === undefined) lists.set(key, [one]);
  else known.push(one);
}

function sumOf(words: ReadonlyMap<string, number>): number {
  let sum = 0;
  for (const weight of words.values()) sum += weight;
  return sum;
}

function lengthOf(masses: Masses): number {
  let sum = 0;
  for (const mass of masses.values()) sum += mass * mass;
  return Math.sqrt(sum);
}
