/** The products of a category, as far as they help to place it: a bounded number of different names. */
import { apart } from "../apart.js";

const KEPT = 40;
const DESCRIPTIONS = 5;
const BEGINNING = 300;

/** The products of one of our categories, as far as they help to place it. */
export interface ShopGoods {
  add(name: string, more?: MoreOfProduct): void;
  readonly products: number;
  /** Some of their names, each once, in the order they came: the first few tell as much as all. */
  readonly names: readonly string[];
  /** Beginnings of a few descriptions. */
  readonly descriptions: readonly string[];
  /** What others call their categories, most often said first. */
  readonly told: readonly string[];
}

/** What is only looked at as long as it is needed. */
export interface MoreOfProduct {
  description(): string | undefined;
  /** What a maker or another channel calls its category. */
  told(): readonly string[];
}

/** Gathers names product by product; only the first few different ones are kept, since the rest say the same. */
export function gatherGoods(): ShopGoods {
  const names = new Set<string>();
  const descriptions = new Set<string>();
  const told = new Map<string, number>();
  let products = 0;
  return {
    add(name, more) {
      products++;
      if (names.size >= KEPT) return;
      if (name !== "") names.add(apart(name));
      if (more === undefined) return;
      if (descriptions.size < DESCRIPTIONS) {
        const text = more.description();
        // A text of its own: a piece of a longer one would keep the whole.
        if (text !== undefined) descriptions.add(apart(text.slice(0, BEGINNING)));
      }
      for (const text of more.told()) told.set(text, (told.get(text) ?? 0) + 1);
    },
    get products() {
      return products;
    },
    get names() {
      return [...names];
    },
    get descriptions() {
      return [...descriptions];
    },
    get told() {
      return [...told]
        .sort((a, b) => b[1] - a[1])
        .slice(0, DESCRIPTIONS)
        .map(([text]) => text);
    },
  };
}
