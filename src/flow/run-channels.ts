/**
 * The pass over families for one or many channels: reads each once, brings to hand what the pipeline asks of the
 * ledger, and hands on what became of its products.
 */
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { ChannelSetup, LastRefusal } from "../core/listing/channel-setup.js";
import { pipelineFor } from "../core/listing/pipeline.js";
import { barcodeTwinsOn } from "../core/listing/check/barcode-twins.js";
import { idRegister } from "../core/listing/check/listed-ids.js";
import type { LiveListing } from "../core/listing/live-listing.js";
import type { Family } from "../core/catalogue/family.js";
import type { Product } from "../core/catalogue/product.js";
import { productOf, type Listing, type Outcome } from "../core/listing/listing.js";
import type { Provenance } from "../core/listing/check/check.js";
import type { Surroundings } from "../core/language/function.js";
import { everything, type Choice } from "./choice/chosen.js";
import type { Standing } from "../store/jobs.js";
import type { LedgerEntry, LedgerState } from "../store/ledger.js";
import type { Store } from "../store/store.js";
import {
  chosenChannels,
  loadChannel as loadChannelFiles,
  type WorkspaceChannel,
} from "../workspace/channel-files.js";
import { definitionsFor, type Workspace } from "../workspace/workspace.js";

/** What a command does with what becomes of each product on one channel. */
export interface ChannelRun {
  readonly channel: WorkspaceChannel;
  take(outcome: Outcome, family: Family): void | Promise<void>;
  /** Is given what became of a whole family, of products that are not meant too, when each of its products was taken. */
  family?(outcomes: readonly Outcome[], family: Family): void | Promise<void>;
  /** Is shown each listing as it is filled, ready or not. */
  see?(listing: Listing): void;
}

/** Loads the channels asked for, or all in use; a fault in any of them ends the command before anything is done. */
export async function loadChannels(
  workspace: Workspace,
  store: Store,
  asked: readonly string[],
  surroundings: Surroundings,
  /** Products that have a barcode in common, where somebody found them already. */
  sharing?: readonly (readonly string[])[],
  /** What they are held against, where it is not what was sent. */
  against?: LedgerState,
): Promise<readonly WorkspaceChannel[]> {
  const folders = await definitionsFor(workspace);
  const names = chosenChannels(workspace, asked, folders);
  const attributes = await store.attributes();
  const channels = await Promise.all(
    names.map((name) => loadChannelFiles(workspace, name, folders, attributes, surroundings)),
  );
  // A pass over all keys: made once for all channels, when the first products are looked at.
  const shared = once(() => (sharing === undefined ? store.sharedBarcodes() : productsOf(store, sharing)));
  return Promise.all(channels.map((channel) => remembering(channel, shared, store, against)));
}

const productsOf = (
  store: Store,
  skus: readonly (readonly string[])[],
): Promise<readonly (readonly Product[])[]> =>
  Promise.all(
    skus.map(async (own) => (await Promise.all(own.map((sku) => store.product(sku)))).filter(isHere)),
  );

const isHere = <T>(one: T | undefined): one is T => one !== undefined;

function once<T extends object>(find: () => T): () => T {
  let found: T | undefined;
  return () => (found ??= find());
}

/** A channel that recalls what the store knows of it: what it was sent, and which products share a barcode. */
async function remembering(
  { setup, ...channel }: WorkspaceChannel,
  shared: () => Promise<readonly (readonly Product[])[]>,
  store: Store,
  against: LedgerState = "sent",
): Promise<WorkspaceChannel> {
  const ledger = store.ledgerOf(setup.channel);
  const isNew = against === "sent" && (await ledger.isEmpty());
  const jobs = store.jobsOf(setup.channel);
  const hasRefused = await jobs.has("refused");
  let stood: ReadonlyMap<string, Standing> = new Map();
  const lastRefusal = (sku: string): LastRefusal | undefined => {
    const standing = stood.get(sku);
    if (standing?.state !== "refused" || standing.refused === undefined) return undefined;
    const { at, message, field, refused } = standing;
    return { at, message, field, values: refused.values };
  };
  let twins: ChannelSetup["barcodeTwins"] | undefined;
  let entries: ReadonlyMap<string, LedgerEntry> | undefined;
  const live = (sku: string): LiveListing | undefined => {
    if (entries === undefined) throw new Error(`nothing was recalled of ${setup.channel}`);
    const listing = entries.get(sku)?.listing;
    return listing?.withdrawn === true ? undefined : listing;
  };
  return {
    ...channel,
    setup: {
      ...setup,
      barcodeTwins(product) {
        if (twins === undefined) throw new Error(`nothing was recalled of ${setup.channel}`);
        return twins(product);
      },
      ...(isNew ? {} : { live, lastPrices: (sku: string) => live(sku)?.values }),
      ...(hasRefused ? { lastRefusal } : {}),
    },
    async recall(families, what = "all") {
      if (what === "all") twins ??= barcodeTwinsOn(await shared(), setup);
      if (isNew && !hasRefused) return;
      const members = families.flatMap((family) => family.membersOn(setup.channel));
      if (hasRefused) stood = await jobs.standings(members.map(({ sku }) => sku));
      if (isNew) return;
      const groups = new Set([...families, ...members].flatMap(({ group }) => group ?? []));
      entries = await ledger.of({ skus: members.map(({ sku }) => sku), groups: [...groups], state: against });
    },
  };
}

/** Names of channels. */
export const namesOf = (channels: readonly WorkspaceChannel[]): readonly string[] =>
  channels.map(({ setup }) => setup.channel);

/** Loads the one channel that a command is about. */
export async function loadChannel(
  workspace: Workspace,
  store: Store,
  channel: string,
  surroundings: Surroundings,
): Promise<WorkspaceChannel> {
  const [found] = await loadChannels(workspace, store, [channel], surroundings);
  if (found !== undefined) return found;
  throw new Refusal([
    diagnostic("unknown-channel", { channel, nearest: [], known: workspace.channelsInUse }),
  ]);
}

/** Tells the file, row and column of a product's value. */
export async function provenanceIn(store: Store): Promise<Provenance> {
  const attributes = await store.attributes();
  return (product, slot) => {
    const origin = product.origin(slot) ?? product.unread(slot)?.origin;
    return origin === undefined ? undefined : store.placeOf(origin, attributes.names[slot] ?? "");
  };
}

/** Products of one stretch at most: what comes of it is held until it is done. */
export const STRETCH = 2000;

/** What of the catalogue a pass looks at, and who looks at it beside the channels. */
export interface PassWishes {
  readonly choice?: Choice;
  look?(family: Family): void;
}

/**
 * One pass: each family with a product that is meant is read once and goes to every channel, and to one who looks at the
 * catalogue itself. `take` is given what becomes of the products that are meant.
 * @throws Refusal where no product is
 */
export async function runChannels(
  store: Store,
  runs: readonly ChannelRun[],
  wishes: PassWishes = {},
): Promise<void> {
  const pass = await channelPass(store, runs, wishes);
  const ids = runs.map(() => idRegister());
  for (const range of await store.stretches(1, STRETCH)) {
    for (const [at, { channel }] of runs.entries()) channel.setup.ids.begin(ids[at]);
    await pass(store.families(range));
    for (const [at, { channel }] of runs.entries()) ids[at]?.add(channel.setup.ids.all());
  }
  wishes.choice?.refuseNothing();
}

/** The same for some families after others. */
export async function channelPass(
  store: Store,
  runs: readonly ChannelRun[],
  { choice = everything, look }: PassWishes = {},
): Promise<(batches: AsyncGenerator<readonly Family[]>) => Promise<void>> {
  const provenance = await provenanceIn(store);
  const prepared = runs.map((run) => ({
    run,
    pipeline: pipelineFor(run.channel.setup, provenance, (listing) => run.see?.(listing)),
  }));
  const isWanted = ({ members }: Family): boolean =>
    choice.isAll || members.some((product) => choice.isMeant(product));
  return async (batches) => {
    for await (const batch of batches) {
      await choice.look(batch);
      const families = batch.filter(isWanted);
      if (families.length === 0) continue;
      for (const { channel } of runs) await channel.recall(families);
      for (const family of families) {
        look?.(family);
        for (const { run, pipeline } of prepared) {
          const outcomes = pipeline(family);
          for (const outcome of outcomes) {
            if (!choice.isMeant(productOf(outcome), run.channel.setup.channel)) continue;
            const taken = run.take(outcome, family);
            if (taken !== undefined) await taken;
          }
          const done = run.family?.(outcomes, family);
          if (done !== undefined) await done;
        }
      }
    }
  };
}
