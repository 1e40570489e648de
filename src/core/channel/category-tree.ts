/** A channel's categories as a tree: found by code, path or name, with those that earlier versions had. */
import { pathParts, pathText } from "../values/category-path.js";
import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import { nearest } from "../values/nearest.js";
import type { Place } from "../diagnostics/place.js";
import { asCategoryCode, type CategoryCode } from "../ids.js";
import { fold } from "../values/text.js";

/** One row of a definition's `categories.csv`, as read. */
export interface CategoryRow {
  readonly code: string;
  readonly parent: string;
  readonly name: string;
  readonly searchWords: string;
  /** Names in the channel's other languages. */
  readonly otherNames: readonly string[];
  /** Whether it only holds others and takes no listings. */
  readonly isClosed: boolean;
  readonly place: Place;
}

/** A code that an earlier version had, with the one that takes its place. */
export interface RetiredRow {
  readonly code: string;
  readonly successor: string;
  readonly since: string;
  readonly place: Place;
}

/** A category of an earlier version. */
export interface RetiredCategory {
  readonly code: string;
  readonly successor: Category | undefined;
  /** The version that retired it. */
  readonly since: string;
}

/** A category of the channel's. */
export interface Category {
  readonly code: CategoryCode;
  readonly name: string;
  readonly parent: Category | undefined;
  /** Names from the root, as the channel writes a path: `Garden > Tools`. */
  readonly path: string;
  readonly searchWords: readonly string[];
  readonly otherNames: readonly string[];
  readonly hasChildren: boolean;
  /** Whether it takes listings. */
  readonly isOpen: boolean;
}

/** A channel's categories, found by code, path or what became of them. */
export interface CategoryTree {
  /** In the order of the definition. */
  readonly all: readonly Category[];
  find(code: string): Category | undefined;
  /** The category that a person named by code or by path, in any case and spacing. */
  named(codeOrPath: string): Category | undefined;
  /** What became of a code that the tree no longer has. */
  retired(code: string): RetiredCategory | undefined;
}

/** The category and each one above it, nearest first. */
export const withAncestors = (category: Category): readonly Category[] =>
  category.parent === undefined ? [category] : [category, ...withAncestors(category.parent)];

interface BuiltTree {
  readonly tree: CategoryTree;
  readonly findings: readonly Diagnostic[];
}

/** Trees of shops are six levels deep, and none is as deep as this. */
const DEPTH_LIMIT = 60;

/** Builds the tree from its rows; reports double codes, orphans and cycles, all at once. */
export function buildTree(rows: readonly CategoryRow[], retired: readonly RetiredRow[] = []): BuiltTree {
  const findings: Diagnostic[] = [];
  const byCode = new Map<string, CategoryRow>();
  for (const row of rows) {
    if (byCode.has(row.code))
      findings.push(diagnostic("repeated-category", { category: row.code }, { place: row.place }));
    else byCode.set(row.code, row);
  }
  const parents = new Set(rows.map(({ parent }) => parent));
  const built = new Map<string, Category>();
  const depths = new Map<Category, number>();
  let isTold = false;
  const tellTooDeep = ({ code, place }: CategoryRow): void => {
    if (!isTold)
      findings.push(diagnostic("category-too-deep", { category: code, limit: DEPTH_LIMIT }, { place }));
    isTold = true;
  };
  const build = (row: CategoryRow, above: readonly string[]): Category | undefined => {
    const known = built.get(row.code);
    if (known !== undefined) return known;
    if (above.includes(row.code)) {
      findings.push(diagnostic("category-cycle", { categories: [...above, row.code] }, { place: row.place }));
      return undefined;
    }
    if (above.length > DEPTH_LIMIT) {
      tellTooDeep(row);
      return undefined;
    }
    const parentRow = row.parent === "" ? undefined : byCode.get(row.parent);
    if (row.parent !== "" && parentRow === undefined)
      findings.push(
        diagnostic("orphan-category", { category: row.code, parent: row.parent }, { place: row.place }),
      );
    const parent = parentRow === undefined ? undefined : build(parentRow, [...above, row.code]);
    const depth = parent === undefined ? 1 : (depths.get(parent) ?? 0) + 1;
    if (depth > DEPTH_LIMIT) {
      tellTooDeep(row);
      return undefined;
    }
    // What stands below one that was too deep is told by it.
    if (isTold && parentRow !== undefined && parent === undefined) return undefined;
    const category: Category = {
      code: asCategoryCode(row.code),
      name: row.name,
      parent,
      path: parent === undefined ? row.name : `${parent.path} > ${row.name}`,
      searchWords: row.searchWords
        .split(";")
        .map((word) => word.trim())
        .filter(Boolean)
        .concat(row.otherNames),
      otherNames: row.otherNames,
      hasChildren: parents.has(row.code),
      isOpen: !row.isClosed,
    };
    built.set(row.code, category);
    depths.set(category, depth);
    return category;
  };
  for (const row of byCode.values()) build(row, []);
  for (const { code, successor, place } of retired) {
    if (byCode.has(code)) findings.push(diagnostic("repeated-category", { category: code }, { place }));
    if (successor !== "" && !byCode.has(successor)) {
      const close = nearest(successor, byCode.keys());
      findings.push(diagnostic("unknown-category", { category: successor, nearest: close }, { place }));
    }
  }
  return { tree: treeOf([...built.values()], retired), findings };
}

function treeOf(categories: readonly Category[], retired: readonly RetiredRow[]): CategoryTree {
  const gone = new Map(retired.map((row) => [row.code, row]));
  const byCode = new Map<string, Category>(categories.map((category) => [category.code, category]));
  let byName: Map<string, Category> | undefined;
  const nameKey = (path: string): string => pathText(pathParts(path).map(fold));
  return {
    all: categories,
    find: (code) => byCode.get(code),
    retired(code) {
      const row = gone.get(code);
      return row === undefined ? undefined : { code, successor: byCode.get(row.successor), since: row.since };
    },
    named(codeOrPath) {
      const direct = byCode.get(codeOrPath);
      if (direct !== undefined) return direct;
      byName ??= new Map(categories.map((category) => [nameKey(category.path), category]));
      return byName.get(nameKey(codeOrPath));
    },
  };
}
