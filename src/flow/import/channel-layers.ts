/**
 * What a source's file says to single channels: a layer for each, with a revision of its own beside the file's own, all of
 * one act. A layer's name is that of the source's layer with the channel's behind it.
 */
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type {
  CatalogueTransaction,
  RecordFate,
  RevisionPlan,
  RevisionWriter,
  Store,
} from "../../store/store.js";
import type { ChannelLayer } from "../../workspace/edit-manifest.js";
import type { Source } from "../../workspace/source-files.js";
import { rulesOf } from "../../workspace/source-rules.js";
import type { Workspace } from "../../workspace/workspace.js";
import type { Incoming } from "./read-rows.js";

/** What became of what a file says to one channel. */
export interface ChannelResult extends ChannelLayer {
  readonly changed: number;
  readonly unchanged: number;
  /** The revision that it became; undefined when nothing changed. */
  readonly revision: number | undefined;
}

/** What became of a record in the layer of one channel. */
export interface ChannelFate {
  readonly channel: string;
  readonly fate: RecordFate;
}

/** The layers of channels that a source writes into. */
export const channelLayers = ({ settings: { layer, channels = {} } }: Source): readonly ChannelLayer[] =>
  Object.keys(channels).map((channel) => ({ layer: `${layer}-${channel}`, channel }));

/** The layers for single channels that one file goes into. */
export class ChannelRevisions {
  private constructor(
    private readonly layers: readonly (ChannelLayer & {
      readonly isFormer: boolean;
      readonly writer: RevisionWriter;
      readonly counts: { changed: number; unchanged: number };
    })[],
  ) {}

  /**
   * Begins a revision for each channel that the source has columns for, and for each that it had some for before: what it
   * gave there goes.
   * @throws Refusal where the manifest has such a name for a layer of another channel, or of all
   */
  static async begin(
    source: Source,
    plan: RevisionPlan,
    open: {
      readonly workspace: Workspace;
      readonly store: Store;
      readonly transaction: CatalogueTransaction;
    },
  ): Promise<ChannelRevisions> {
    const { workspace, store, transaction } = open;
    const now = channelLayers(source);
    refuseOthers(source, now, workspace);
    const before = await formerLayers(source, workspace, store);
    const layers = [];
    for (const [at, { layer, channel }] of [...now, ...before].entries()) {
      const writer = await transaction.revision({
        ...plan,
        layer,
        channel,
        // What it speaks of is there by now, put there by the file's own layer.
        mode: "update",
        rules: rulesOf(source, workspace.kindOf, channel),
        decided: [],
      });
      const counts = { changed: 0, unchanged: 0 };
      layers.push({ layer, channel, isFormer: at >= now.length, writer, counts });
    }
    return new ChannelRevisions(layers);
  }

  /** Whether the file says anything to single channels. */
  get isNone(): boolean {
    return this.layers.length === 0;
  }

  /** Takes records that the file's own layer has taken; says of each, in order, what became of it channel by channel. */
  async put(records: readonly Incoming[]): Promise<readonly (readonly ChannelFate[])[]> {
    const fates = records.map((): ChannelFate[] => []);
    for (const { channel, writer, counts } of this.layers)
      for (const [at, fate] of (await writer.put(records)).entries()) {
        fates[at]?.push({ channel, fate });
        // A group's own row is no product's, and is counted by nobody.
        if (records[at]?.kind === "group") continue;
        if (fate.fate === "changed") counts.changed++;
        else counts.unchanged++;
      }
    return fates;
  }

  /** Products that vanished from a replaced layer lose what it said of them to single channels, if that is asked for. */
  async vanished(drop: boolean): Promise<void> {
    // The file's own layer tells of them.
    for (const { writer } of this.layers) await writer.vanished(drop, () => undefined);
  }

  /** Revisions of before whose rules were others, where values that those gave were taken back or read anew. */
  formerRules(): readonly number[] {
    return this.layers.flatMap(({ writer }) => writer.formerRules() ?? []);
  }

  async finish(): Promise<readonly ChannelResult[]> {
    const results: ChannelResult[] = [];
    for (const { layer, channel, isFormer, writer, counts } of this.layers) {
      const { changed, unchanged } = counts;
      const read = changed + unchanged;
      const revision = await writer.finish({ read, added: 0, changed, unchanged, rejected: 0 });
      // Of a channel that the source says nothing to any more there is news once: that what it said went.
      if (isFormer && revision === undefined) continue;
      results.push({ layer, channel, changed, unchanged, revision });
    }
    return results;
  }
}

function refuseOthers({ yaml }: Source, own: readonly ChannelLayer[], { layers }: Workspace): void {
  const findings = own.flatMap(({ layer, channel }) => {
    const known = layers.find((one) => one.layer === layer);
    if (known === undefined || known.channel === channel) return [];
    const whose = known.channel === undefined ? "all channels" : known.channel;
    const reason = `what it gives goes into the layer ${layer}, and lexicant.yaml has a layer of that name for ${whose}`;
    const place = yaml.place(["channels", channel]);
    return [diagnostic("wrong-setting", { key: `channels.${channel}`, reason }, { place })];
  });
  if (findings.length > 0) throw new Refusal(findings);
}

/** Layers for channels that the source wrote, and has no columns for any more. */
async function formerLayers(
  source: Source,
  { layers }: Workspace,
  store: Store,
): Promise<readonly ChannelLayer[]> {
  const { layer: own, channels = {} } = source.settings;
  const others = layers.flatMap(({ layer, channel }) =>
    channel !== undefined && layer === `${own}-${channel}` && !Object.hasOwn(channels, channel)
      ? [{ layer, channel }]
      : [],
  );
  if (others.length === 0) return [];
  const written = (await store.history()).filter(
    ({ kind, source: by, undoneBy }) => kind === "import" && by === source.name && undoneBy === undefined,
  );
  return others.filter((one) => written.some(({ layer }) => layer === one.layer));
}
