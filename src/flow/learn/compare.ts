/** Two versions of a channel beside each other, and what the second would do to the shop. */
import { cp, mkdir, mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { causeCollector, type CauseCollector } from "../../core/diagnostics/causes.js";
import type { Surroundings } from "../../core/language/function.js";
import { compareDefinitions, type Comparison } from "../../core/learning/compare-definitions.js";
import { listingOf, productOf, type Outcome } from "../../core/listing/listing.js";
import { loadChannel as loadChannelFiles, type WorkspaceChannel } from "../../workspace/channel-files.js";
import type { Workspace } from "../../workspace/workspace.js";
import { existsSync } from "node:fs";
import type { OpenCatalogue } from "../open-catalogue.js";
import { loadChannel, runChannels } from "../run-channels.js";
import { carriedFilesOf, type CarriedFiles } from "./carry.js";
import { versionNamed, type DefinitionVersion } from "./versions.js";

/** What a new version does to the shop, product by product. */
export interface ShopEffect {
  readonly readyBefore: number;
  readonly readyAfter: number;
  /** Products that are ready now and would be held. */
  readonly lost: number;
  readonly gained: number;
  /** Why those that are lost would be held. */
  readonly causes: CauseCollector;
  /** Products whose category is gone. */
  readonly homeless: number;
}

/** Two versions, with what the second would do. */
export interface VersionsCompared extends Comparison {
  readonly before: DefinitionVersion;
  readonly after: DefinitionVersion;
  /** Undefined where the channel is not in use here, or OLD is not the version in use. */
  readonly shop: { readonly carried: CarriedFiles; readonly effect: ShopEffect } | undefined;
}

/** Holds two versions of a channel against each other, and looks what the second would do to the shop. */
export async function compareVersions(
  { workspace, store, surroundings }: OpenCatalogue,
  channel: string,
  [old, next]: readonly [string, string],
): Promise<VersionsCompared> {
  const around = await surroundings();
  const before = await versionNamed(workspace.root, channel, old, around);
  const after = await versionNamed(workspace.root, channel, next, around);
  const comparison = compareDefinitions(before.definition, after.definition);
  if (!before.isCurrent || !workspace.channelsInUse.includes(channel))
    return { ...comparison, before, after, shop: undefined };
  const own = await loadChannel(workspace, store, channel, around);
  const attributes = await store.attributes();
  const carried = await carriedFilesOf(workspace, channel, {
    before: before.definition,
    after: after.definition,
    renamings: comparison.renamings,
    attributes,
  });
  const tried = await channelAsCarried(workspace, own, after, carried, { store, around });
  const effect = await effectOf(store, own, tried, comparison);
  return { ...comparison, before, after, shop: { carried, effect } };
}

/** The channel as it would be with the new version, loaded from a copy of its files. */
async function channelAsCarried(
  workspace: Workspace,
  own: WorkspaceChannel,
  after: DefinitionVersion,
  carried: CarriedFiles,
  { store, around }: { readonly store: OpenCatalogue["store"]; readonly around: Surroundings },
): Promise<WorkspaceChannel> {
  const { channel } = own.setup;
  const root = await mkdtemp(join(tmpdir(), "lexicant-compare-"));
  try {
    const folder = join(root, "channels", channel);
    await mkdir(folder, { recursive: true });
    const lists = workspace.path("channels", channel);
    if (existsSync(lists)) await cp(lists, folder, { recursive: true });
    for (const [name, { bytes }] of carried) await writeFile(join(folder, name), bytes);
    const loaded = await loadChannelFiles(
      { ...workspace, root, path: (...names: readonly string[]) => join(root, ...names) },
      channel,
      [{ ...after.folder, channel: own.setup.definition.channel }],
      await store.attributes(),
      around,
    );
    return {
      ...loaded,
      recall: own.recall,
      setup: { ...loaded.setup, barcodeTwins: own.setup.barcodeTwins },
    };
  } finally {
    await rm(root, { recursive: true, force: true });
  }
}

async function effectOf(
  store: OpenCatalogue["store"],
  own: WorkspaceChannel,
  tried: WorkspaceChannel,
  { renamings }: Comparison,
): Promise<ShopEffect> {
  const causes = causeCollector();
  let [readyBefore, readyAfter, lost, gained, homeless] = [0, 0, 0, 0, 0];
  // Both runs take a family's products in the same order, the old version first.
  const wasReady = new Map<string, boolean>();
  const gone = new Set([...renamings.categories].flatMap(([code, to]) => (to === undefined ? [code] : [])));
  await runChannels(store, [
    {
      channel: own,
      take(outcome) {
        const { sku } = productOf(outcome);
        const isReady = outcome.kind === "ready";
        if (isReady) readyBefore++;
        wasReady.set(sku, isReady);
        if (gone.has(categoryOf(outcome))) homeless++;
      },
    },
    {
      channel: tried,
      take(outcome) {
        const { sku } = productOf(outcome);
        const before = wasReady.get(sku);
        wasReady.delete(sku);
        if (outcome.kind === "ready") {
          readyAfter++;
          if (before === false) gained++;
        } else if (before === true) {
          lost++;
          causes.addAll(outcome.findings.filter(({ severity }) => severity === "error"));
        }
      },
    },
  ]);
  return { readyBefore, readyAfter, lost, gained, causes, homeless };
}

const categoryOf = (outcome: Outcome): string => listingOf(outcome)?.plan.rules.category.code ?? "";
