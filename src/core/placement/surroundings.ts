/** What stands around: neighbours that were placed, goods that go together. */
import { withAncestors, type Category } from "../channel/category-tree.js";
import { pathParts } from "../values/category-path.js";
import { greatest } from "../many.js";
import type { CategoryIndex, IndexedCategory } from "./category-index.js";
import { kinTo, likenessOf } from "./evidence.js";
import type { PlacesLike } from "./learned.js";
import type { Subject, Understood } from "./subject.js";
import { wordsOf } from "./words.js";

/** What speaks for a category beside its own words, each from 0 to 1: what stands by the side, and what was decided. */
export interface CategoryHints {
  /** Where neighbours were placed: beside them 1, on their branch less. */
  readonly beside: number;
  /** How like it is to what others call ours. */
  readonly elsewhere: number;
  /** How like ours is to what a person put there; how far it is called like that. */
  readonly confirmed: number;
  readonly called: number;
}

/** On the same branch, but not beside. */
const BRANCH = 0.6;
/** What lies beside a confirmed category is meant less. */
const SIBLING = 0.3;

/** What is around a subject, made ready once for all candidates. */
interface Around {
  readonly parents: ReadonlySet<Category | undefined>;
  readonly branches: ReadonlySet<Category>;
  /** Words of what others call it. */
  readonly names: readonly (readonly string[])[];
  readonly placed: PlacesLike;
}

/** What stands around a subject. */
export const aroundOf = ({ neighbours, elsewhere }: Subject, placed: PlacesLike): Around => ({
  parents: new Set(neighbours.flatMap(({ parent }) => parent ?? [])),
  branches: new Set(neighbours.flatMap((one) => withAncestors(one))),
  names: elsewhere.map((path) => wordsOf(pathParts(path).at(-1) ?? "")),
  placed,
});

function besideNeighbours(category: Category, { parents, branches }: Around): number {
  if (parents.has(category.parent)) return 1;
  for (let up = category.parent; up !== undefined; up = up.parent) if (branches.has(up)) return BRANCH;
  return 0;
}

function elsewhereTo(
  { names }: Around,
  ours: Understood,
  candidate: IndexedCategory,
  index: CategoryIndex,
): number {
  if (names.length === 0) return 0;
  const { same, wider, narrower } = kinTo(ours.elsewhere, candidate.named, index);
  const words = greatest(
    names.map((words) => likenessOf(words, candidate.name, index)),
    0,
  );
  return Math.min(1, Math.max(words, same + wider + 0.5 * narrower));
}

/** What of it speaks for one category. */
export function surroundingsOf(
  around: Around,
  ours: Understood,
  candidate: IndexedCategory,
  index: CategoryIndex,
): CategoryHints {
  const { category } = candidate;
  const { goods, names } = around.placed;
  let put = goods.get(category) ?? 0;
  if (put === 0 && category.parent !== undefined)
    for (const [other, alike] of goods)
      if (other.parent === category.parent) put = Math.max(put, alike * SIBLING);
  return {
    beside: besideNeighbours(category, around),
    elsewhere: elsewhereTo(around, ours, candidate, index),
    confirmed: put,
    called: names.get(category) ?? 0,
  };
}
