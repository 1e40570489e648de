import { readinessTally, type ReadinessTally } from "../../core/listing/readiness/readiness-tally.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import type { Choice } from "../choice/chosen.js";
import type { OpenCatalogue } from "../open-catalogue.js";
import { inParts } from "../parts/in-parts.js";
import { spreadOver } from "../parts/spread.js";
import { namesOf } from "../run-channels.js";
import { readinessParts, type ReadinessPart, type ReadinessWork } from "./readiness-parts.js";

export interface ReadinessWishes extends ReadinessWork {
  readonly choice: Choice;
  /** Threads that work at once; as many as the machine has cores, where nothing is said. */
  readonly workers: number | undefined;
}

/** Counts how ready the products that are meant are, on all channels in one pass. */
export const measureReadiness = async (
  open: OpenCatalogue,
  channels: readonly WorkspaceChannel[],
  { by, choice, workers }: ReadinessWishes,
): Promise<ReadinessTally> => {
  const { store, workspace, surroundings } = open;
  const work: ReadinessWork = { by };
  const tally = readinessTally(by);
  await inParts<ReadinessPart>({
    ...(await spreadOver(store, choice.isAll ? workers : 1, channels.length)),
    seen: await store.hold(),
    recipe: {
      ...{ work: "readiness", root: workspace.root, wishes: work },
      ...{ today: (await surroundings()).today.iso, channels: namesOf(channels) },
    },
    here: () => readinessParts(open, channels, { ...work, choice }),
    idsOf: ({ ids }) => ids,
    join: ({ tallied }) => tally.join(tallied),
  });
  choice.refuseNothing();
  return tally;
};
