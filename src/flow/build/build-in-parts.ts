import { inOrder, inParts, type InParts } from "../parts/in-parts.js";
import { spreadOver } from "../parts/spread.js";
import { workMark } from "../parts/work-mark.js";
import type { OpenCatalogue } from "../open-catalogue.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import type { FamilyRange } from "../../store/store.js";
import type { ChannelBuild } from "./build-channel.js";
import { buildParts, type BuildWork } from "./build-parts.js";
import type { BuildWishes } from "./build-wishes.js";
import type { BuiltPart } from "./part-build.js";
import { createPart, joinedParts, type PartNumber } from "./part-files.js";

/** What depends on all that came before, and so on one thread: a choice of products, so many listings at most. */
const needsOrder = ({ choice, limit }: BuildWishes): boolean => !choice.isAll || limit !== Infinity;

type Work = Omit<InParts<readonly BuiltPart[]>, "join" | "stretches" | "workers">;

const workOn = async (
  open: OpenCatalogue,
  channels: readonly WorkspaceChannel[],
  wishes: BuildWishes,
): Promise<Work> => {
  const { workspace, store } = open;
  // A choice is no data: where there is one, this thread works alone.
  const work: BuildWork = { ...wishes, choice: undefined };
  const { today } = await open.surroundings();
  return {
    seen: await store.hold(),
    recipe: {
      ...{ work: "build", root: workspace.root, today: today.iso, wishes: work },
      channels: channels.map(({ setup }) => setup.channel),
    },
    here: () => buildParts({ workspace, store }, channels, wishes),
    idsOf: (parts) => parts.map(({ ids }) => ids),
  };
};

const channelsOf = (builds: readonly ChannelBuild[]): readonly WorkspaceChannel[] =>
  builds.map(({ channel }) => channel);

const intoFiles =
  (builds: readonly ChannelBuild[]) =>
  async (parts: readonly BuiltPart[]): Promise<void> => {
    for (const [at, part] of parts.entries()) await builds[at]?.join(part);
  };

/** Fills the channels' files with the catalogue, stretch by stretch. */
export const buildInParts = async (
  open: OpenCatalogue,
  builds: readonly ChannelBuild[],
  wishes: BuildWishes,
  workers: number | undefined,
): Promise<void> => {
  await inParts({
    ...(await workOn(open, channelsOf(builds), wishes)),
    ...(await spreadOver(open.store, needsOrder(wishes) ? 1 : workers, builds.length)),
    join: intoFiles(builds),
  });
  wishes.choice.refuseNothing();
};

/** What a part's file must be of to be joined: the time of the build is that of the joining. */
const markOf = (
  { workspace }: OpenCatalogue,
  channels: readonly WorkspaceChannel[],
  { seen, recipe }: Work,
): string => {
  const { today, wishes } = recipe;
  return workMark(workspace, channels, { seen, today, wishes: { ...wishes, at: "", isTrial: false } });
};

/** Makes one part of a build, for {@link joinBuilt}; changes nothing of the workspace. Gives the file that holds it. */
export const buildPartFile = async (
  open: OpenCatalogue,
  channels: readonly WorkspaceChannel[],
  wishes: BuildWishes,
  {
    number,
    folder,
    workers,
  }: { readonly number: PartNumber; readonly folder: string; readonly workers: number | undefined },
): Promise<string> => {
  const work = await workOn(open, channels, { ...wishes, isTrial: false });
  const own: FamilyRange | undefined = (await open.store.stretches(number.of, Infinity))[number.part - 1];
  const file = await createPart(folder, number, markOf(open, channels, work));
  if (own !== undefined)
    await inParts({
      ...work,
      ...(await spreadOver(open.store, workers, channels.length, own)),
      // Whoever joins the parts knows the ids of all.
      idsOf: () => [],
      join: (made, range) => file.add({ range, made }),
    });
  return file.finish();
};

/** Fills the channels' files from the parts that lie in a folder. */
export const joinBuilt = async (
  open: OpenCatalogue,
  builds: readonly ChannelBuild[],
  wishes: BuildWishes,
  folder: string,
): Promise<void> => {
  const channels = channelsOf(builds);
  const work = await workOn(open, channels, wishes);
  const take = inOrder({ ...work, join: intoFiles(builds) });
  for await (const { range, made } of joinedParts(folder, markOf(open, channels, work)))
    await take(range, made);
};
