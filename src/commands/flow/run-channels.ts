import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { pipelineFor } from "../../core/listing/pipeline.js";
import type { Listing, Outcome } from "../../core/listing/listing.js";
import type { Provenance } from "../../core/listing/check.js";
import type { Surroundings } from "../../core/language/function.js";
import type { Store } from "../../store/store.js";
import {
  chosenChannels,
  loadChannel as loadChannelFiles,
  type WorkspaceChannel,
} from "../../workspace/channel-files.js";
import { definitionsFor, type Workspace } from "../../workspace/workspace.js";

/** What a command does with what becomes of each product on one channel. */
export interface ChannelRun {
  readonly channel: WorkspaceChannel;
  take(outcome: Outcome): void | Promise<void>;
  /** Is shown each listing as it is filled, ready or not. */
  see?(listing: Listing): void;
}

/** Loads the channels asked for, or all in use; a fault in any of them ends the command before anything is done. */
export const loadChannels = async (
  workspace: Workspace,
  store: Store,
  asked: readonly string[],
  surroundings: Surroundings,
): Promise<readonly WorkspaceChannel[]> => {
  const folders = await definitionsFor(workspace);
  const names = chosenChannels(workspace, asked, folders);
  const attributes = await store.attributes();
  return Promise.all(
    names.map((name) => loadChannelFiles(workspace, name, folders, attributes, surroundings)),
  );
};

/** Loads the one channel that a command is about. */
export const loadChannel = async (
  workspace: Workspace,
  store: Store,
  channel: string,
  surroundings: Surroundings,
): Promise<WorkspaceChannel> => {
  const [found] = await loadChannels(workspace, store, [channel], surroundings);
  if (found !== undefined) return found;
  throw new Refusal([
    diagnostic("unknown-channel", { channel, nearest: [], known: workspace.channelsInUse }),
  ]);
};

/** One pass: each family is read once and goes to every channel. */
export const runChannels = async (store: Store, runs: readonly ChannelRun[]): Promise<void> => {
  const attributes = await store.attributes();
  const provenance: Provenance = (product, slot) => {
    const origin = product.origin(slot);
    return origin === undefined ? undefined : store.placeOf(origin, attributes.names[slot] ?? "");
  };
  const prepared = runs.map((run) => ({
    run,
    pipeline: pipelineFor(run.channel.setup, provenance, (listing) => run.see?.(listing)),
  }));
  for await (const families of store.families())
    for (const family of families)
      for (const { run, pipeline } of prepared)
        for (const outcome of pipeline(family)) {
          const taken = run.take(outcome);
          if (taken !== undefined) await taken;
        }
};
