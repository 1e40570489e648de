import type { Category, CategoryTree } from "../channel/category-tree.js";
import { isSlip } from "../values/nearest.js";
import { fold } from "../values/text.js";
import type { DefinitionChange } from "./definition-change.js";
import { pairs, common } from "./pair-up.js";

const categoryLikeness = (before: CategoryTree, after: CategoryTree) => {
  const childrenOf = (tree: CategoryTree): ReadonlyMap<string, readonly string[]> => {
    const found = new Map<string, string[]>();
    for (const { parent, name } of tree.all)
      if (parent !== undefined) found.set(parent.code, [...(found.get(parent.code) ?? []), fold(name)]);
    return found;
  };
  const [was, is] = [childrenOf(before), childrenOf(after)];
  const siblings = (tree: CategoryTree, { parent }: Category): readonly Category[] =>
    tree.all.filter((one) => one.parent?.code === parent?.code);
  return (one: Category, other: Category) => {
    const isSameName = fold(one.name) === fold(other.name);
    const isSameParent =
      one.parent?.code === other.parent?.code ||
      fold(one.parent?.path ?? "") === fold(other.parent?.path ?? "");
    let score = isSameName && isSameParent ? 0.97 : isSameName ? 0.75 : 0;
    if (!isSameName && isSameParent)
      score = isSlip(fold(one.name), fold(other.name))
        ? 0.85
        : common(one.name, other.name) >= 0.5
          ? 0.72
          : 0;
    const [own, others] = [was.get(one.code) ?? [], new Set(is.get(other.code) ?? [])];
    if (own.length > 1 && own.filter((name) => others.has(name)).length >= own.length * 0.6) score += 0.3;
    // One of a parent's children went and one came in its place.
    if (score === 0 && isSameParent) {
      const [beside, besideNow] = [siblings(before, one), siblings(after, other)];
      const [at, now] = [beside.indexOf(one), besideNow.indexOf(other)];
      const isBetween =
        beside.length > 2 &&
        beside.length === besideNow.length &&
        beside[at - 1]?.name === besideNow[now - 1]?.name &&
        beside[at + 1]?.name === besideNow[now + 1]?.name;
      if (isBetween) score = 0.62;
    }
    return { score: Math.min(0.99, score), because: "" };
  };
};

export const treeChanges = (before: CategoryTree, after: CategoryTree) => {
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
  const found = pairs(left, came, categoryLikeness(before, after));
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
};
