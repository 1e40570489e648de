/** Choices that only a channel can answer: what it holds back, what changed there. */
import type { Family } from "../../core/catalogue/family.js";
import { asSku } from "../../core/ids.js";
import { isHeld, productOf } from "../../core/listing/listing.js";
import { pipelineFor } from "../../core/listing/pipeline.js";
import type { FileRow } from "../../core/listing/shape/file-family.js";
import { shape } from "../../core/listing/shape/shape.js";
import { changedFields } from "../../core/purpose/purpose.js";
import type { OpenCatalogue } from "../open-catalogue.js";
import { refuseUnused } from "../refusals.js";
import { loadChannel } from "../run-channels.js";

/** Which products of a family a channel speaks of, in some respect. */
export interface ChannelTest {
  readonly channel: string;
  /** Brings to hand what the store knows of a batch. */
  recall(families: readonly Family[]): Promise<void>;
  skusOf(family: Family): ReadonlySet<string>;
}

/** A channel whose listings are made once more, for nothing but the choice. */
async function opened({ workspace, store, surroundings }: OpenCatalogue, channel: string) {
  const { setup, recall } = await loadChannel(workspace, store, channel, await surroundings());
  return { channel, setup, recall, pipeline: pipelineFor(setup, () => undefined) };
}

/** Those that the channel holds back. */
export async function lackingTest(open: OpenCatalogue, channel: string): Promise<ChannelTest> {
  refuseUnused(channel, open.workspace);
  const { recall, pipeline } = await opened(open, channel);
  return {
    channel,
    recall,
    skusOf: (family) =>
      new Set(
        pipeline(family)
          .filter(isHeld)
          .map((one) => productOf(one).sku),
      ),
  };
}

/** Those that the channel does not have as they are now: new, changed, held, or to leave it. */
export async function changedTest(open: OpenCatalogue, channel: string): Promise<ChannelTest> {
  const { setup, recall, pipeline } = await opened(open, channel);
  const liveOf = (sku: string) => setup.live?.(asSku(sku));
  return {
    channel,
    recall,
    skusOf(family) {
      const changed = new Set<string>();
      const outcomes = pipeline(family);
      for (const outcome of outcomes) {
        const { sku } = productOf(outcome);
        if (isHeld(outcome) || (outcome.kind === "left-out" && liveOf(sku) !== undefined)) changed.add(sku);
      }
      const isChanged = (row: FileRow): boolean =>
        changedFields(row, liveOf(row.sku), setup.definition).length > 0;
      for (const { group, members } of shape(outcomes, family, setup)) {
        // What a group's own row says, it says of each member.
        const isAll = group !== undefined && isChanged(group);
        for (const row of members) if (isAll || isChanged(row)) changed.add(row.sku);
      }
      return changed;
    },
  };
}
