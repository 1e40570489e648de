import type { ChannelSetup } from "../../core/listing/channel-setup.js";
import { headOf, standsApart, suggestByName } from "../../core/placement/apart.js";
import { categoryIndex } from "../../core/placement/category-index.js";
import { suggest, type Suggestion } from "../../core/placement/suggest.js";
import type { Store } from "../../store/store.js";
import type { Workspace } from "../../workspace/workspace.js";
import type { Surroundings } from "../../core/language/function.js";
import { loadChannels } from "../run-channels.js";
import { isOpen, subjectOf, type Ours, type OurCategory, type OurProducts } from "./subjects.js";

/** Where one of our categories, or products apart from theirs, would go; best first. */
export interface Proposal {
  readonly ours: OurCategory | OurProducts;
  readonly suggestions: readonly Suggestion[];
}

export const skusOf = (ours: Proposal["ours"]): readonly string[] => ("skus" in ours ? ours.skus : []);

export const productsOf = (ours: Proposal["ours"]): number =>
  "skus" in ours ? ours.skus.length : ours.products;

export const titleOf = (ours: Proposal["ours"]): string =>
  "skus" in ours
    ? `${ours.skus[0] ?? ""} ${headOf(ours.name)}${ours.path === "" ? "" : `, of ${ours.path}`}`
    : ours.path;

/** What --set names it by. */
export const keyOf = (proposal: Proposal | undefined): string =>
  proposal === undefined ? "" : (skusOf(proposal.ours)[0] ?? proposal.ours.path);

/** Proposes for all categories that are open, for products apart from theirs, and for those that have none. */
export const propose = async (
  workspace: Workspace,
  store: Store,
  setup: ChannelSetup,
  { categories: all, products }: Ours,
  surroundings: Surroundings,
): Promise<readonly Proposal[]> => {
  const others = workspace.channelsInUse.filter((name) => name !== setup.channel);
  const elsewhere = others.length === 0 ? [] : await loadChannels(workspace, store, others, surroundings);
  const index = categoryIndex(setup.definition.tree);
  const byCategory = all.filter(isOpen).map((ours) => {
    const paths = elsewhere.flatMap((other) => {
      const to = other.setup.placements.find("", ours.path)?.to;
      return to?.kind === "category" ? [to.category.path] : [];
    });
    return { ours, suggestions: suggest(subjectOf(ours, all, paths), index) };
  });
  const standing = new Map(
    all.flatMap(({ path, placement }) =>
      placement?.to.kind === "category" ? [[path, placement.to.category] as const] : [],
    ),
  );
  for (const { ours, suggestions } of byCategory)
    if (suggestions[0] !== undefined) standing.set(ours.path, suggestions[0].category);
  const byProduct = products.flatMap((ours) => {
    const mates = standing.get(ours.path);
    const suggestions =
      ours.path === ""
        ? suggestByName(ours.name, index)
        : mates === undefined
          ? undefined
          : standsApart(ours.name, mates, index);
    return suggestions === undefined ? [] : [{ ours, suggestions }];
  });
  return [...byCategory, ...byProduct];
};
