import { readinessTally, type ReadinessTally } from "../../core/listing/readiness/readiness-tally.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import type { Choice } from "../choice/chosen.js";
import type { OpenCatalogue } from "../open-catalogue.js";
import { beginParts } from "../parts/begin-parts.js";
import { inParts } from "../parts/in-parts.js";
import { spreadOver } from "../parts/spread.js";
import { readinessParts, type ReadinessPart, type ReadinessWork } from "./readiness-parts.js";

/** What is counted, over which products. */
export interface ReadinessWishes extends ReadinessWork {
  readonly choice: Choice;
  /** Threads that work at once; as many as the machine has cores, where nothing is said. */
  readonly workers: number | undefined;
}

/** Counts how ready the products that are meant are, on all channels in one pass. */
export async function measureReadiness(
  open: OpenCatalogue,
  channels: readonly WorkspaceChannel[],
  { by, choice, workers }: ReadinessWishes,
): Promise<ReadinessTally> {
  const { store } = open;
  const work: ReadinessWork = { by };
  const tally = readinessTally(by);
  await inParts<ReadinessPart>({
    ...(await spreadOver(store, choice.isAll ? workers : 1, channels.length)),
    ...(await beginParts(open, channels, { work: "readiness", wishes: work })),
    here: () => readinessParts(open, channels, { ...work, choice }),
    idsOf: ({ ids }) => ids,
    join: ({ tallied }) => tally.join(tallied),
  });
  choice.refuseNothing();
  return tally;
}
