/** Products that stand apart from their category: placed by their own names. */
import { withAncestors, type Category } from "../channel/category-tree.js";
import type { CategoryIndex } from "./category-index.js";
import { kinTo } from "./evidence.js";
import { confirmedAs, Learned } from "./learned.js";
import { understand, type Understood } from "./subject.js";
import { suggest, suggestFor, type Suggested } from "./suggest.js";

/** From here on a product's own name is believed against the category that it stands in. */
export const APART = 0.85;

/** Where its category stands speaks against it: nobody is to take it without a look. */
const NEVER_SURE = 0.89;

/** What a name says a product is: its words before what it has, is for, or comes in. */
export function headOf(name: string): string {
  return (
    name
      .split(/,| with | for | in |\(| – /i)[0]
      ?.trim()
      .replace(/\s+/g, " ") ?? ""
  );
}

/** Where a product without a category would go, by its name alone. */
export const suggestByName = (name: string, index: CategoryIndex): Suggested =>
  suggest({ path: "", names: [name], neighbours: [], elsewhere: [] }, index);

/** From here on a product is of the kind that its place names, and nobody needs to look elsewhere. */
const OF_KIND = 0.3;

/** Whether a product is what its category's place names, or nothing that is known: then it does not stand apart. */
function isOfKind(ours: Understood, place: Category, index: CategoryIndex): boolean {
  const placed = index.all[index.positionOf(place)];
  if (placed === undefined || ours.products.size === 0) return true;
  const { same, wider, narrower, near } = kinTo(ours.products, [...placed.named, ...placed.soughtBy], index);
  return same + wider + narrower + near >= OF_KIND;
}

/**
 * Where a product would go that stands apart from the others of its category: elsewhere than they do, and surely so, though
 * where they stand speaks for it as well; it is never called sure. A place beside theirs, or nearer or farther on the same branch, is not elsewhere.
 */
export function standsApart(
  { name, path }: { readonly name: string; readonly path: string },
  others: Category,
  index: CategoryIndex,
): Suggested | undefined {
  const subject = { path, names: [name], neighbours: [], elsewhere: [] };
  const ours = understand(subject, index);
  if (isOfKind(ours, others, index)) return undefined;
  const suggested = suggestFor(subject, ours, index, {
    // Where they stand speaks for it as goods of its kind would; that it is called as itself says nothing.
    learned: new Learned([{ ...confirmedAs(ours, others), calledBy: [] }], index),
  });
  const [best] = suggested.suggestions;
  if (best === undefined || best.confidence < APART) return undefined;
  const { category } = best;
  const isSameBranch =
    withAncestors(category).includes(others) ||
    withAncestors(others).includes(category) ||
    (category.parent !== undefined && category.parent === others.parent);
  if (isSameBranch) return undefined;
  return {
    ...suggested,
    suggestions: suggested.suggestions.map((one) => ({
      ...one,
      confidence: Math.min(NEVER_SURE, one.confidence),
    })),
  };
}
