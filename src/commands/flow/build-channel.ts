import type { PurposeName } from "../../core/channel/definition.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { sentence } from "../../core/diagnostics/wording.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { Outcome } from "../../core/listing/listing.js";
import { writerFor } from "../../layouts/layouts.js";
import type { AccountFacts, LayoutWriter } from "../../layouts/layout.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { textOf } from "../../core/catalogue/product.js";
import type { ChannelPrices } from "../../store/channel-prices.js";
import { stageFiles, type StagedFile } from "../../workspace/staged-files.js";
import type { Workspace } from "../../workspace/workspace.js";
import { channelCounts, type ChannelCounts } from "./channel-counts.js";
import type { ChannelRun } from "./run-channels.js";

export const RECORD_FILE = "build.json";

export interface BuiltFile {
  readonly name: string;
  readonly bytes: number;
  readonly sha256: string;
}

/** The files of one channel on their way: they appear together with `publish`, or not at all. */
export interface ChannelBuild extends ChannelRun {
  readonly counts: ChannelCounts;
  publish(): Promise<readonly BuiltFile[]>;
  discard(): Promise<void>;
}

interface OpenLayout {
  readonly writer: LayoutWriter;
  readonly file: StagedFile;
}

const accountFacts = (workspace: Workspace, { setup, account }: WorkspaceChannel): AccountFacts => {
  const shopUrl = account.shop_url;
  if (shopUrl === undefined && setup.definition.layouts.some(({ format }) => format === "rss"))
    throw new Refusal([
      diagnostic(
        "wrong-setting",
        { key: "account.shop_url", reason: "the feed shows the shop's web address, and none is given" },
        { place: { file: `channels/${setup.channel}/channel.yaml` } },
      ),
    ]);
  const title = account.title ?? workspace.manifest.shop;
  return { title, shopUrl: shopUrl ?? "", description: account.description ?? title };
};

/** Refuses a purpose that the channel does not take. */
export const refusePurpose = ({ setup }: WorkspaceChannel, purpose: PurposeName): void => {
  const known = setup.definition.purposes;
  if (!known.includes(purpose))
    throw new Refusal([diagnostic("unknown-purpose", { purpose, channel: setup.definition.label, known })]);
};

/** Starts a channel's files in a folder: one a layout, and the record of the build. */
export const buildChannel = async (
  workspace: Workspace,
  channel: WorkspaceChannel,
  folder: string,
  purpose: PurposeName,
  prices: ChannelPrices,
): Promise<ChannelBuild> => {
  const { definition } = channel.setup;
  const priceNotes = channel.setup.prices?.greatestChange === undefined ? undefined : prices.begin();
  const account = accountFacts(workspace, channel);
  const staged = await stageFiles(folder);
  const layouts: OpenLayout[] = [];
  for (const layout of definition.layouts) {
    const writer = writerFor(layout, account);
    const file = await staged.create(layout.file);
    await file.write(writer.head());
    layouts.push({ writer, file });
  }
  const counts = channelCounts();
  const record = await staged.create(RECORD_FILE);
  await record.write(
    `${JSON.stringify({ channel: channel.setup.channel, definition: definition.channel, version: definition.version, purpose }).slice(0, -1)},\n"notSent": [`,
  );
  let separator = "\n";
  const note = async (outcome: Exclude<Outcome, { kind: "ready" }>): Promise<void> => {
    await record.write(separator + JSON.stringify(noteOf(outcome)));
    separator = ",\n";
  };
  return {
    channel,
    counts,
    async take(outcome) {
      counts.take(outcome);
      if (outcome.kind !== "ready") return note(outcome);
      const price = textOf(outcome.listing.product, "price");
      if (price !== undefined) priceNotes?.note(outcome.listing.product.sku, price);
      for (const { writer, file } of layouts) await file.write(writer.listing(outcome.listing));
    },
    async publish() {
      const files: BuiltFile[] = [];
      for (const { writer, file } of layouts) {
        await file.write(writer.tail());
        files.push(await file.finish());
      }
      const { ready, held, leftOut } = counts;
      await record.write(
        `\n],\n"counts": ${JSON.stringify({ ready, held, leftOut })},\n"files": ${JSON.stringify(files)}\n}\n`,
      );
      await record.finish();
      await staged.publish();
      priceNotes?.commit();
      return files;
    },
    discard: () => staged.discard(),
  };
};

/** A product that is not in the files, and why. */
const noteOf = (outcome: Exclude<Outcome, { kind: "ready" }>): Readonly<Record<string, unknown>> => {
  if (outcome.kind === "left-out")
    return {
      sku: outcome.product.sku,
      state: "left out",
      because: [{ code: outcome.because.code, message: sentence(outcome.because) }],
    };
  const errors = outcome.because.filter(({ severity }) => severity === "error");
  return {
    sku: outcome.product.sku,
    state: "held",
    because: errors.map((finding) => ({
      code: finding.code,
      field: finding.field,
      message: sentence(finding),
    })),
  };
};
