import { idsAreSkus } from "../../core/listing/check/id-register.js";
import { inParts } from "../parts/in-parts.js";
import { spreadOver } from "../parts/worker-count.js";
import type { OpenCatalogue } from "../open-catalogue.js";
import type { ChannelBuild } from "./build-channel.js";
import { buildParts } from "./build-parts.js";
import type { BuildWishes } from "./build-wishes.js";
import type { BuiltPart } from "./part-build.js";

/** What depends on all that came before, and so on one thread: a choice of products, so many listings at most, ids of the shop's own. */
const needsOrder = (builds: readonly ChannelBuild[], { choice, limit }: BuildWishes): boolean =>
  !choice.isAll || limit !== Infinity || builds.some(({ channel }) => !idsAreSkus(channel.setup));

/** Fills the channels' files with the catalogue, stretch by stretch. */
export const buildInParts = async (
  open: OpenCatalogue,
  builds: readonly ChannelBuild[],
  wishes: BuildWishes,
  workers: number | undefined,
): Promise<void> => {
  const { workspace, store } = open;
  const { choice, ...work } = wishes;
  const { today } = await open.surroundings();
  const seen = await store.hold();
  const channels = builds.map(({ channel }) => channel);
  await inParts<readonly BuiltPart[]>({
    ...(await spreadOver(store, needsOrder(builds, wishes) ? 1 : workers)),
    seen,
    recipe: {
      ...{ work: "build", root: workspace.root, today: today.iso, wishes: work },
      channels: channels.map(({ setup }) => setup.channel),
    },
    here: () => buildParts({ workspace, store }, channels, wishes),
    async join(parts) {
      for (const [at, part] of parts.entries()) await builds[at]?.join(part);
    },
  });
  choice.refuseNothing();
};
