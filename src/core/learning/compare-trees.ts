/** Categories of two versions, paired. */
import type { Category, CategoryTree } from "../channel/category-tree.js";
import { isSlip } from "../values/nearest.js";
import { fold } from "../values/text.js";
import type { DefinitionChange } from "./definition-change.js";
import { pairs, common } from "./pair-up.js";

/** A tree's categories by the one above them, in their order. */
interface Branches {
  below(code: string): readonly Category[];
  beside(category: Category): readonly Category[];
}

function branchesIn({ all }: CategoryTree): Branches {
  const byParent = new Map<string, Category[]>();
  for (const category of all) {
    const above = category.parent?.code ?? "";
    const own = byParent.get(above);
    if (own === undefined) byParent.set(above, [category]);
    else own.push(category);
  }
  const below = (code: string): readonly Category[] => byParent.get(code) ?? [];
  return { below, beside: ({ parent }) => below(parent?.code ?? "") };
}

const namesBelow = (branches: Branches, { code }: Category): readonly string[] =>
  branches.below(code).map(({ name }) => fold(name));

/** One of a parent's children went, and one came in its place. */
function isInPlaceOf(
  beside: readonly Category[],
  one: Category,
  besideNow: readonly Category[],
  other: Category,
): boolean {
  if (beside.length < 3 || beside.length !== besideNow.length) return false;
  const [at, now] = [beside.indexOf(one), besideNow.indexOf(other)];
  return (
    beside[at - 1]?.name === besideNow[now - 1]?.name && beside[at + 1]?.name === besideNow[now + 1]?.name
  );
}

const categoryLikeness = (was: Branches, is: Branches) => (one: Category, other: Category) => {
  const isSameName = fold(one.name) === fold(other.name);
  const isSameParent =
    one.parent?.code === other.parent?.code ||
    fold(one.parent?.path ?? "") === fold(other.parent?.path ?? "");
  let score = isSameName && isSameParent ? 0.97 : isSameName ? 0.75 : 0;
  if (!isSameName && isSameParent)
    score = isSlip(fold(one.name), fold(other.name)) ? 0.85 : common(one.name, other.name) >= 0.5 ? 0.72 : 0;
  const [own, others] = [namesBelow(was, one), new Set(namesBelow(is, other))];
  if (own.length > 1 && own.filter((name) => others.has(name)).length >= own.length * 0.6) score += 0.3;
  if (score === 0 && isSameParent && isInPlaceOf(was.beside(one), one, is.beside(other), other)) score = 0.62;
  return { score: Math.min(0.99, score), because: "" };
};

/** Two that are the same have their name, the one above, or what is below in common. */
const categoryKeys = (branches: Branches, category: Category): readonly string[] => [
  `=${fold(category.name)}`,
  `/${fold(category.parent?.path ?? "")}`,
  `:${category.parent?.code ?? ""}`,
  ...namesBelow(branches, category).map((name) => `>${name}`),
];

/** What became of the categories: gone, come, renamed, moved. */
export function treeChanges(before: CategoryTree, after: CategoryTree) {
  const changes: DefinitionChange[] = [];
  const renamed = new Map<string, string | undefined>();
  const gone: Category[] = [];
  for (const category of before.all) {
    const same = after.find(category.code);
    if (same === undefined) gone.push(category);
    else if (
      same.path !== category.path &&
      !(same.name === category.name && same.parent?.code === category.parent?.code)
    )
      changes.push({
        change: "category-moved",
        code: category.code,
        path: category.path,
        to: same.code,
        toPath: same.path,
        confidence: 1,
      });
  }
  const came = after.all.filter(({ code }) => before.find(code) === undefined);
  const left = gone.filter((category) => {
    const successor = after.retired(category.code)?.successor;
    if (successor === undefined) return true;
    changes.push({
      change: "category-moved",
      code: category.code,
      path: category.path,
      to: successor.code,
      toPath: successor.path,
      confidence: 1,
    });
    renamed.set(category.code, successor.code);
    return false;
  });
  const [was, is] = [branchesIn(before), branchesIn(after)];
  const found = pairs(left, came, categoryLikeness(was, is), (category, side) =>
    categoryKeys(side === "gone" ? was : is, category),
  );
  for (const { one, other, score } of found) {
    changes.push({
      change: "category-moved",
      code: one.code,
      path: one.path,
      to: other.code,
      toPath: other.path,
      confidence: score,
    });
    renamed.set(one.code, other.code);
  }
  const [from, to] = [new Set(found.map((pair) => pair.one)), new Set(found.map((pair) => pair.other))];
  for (const category of left.filter((one) => !from.has(one))) {
    changes.push({ change: "category-gone", code: category.code, path: category.path });
    renamed.set(category.code, undefined);
  }
  for (const { code, path } of came.filter((one) => !to.has(one)))
    changes.push({ change: "category-added", code, path });
  return { changes, renamed };
}
