import { pathParts } from "../values/category-path.js";
import { nearest } from "../values/nearest.js";
import type { Category, CategoryTree } from "./category-tree.js";

const SHOWN = 3;

/** The categories whose name is like the last part of a path: a hint, never a decision. */
export function nearByName({ all }: CategoryTree, path: string): readonly Category[] {
  const names = nearest(pathParts(path).at(-1) ?? path, new Set(all.map(({ name }) => name)), SHOWN);
  return names.flatMap((name) => all.filter((category) => category.name === name)).slice(0, SHOWN);
}

/** Codes like one that a person wrote. */
export function nearCodes({ all }: CategoryTree, code: string): readonly string[] {
  return nearest(
    code,
    all.map((category) => category.code),
    SHOWN,
  );
}

/** What a person can have meant who named a category that is not there: codes, or else what `shown` makes of names. */
export function nearCategories(
  tree: CategoryTree,
  wanted: string,
  shown: (category: Category) => string = ({ path }) => path,
): readonly string[] {
  const codes = nearCodes(tree, wanted);
  return codes.length > 0 ? codes : nearByName(tree, wanted).map(shown);
}
