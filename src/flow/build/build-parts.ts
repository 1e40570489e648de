import type { Workspace } from "../../workspace/workspace.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import type { Store } from "../../store/store.js";
import { everything, type Choice } from "../choice/chosen.js";
import type { PartWork } from "../parts/in-parts.js";
import { channelPass } from "../run-channels.js";
import { accountFacts } from "./account-facts.js";
import type { BuildWishes } from "./build-wishes.js";
import { confirmedOn } from "./confirmed-prices.js";
import { partBuild, type BuiltPart } from "./part-build.js";

/** What a build wishes of each product, as data; of a choice of products there is none. */
export type BuildWork = Omit<BuildWishes, "choice"> & { readonly choice?: Choice | undefined };

/** The bytes of laid-out families: of nothing else in a piece is there much. */
export const memoryOfBuilt = (parts: readonly BuiltPart[]): readonly ArrayBuffer[] =>
  parts.flatMap(({ pieces }) =>
    pieces.flatMap((piece) => (piece.kind === "text" ? [piece.bytes.buffer] : [])),
  );

/** Builds each channel's share of one stretch of the catalogue after the other; gives them in the order of the channels. */
export const buildParts = async (
  { workspace, store }: { readonly workspace: Workspace; readonly store: Store },
  channels: readonly WorkspaceChannel[],
  work: BuildWork,
): Promise<PartWork<readonly BuiltPart[]>> => {
  const wishes: BuildWishes = { ...work, choice: work.choice ?? everything };
  const builds = channels
    .map((channel) => confirmedOn(channel, wishes.confirmedPrices))
    .map((channel) => partBuild(channel, accountFacts(workspace, channel), wishes));
  const pass = await channelPass(store, builds, { choice: wishes.choice });
  return async (range, before = []) => {
    for (const [at, { setup }] of channels.entries()) setup.ids.begin(before[at]);
    await pass(store.families(range));
    return builds.map((build) => build.end());
  };
};
