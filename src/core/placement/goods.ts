import { withCompounds, wordsOf } from "./words.js";

const LOOKED_AT = 200;
const KEPT = 24;

/** The products of one of our categories, as far as they help to place it. */
export interface Goods {
  add(name: string): void;
  readonly products: number;
  /** Words of their names with the share of products that have them, most first. */
  words(): ReadonlyMap<string, number>;
}

/** Gathers names product by product; only the first few hundred are looked at, since the rest say the same. */
export const gatherGoods = (): Goods => {
  const counts = new Map<string, number>();
  let [products, looked] = [0, 0];
  return {
    add(name) {
      products++;
      if (looked >= LOOKED_AT || name === "") return;
      looked++;
      for (const word of new Set(withCompounds(wordsOf(name)))) counts.set(word, (counts.get(word) ?? 0) + 1);
    },
    get products() {
      return products;
    },
    words: () =>
      new Map(
        [...counts]
          .sort((a, b) => b[1] - a[1])
          .slice(0, KEPT)
          .map(([word, count]) => [word, Math.min(1, count / Math.max(1, looked))]),
      ),
  };
};
