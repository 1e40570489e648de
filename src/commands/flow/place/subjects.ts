import { pathParts, pathText, selfAndAbove } from "../../../core/catalogue/category-path.js";
import { textOf } from "../../../core/catalogue/product.js";
import type { Category, RetiredCategory } from "../../../core/channel/category-tree.js";
import type { ChannelSetup } from "../../../core/listing/channel-setup.js";
import { select } from "../../../core/listing/select.js";
import { gatherGoods, type Goods } from "../../../core/placement/goods.js";
import type { Placement } from "../../../core/placement/placements.js";
import type { Subject } from "../../../core/placement/suggest.js";
import type { Store } from "../../../store/store.js";

/** One of our categories on a channel: where it goes by now, and how many products wait for that. */
export interface OurCategory {
  readonly path: string;
  readonly products: number;
  readonly goods: Goods;
  readonly placement: Placement | undefined;
}

/** Our categories with products that the channel is to get, most products first. */
export const ourCategories = async (store: Store, setup: ChannelSetup): Promise<readonly OurCategory[]> => {
  const found = new Map<string, Goods>();
  for await (const batch of store.families())
    for (const family of batch)
      for (const product of family.membersOn(setup.channel)) {
        const category = textOf(product, "category");
        if (category === undefined || !select(product, setup)) continue;
        const path = pathText(pathParts(category));
        const goods = found.get(path) ?? gatherGoods();
        found.set(path, goods);
        goods.add(textOf(product, "name") ?? "");
      }
  return [...found]
    .map(([path, goods]) => ({
      path,
      goods,
      products: goods.products,
      placement: setup.placements.find("", path),
    }))
    .sort((a, b) => b.products - a.products || (a.path < b.path ? -1 : 1));
};

const categoryOf = (placement: Placement | undefined): readonly Category[] =>
  placement?.to.kind === "category" ? [placement.to.category] : [];

/** What is known around one of our categories: placements of its siblings and of what stands above it. */
export const subjectOf = (
  { path, goods }: OurCategory,
  all: readonly OurCategory[],
  elsewhere: readonly string[],
): Subject => {
  const [, parent = ""] = selfAndAbove(path);
  const siblings =
    parent === "" ? [] : all.filter((other) => other.path !== path && other.path.startsWith(`${parent} > `));
  return {
    path,
    goods: goods.words(),
    neighbours: siblings.flatMap(({ placement }) => categoryOf(placement)),
    elsewhere,
  };
};

/** A category that was placed in one that the channel has retired since. */
export type OutOfDate = OurCategory & { readonly retired: RetiredCategory };

export const outOfDate = (all: readonly OurCategory[]): readonly OutOfDate[] =>
  all.flatMap((category) =>
    category.placement?.to.kind === "retired" ? [{ ...category, retired: category.placement.to }] : [],
  );

export const isOpen = ({ placement }: OurCategory): boolean => placement === undefined;
