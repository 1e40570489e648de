/** Where our categories, and products apart from them, would go. */
import type { Category, CategoryTree } from "../../core/channel/category-tree.js";
import type { ChannelSetup } from "../../core/listing/channel-setup.js";
import { headOf, standsApart, suggestByName } from "../../core/placement/apart.js";
import type { CategoryIndex } from "../../core/placement/category-index.js";
import { understand } from "../../core/placement/subject.js";
import { suggest, type Suggested } from "../../core/placement/suggest.js";
import { confirmedAs, Learned } from "../../core/placement/learned.js";
import type { Surroundings } from "../../core/language/function.js";
import type { Store } from "../../store/store.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import type { Workspace } from "../../workspace/workspace.js";
import { loadChannels } from "../run-channels.js";
import { isOpen, subjectOf, type Ours, type OurCategory, type OurProducts } from "./subjects.js";

/** Where one of our categories, or products apart from theirs, would go; best first. */
export interface PlacementProposal extends Suggested {
  readonly ours: OurCategory | OurProducts;
}

/** The products of a proposal that stand apart. */
export const skusOf = (ours: PlacementProposal["ours"]): readonly string[] =>
  "skus" in ours ? ours.skus : [];

/** How many products wait for it. */
export const productsOf = (ours: PlacementProposal["ours"]): number =>
  "skus" in ours ? ours.skus.length : ours.products;

/** What it is about, in words. */
export function titleOf(ours: PlacementProposal["ours"]): string {
  return "skus" in ours
    ? `${ours.skus[0] ?? ""} ${headOf(ours.name)}${ours.path === "" ? "" : `, of ${ours.path}`}`
    : ours.path;
}

/** What --set names it by. */
export const keyOf = (proposal: PlacementProposal | undefined): string =>
  proposal === undefined ? "" : (skusOf(proposal.ours)[0] ?? proposal.ours.path);

/** From here on the tree has no place for something rather than the one that is proposed. */
const FITS_NOWHERE = 0.5;

/** Whether nothing of the tree fits, as far as that can be told. */
export const fitsNowhere = ({ suggestions: [best], nothing }: Suggested): boolean =>
  nothing >= FITS_NOWHERE && nothing > (best?.confidence ?? 0);

/** Below this it is as good as unknown what things are. */
const HARDLY_KNOWN = 0.45;

/** Whether nothing fits because nobody knows what the things are, so that the channel may have a place for all that. */
export const isUnknown = (suggested: Suggested): boolean =>
  fitsNowhere(suggested) && suggested.goodsKnown < HARDLY_KNOWN;

/** Where the same category of ours stands on other channels, and what makers or other channels call its products' category. */
const elsewhereOf = (
  { path, goods }: OurCategory,
  others: readonly WorkspaceChannel[],
  trees: readonly CategoryTree[],
): readonly string[] => [
  ...others.flatMap(({ setup }) => {
    const to = setup.placements.find("", path)?.to;
    return to?.kind === "category" ? [to.category.path] : [];
  }),
  // A code or a path of a tree at hand stands for its category; any other text for itself.
  ...goods.told.map((told) => trees.flatMap((tree) => tree.named(told)?.path ?? [])[0] ?? told),
];

/** What a person has placed by now: what it is, and where it went. */
const learnedFrom = (all: readonly OurCategory[], index: CategoryIndex): Learned =>
  new Learned(
    all.flatMap((ours) =>
      ours.placement?.to.kind === "category"
        ? [confirmedAs(understand(subjectOf(ours, [], []), index), ours.placement.to.category)]
        : [],
    ),
    index,
  );

/** Proposes for all categories that are open, for products apart from theirs, and for those that have none. */
export async function propose(
  workspace: Workspace,
  store: Store,
  setup: ChannelSetup,
  { categories: all, products }: Ours,
  index: CategoryIndex,
  surroundings: Surroundings,
): Promise<readonly PlacementProposal[]> {
  const names = workspace.channelsInUse.filter((name) => name !== setup.channel);
  const others = names.length === 0 ? [] : await loadChannels(workspace, store, names, surroundings);
  const trees = [setup, ...others.map((other) => other.setup)].map(({ definition }) => definition.tree);
  const open = all.filter(isOpen);
  // What is placed is read as long as something waits for it.
  const learned = learnedFrom(open.length === 0 ? [] : all, index);
  const byCategory = open.map((ours): PlacementProposal => {
    const subject = subjectOf(ours, all, elsewhereOf(ours, others, trees));
    return { ours, ...suggest(subject, index, { learned }) };
  });
  const standing = new Map<string, Category>(
    all.flatMap(({ path, placement }) =>
      placement?.to.kind === "category" ? [[path, placement.to.category] as const] : [],
    ),
  );
  for (const { ours, suggestions } of byCategory)
    if (suggestions[0] !== undefined) standing.set(ours.path, suggestions[0].category);
  const byProduct = products.flatMap((ours): readonly PlacementProposal[] => {
    const mates = standing.get(ours.path);
    const suggested =
      ours.path === ""
        ? suggestByName(ours.name, index)
        : mates === undefined
          ? undefined
          : standsApart(ours, mates, index);
    return suggested === undefined ? [] : [{ ours, ...suggested }];
  });
  return [...byCategory, ...byProduct];
}
