/** Readiness of one stretch of the catalogue, as data. */
import type { ListedId } from "../../core/listing/check/listed-ids.js";
import {
  readinessTally,
  type ReadinessKind,
  type TalliedReadiness,
} from "../../core/listing/readiness/readiness-tally.js";
import type { Store } from "../../store/store.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { everything, type Choice } from "../choice/chosen.js";
import type { PartWork } from "../parts/in-parts.js";
import { channelPass, type ChannelRun } from "../run-channels.js";

/** What is counted together, as data. */
export interface ReadinessWork {
  readonly by: ReadinessKind;
}

/** How ready the listings of one stretch are. */
export interface ReadinessPart {
  readonly tallied: TalliedReadiness;
  /** Ids that are not the SKUs themselves, by channel. */
  readonly ids: readonly (readonly ListedId[])[];
}

/** Counts one stretch of the catalogue after the other. */
export async function readinessParts(
  { store }: { readonly store: Store },
  channels: readonly WorkspaceChannel[],
  { by, choice = everything }: ReadinessWork & { readonly choice?: Choice },
): Promise<PartWork<ReadinessPart>> {
  let tally = readinessTally(by);
  const runs = channels.map((channel): ChannelRun => ({
    channel,
    take: (outcome) => tally.take(channel.setup, outcome),
  }));
  const pass = await channelPass(store, runs, { choice });
  return async (range, before = []) => {
    tally = readinessTally(by);
    for (const [at, { setup }] of channels.entries()) setup.ids.begin(before[at]);
    await pass(store.families(range));
    return { tallied: tally.plain(), ids: channels.map(({ setup }) => setup.ids.all()) };
  };
}
