/** Our categories with what helps to place them, and how many products wait. */
import { pathParts, pathText, selfAndAbove } from "../../core/values/category-path.js";
import { textOf } from "../../core/catalogue/product.js";
import type { Category, RetiredCategory } from "../../core/channel/category-tree.js";
import type { ChannelSetup } from "../../core/listing/channel-setup.js";
import { leftOutBecause } from "../../core/listing/select/select.js";
import type { Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { headOf } from "../../core/placement/apart.js";
import { gatherGoods, type ShopGoods } from "../../core/placement/shop-goods.js";
import type { Placement } from "../../core/placement/placements.js";
import type { Subject } from "../../core/placement/subject.js";
import type { Store } from "../../store/store.js";
import { idleDecisions } from "../idle-decisions.js";

/** One of our categories on a channel: where it goes by now, and how many products wait for that. */
export interface OurCategory {
  readonly path: string;
  readonly products: number;
  readonly goods: ShopGoods;
  readonly placement: Placement | undefined;
}

/** Products of one kind that have no decision of their own; blank path: they have no category either. */
export interface OurProducts {
  readonly path: string;
  readonly name: string;
  readonly skus: readonly string[];
}

/** Our side: categories, and products apart from them. */
export interface Ours {
  /** Most products first. */
  readonly categories: readonly OurCategory[];
  readonly products: readonly OurProducts[];
  /** Decisions about categories and products that are not there. */
  readonly idle: readonly Diagnostic[];
}

/** So many kinds of products are looked at one by one; in a larger catalogue the categories speak for them. */
const KINDS = 20_000;

/** Attributes that hold what somebody else calls a product's category: a maker, another channel. */
const otherCategories = async (store: Store): Promise<readonly string[]> =>
  (await store.attributes()).names.filter(
    (name) => name !== "category" && /categor|kategorie|warengruppe|taxonomy|rubrique/i.test(name),
  );

/** Our categories with products that the channel is to get, and the kinds of products in them. */
export async function ourCategories(store: Store, setup: ChannelSetup): Promise<Ours> {
  const found = new Map<string, ShopGoods>();
  const standing = new Set<string>();
  const others = await otherCategories(store);
  const kinds = new Map<string, { path: string; name: string; skus: string[] }>();
  for await (const batch of store.families())
    for (const family of batch)
      for (const product of family.membersOn(setup.channel)) {
        const own = textOf(product, "category");
        if (own !== undefined) standing.add(own);
        if (leftOutBecause(product, setup) !== undefined) continue;
        const path = pathText(pathParts(own ?? ""));
        const name = textOf(product, "name") ?? "";
        const goods = found.get(path) ?? gatherGoods();
        found.set(path, goods);
        goods.add(name, {
          description: () => textOf(product, "description"),
          told: () => others.flatMap((attribute) => textOf(product, attribute) ?? []),
        });
        if (name === "" || setup.placements.ofProduct(product.sku) !== undefined) continue;
        const key = `${path}\u0000${headOf(name)}`;
        const kind = kinds.get(key);
        if (kind !== undefined) kind.skus.push(product.sku);
        else if (kinds.size < KINDS) kinds.set(key, { path, name, skus: [product.sku] });
      }
  found.delete("");
  const categories = [...found]
    .map(([path, goods]) => ({
      path,
      goods,
      products: goods.products,
      placement: setup.placements.find("", path),
    }))
    .sort((a, b) => b.products - a.products || (a.path < b.path ? -1 : 1));
  const idle = await idleDecisions(store, setup, standing);
  return { categories, products: [...kinds.values()], idle };
}

const categoryOf = (placement: Placement | undefined): readonly Category[] =>
  placement?.to.kind === "category" ? [placement.to.category] : [];

/** What is known around one of our categories: placements of its siblings and of what stands above it. */
export function subjectOf(
  { path, goods }: OurCategory,
  all: readonly OurCategory[],
  elsewhere: readonly string[],
): Subject {
  const [, parent = ""] = selfAndAbove(path);
  const siblings =
    parent === "" ? [] : all.filter((other) => other.path !== path && other.path.startsWith(`${parent} > `));
  return {
    path,
    names: goods.names,
    descriptions: goods.descriptions,
    neighbours: siblings.flatMap(({ placement }) => categoryOf(placement)),
    elsewhere,
  };
}

/** A category that was placed in one that the channel has retired since. */
export type OutOfDate = OurCategory & { readonly retired: RetiredCategory };

/** Categories whose placement names a code that is no more. */
export function outOfDate(all: readonly OurCategory[]): readonly OutOfDate[] {
  return all.flatMap((category) =>
    category.placement?.to.kind === "retired" ? [{ ...category, retired: category.placement.to }] : [],
  );
}

/** Whether nothing is decided. */
export const isOpen = ({ placement }: OurCategory): boolean => placement === undefined;
