/** Builds channels in one pass; all their files appear together, or none. */
import { join } from "node:path";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import type { WritableCatalogue } from "../open-catalogue.js";
import { buildChannel, type ChannelBuild } from "./build-channel.js";
import { buildInParts, joinBuilt } from "./build-in-parts.js";
import type { BuildWishes } from "./build-wishes.js";
import type { BuiltFile } from "./built-files.js";
import { landBuilds } from "./land-builds.js";

/** How a build is done, beside what is wished of it. */
export interface BuildRun {
  /** The folder that holds a folder for each channel. */
  readonly root: string;
  readonly dryRun: boolean;
  readonly workers: number | undefined;
  /** The folder of the parts that are to be joined; undefined where the catalogue is gone over. */
  readonly parts: string | undefined;
}

/** What came of one channel's build. */
export interface ChannelBuilt {
  readonly build: ChannelBuild;
  readonly files: readonly BuiltFile[];
  readonly folder: string;
}

/** Where a build's files go: what was chosen stands apart, so that it is never taken for the channel's whole file. */
export const folderOf = (root: string, channel: string, { kind }: Pick<BuildWishes, "kind">): string =>
  kind === "chosen" ? join(root, channel, "chosen") : join(root, channel);

/** Builds all channels in one pass; their files appear when all are whole. */
export async function buildAll(
  open: WritableCatalogue,
  channels: readonly WorkspaceChannel[],
  wishes: BuildWishes,
  { root, dryRun, workers, parts }: BuildRun,
): Promise<readonly ChannelBuilt[]> {
  const builds: ChannelBuild[] = [];
  try {
    for (const channel of channels)
      builds.push(await buildChannel(open, channel, folderOf(root, channel.setup.channel, wishes), wishes));
    if (parts === undefined) await buildInParts(open, builds, wishes, workers);
    else await joinBuilt(open, builds, wishes, parts);
    for (const one of builds) await one.withdraw();
    const landed = await landBuilds(open, builds, dryRun);
    return builds.map((build) => ({
      build,
      files: landed.get(build) ?? [],
      folder: folderOf(root, build.channel.setup.channel, wishes),
    }));
  } catch (error) {
    for (const one of builds) await one.discard();
    throw error;
  }
}
