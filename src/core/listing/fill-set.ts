import { isUnder, pathParts } from "../catalogue/category-path.js";
import { withAncestors, type Category } from "../channel/category-tree.js";
import type { Field } from "../channel/field.js";
import type { CategoryCode } from "../ids.js";
import type { ReadyProgram } from "../language/program.js";

/** The expression that fills a field, with its place in the person's file. */
export interface Fill {
  readonly field: Field;
  readonly program: ReadyProgram;
}

/** A block of `fills.yaml`: for all products, one of our categories, or one of the channel's, and all below it. */
export type FillBlock = { readonly fills: readonly Fill[] } & (
  | { readonly scope: "all" }
  | { readonly scope: "our-category"; readonly path: string }
  | { readonly scope: "channel-category"; readonly code: CategoryCode }
);

const rank = (
  block: FillBlock,
  ancestors: ReadonlyMap<string, number>,
  ourCategory: string,
): number | undefined => {
  switch (block.scope) {
    case "all":
      return 0;
    case "our-category": {
      const own = pathParts(block.path);
      const startsThere = isUnder(pathParts(ourCategory).slice(0, own.length).join(" > "), block.path);
      return startsThere ? own.length : undefined;
    }
    case "channel-category": {
      const depth = ancestors.get(block.code);
      return depth === undefined ? undefined : CHANNEL_RANK + depth;
    }
  }
};

// A block for the channel's category speaks of what is demanded there: nearer than any of our own categories.
const CHANNEL_RANK = 1000;

/** The fill of each field by slot for products of one of our categories, placed in one of the channel's. */
export const fillsFor = (
  blocks: readonly FillBlock[],
  category: Category,
  ourCategory: string,
): readonly (Fill | undefined)[] => {
  const ancestors = new Map<string, number>(
    [...withAncestors(category)].reverse().map(({ code }, depth) => [code, depth]),
  );
  const ranked = blocks
    .flatMap((block) => {
      const own = rank(block, ancestors, ourCategory);
      return own === undefined ? [] : [{ block, rank: own }];
    })
    .sort((a, b) => a.rank - b.rank);
  const fills: (Fill | undefined)[] = [];
  for (const { block } of ranked) for (const fill of block.fills) fills[fill.field.slot] = fill;
  return fills;
};
