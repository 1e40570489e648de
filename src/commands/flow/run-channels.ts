import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { pipelineFor } from "../../core/listing/pipeline.js";
import type { Listing, Outcome } from "../../core/listing/listing.js";
import type { Provenance } from "../../core/listing/check.js";
import type { Surroundings } from "../../core/language/function.js";
import { readValue } from "../../core/values/read.js";
import { isMoney, type Money } from "../../core/values/value.js";
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
  const channels = await Promise.all(
    names.map((name) => loadChannelFiles(workspace, name, folders, attributes, surroundings)),
  );
  return channels.map((channel) => withLastPrices(channel, store));
};

/** Where a channel watches changes of its prices, it knows those that were sent last. */
const withLastPrices = (channel: WorkspaceChannel, store: Store): WorkspaceChannel => {
  const { setup } = channel;
  if (setup.prices?.greatestChange === undefined) return channel;
  const prices = store.pricesOf(setup.channel);
  const lastPrice = (sku: string): Money | undefined => {
    const reading = readValue("money", prices.sent(sku) ?? "");
    return "value" in reading && isMoney(reading.value) ? reading.value : undefined;
  };
  return { ...channel, setup: { ...setup, lastPrice } };
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

/** Tells the file, row and column of a product's value. */
export const provenanceIn = async (store: Store): Promise<Provenance> => {
  const attributes = await store.attributes();
  return (product, slot) => {
    const origin = product.origin(slot);
    return origin === undefined ? undefined : store.placeOf(origin, attributes.names[slot] ?? "");
  };
};

/** One pass: each family is read once and goes to every channel. */
export const runChannels = async (store: Store, runs: readonly ChannelRun[]): Promise<void> => {
  const provenance = await provenanceIn(store);
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
