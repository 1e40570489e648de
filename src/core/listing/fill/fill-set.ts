/** Which fill is whose: blocks for all, for categories, for products; the nearest wins, field by field. */
import { isUnder, pathParts } from "../../values/category-path.js";
import { withAncestors, type Category } from "../../channel/category-tree.js";
import type { Field } from "../../channel/field.js";
import type { CategoryCode } from "../../ids.js";
import type { ReadyProgram } from "../../language/program.js";

/** The expression that fills a field, with its place in the person's file. */
export interface Fill {
  readonly field: Field;
  readonly program: ReadyProgram;
  /** The farther fill that this one stands in for, where there is one. */
  readonly usual?: Fill;
}

/** A block of `fills.yaml`: for all products, for one of our categories or the channel's and all below it, or for some products. */
export type FillBlock = { readonly fills: readonly Fill[] } & (
  | { readonly scope: "all" }
  | { readonly scope: "our-category"; readonly path: string }
  | { readonly scope: "channel-category"; readonly code: CategoryCode }
  | { readonly scope: "products"; readonly skus: ReadonlySet<string> }
);

// A block for the channel's category speaks of what is demanded there: nearer than any of our own categories.
const CHANNEL_RANK = 1000;
// Nothing is nearer than a product that is named.
const PRODUCTS_RANK = 2000;

interface FilledFor {
  readonly ancestors: ReadonlyMap<string, number>;
  readonly ourCategory: string;
  readonly sku: string;
}

function rank(block: FillBlock, { ancestors, ourCategory, sku }: FilledFor): number | undefined {
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
    case "products":
      return block.skus.has(sku) ? PRODUCTS_RANK : undefined;
  }
}

/** The fill of each field by slot for a product of one of our categories, placed in one of the channel's; nearer over farther. */
export function fillsFor(
  blocks: readonly FillBlock[],
  category: Category,
  ourCategory: string,
  sku: string,
): readonly (Fill | undefined)[] {
  const ancestors = new Map<string, number>(
    [...withAncestors(category)].reverse().map(({ code }, depth) => [code, depth]),
  );
  const ranked = blocks
    .flatMap((block) => {
      const own = rank(block, { ancestors, ourCategory, sku });
      return own === undefined ? [] : [{ block, rank: own }];
    })
    .sort((a, b) => a.rank - b.rank);
  const fills: (Fill | undefined)[] = [];
  for (const { block } of ranked)
    for (const fill of block.fills) {
      const usual = fills[fill.field.slot];
      fills[fill.field.slot] = usual === undefined ? fill : { ...fill, usual };
    }
  return fills;
}

/** The blocks that name a product; products that none names share the plan of their categories. */
export function blocksNaming(blocks: readonly FillBlock[], sku: string): string {
  let named = "";
  blocks.forEach((block, index) => {
    if (block.scope === "products" && block.skus.has(sku)) named += ` ${index}`;
  });
  return named;
}
