import { withAncestors, type Category } from "../channel/category-tree.js";
import type { CategoryIndex } from "./category-index.js";
import { gatherGoods } from "./goods.js";
import { suggest, type Suggestion } from "./suggest.js";

/** From here on a product's own name is believed against the category that it stands in. */
export const APART = 0.8;

/** What a name says a product is: its words before what it has, is for, or comes in. */
export const headOf = (name: string): string =>
  name
    .split(/,| with | for | in |\(| – /i)[0]
    ?.trim()
    .replace(/\s+/g, " ") ?? "";

/** Where a product would go by its name alone. */
export const suggestByName = (name: string, index: CategoryIndex): readonly Suggestion[] => {
  const goods = gatherGoods();
  goods.add(name);
  return suggest({ path: headOf(name), goods: goods.words(), neighbours: [], elsewhere: [] }, index);
};

/**
 * Where a product would go that stands apart from the others of its category: elsewhere than they do, and surely so.
 * A place beside theirs, or nearer or farther on the same branch, is not elsewhere.
 */
export const standsApart = (
  name: string,
  others: Category,
  index: CategoryIndex,
): readonly Suggestion[] | undefined => {
  const suggestions = suggestByName(name, index);
  const [best] = suggestions;
  if (best === undefined || best.confidence < APART) return undefined;
  const { category } = best;
  const isSameBranch =
    withAncestors(category).includes(others) ||
    withAncestors(others).includes(category) ||
    (category.parent !== undefined && category.parent === others.parent);
  return isSameBranch ? undefined : suggestions;
};
