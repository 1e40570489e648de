import { join, relative, resolve } from "node:path";
import type { PurposeName } from "../core/channel/definition.js";
import { countText } from "../report/findings.js";
import type { Io } from "../report/io.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import type { WorkspaceChannel } from "../workspace/channel-files.js";
import type { CommandFile } from "./command-file.js";
import { buildChannel, RECORD_FILE, refusePurpose, type ChannelBuild } from "./flow/build/build-channel.js";
import type { BuiltFile } from "./flow/build/layout-files.js";
import { channelCounts, exitFor, type ChannelCounts } from "./flow/channel-counts.js";
import { withCatalogue } from "./flow/open-catalogue.js";
import { loadChannels, runChannels } from "./flow/run-channels.js";
import { validOptions } from "./options/valid-options.js";

/** `lexicant build`: the channels' files, from all that is ready. */
export const build: CommandFile = {
  declare: (command) =>
    command
      .argument("[channels...]", "channels (all in use, if none is named)")
      .option("--purpose <purpose>", "what the files are for: full")
      .option(
        "--confirm-prices <skus>",
        "these may change by more than channel.yaml allows, this once: SKUs with commas between, or all",
      )
      .option("--out <dir>", "the folder for the files (out, in the workspace)")
      .option("--dry-run", "say what would be written, and write nothing"),
  async run({ args, options, io }) {
    const given = await validOptions(
      options,
      ["purpose", "out", "confirmPrices"],
      async () => (await import("./options/build-options.js")).BuildOptions,
    );
    const purpose: PurposeName = given.purpose ?? "full";
    return withCatalogue(options.workspace, io, async ({ workspace, store, surroundings }) => {
      const loaded = await loadChannels(workspace, store, args, await surroundings());
      const { confirmPrices } = given;
      const channels =
        confirmPrices === undefined ? loaded : loaded.map((one) => confirmed(one, confirmPrices));
      if (loaded.length === 0) {
        io.err(
          'No channel is in use; name one in lexicant.yaml, under channels ("lexicant channels" lists them).\n',
        );
        return 0;
      }
      for (const channel of channels) refusePurpose(channel, purpose);
      const root = given.out === undefined ? workspace.path("out") : resolve(io.cwd, given.out);
      if (options["dryRun"] === true) {
        const runs = channels.map((channel) => ({ channel, counts: channelCounts() }));
        await runChannels(
          store,
          runs.map(({ channel, counts }) => ({ channel, take: (outcome) => void counts.take(outcome) })),
        );
        for (const { channel, counts } of runs)
          print({ channel, counts, purpose, files: [], folder: "", dryRun: true, json: options.json, io });
        return exitFor(runs.map(({ counts }) => counts));
      }
      const builds: ChannelBuild[] = [];
      try {
        for (const channel of channels)
          builds.push(
            await buildChannel(
              workspace,
              channel,
              join(root, channel.setup.channel),
              purpose,
              store.ledgerOf(channel.setup.channel),
            ),
          );
        await runChannels(store, builds);
        for (const one of builds) {
          const { channel, counts } = one;
          const folder = relative(io.cwd, join(root, channel.setup.channel)) || ".";
          print({
            channel,
            counts,
            purpose,
            files: await one.publish(),
            folder,
            dryRun: false,
            json: options.json,
            io,
          });
        }
      } catch (error) {
        for (const one of builds) await one.discard();
        throw error;
      }
      return exitFor(builds.map(({ counts }) => counts));
    });
  },
};

/** A person has looked at these prices and means them. */
const confirmed = (channel: WorkspaceChannel, list: string): WorkspaceChannel => {
  const { lastPrice } = channel.setup;
  const skus = new Set(list.split(",").map((sku) => sku.trim()));
  const isMeant = (sku: string): boolean => skus.has(sku) || list.trim() === "all";
  return {
    ...channel,
    setup: { ...channel.setup, lastPrice: (sku) => (isMeant(sku) ? undefined : lastPrice?.(sku)) },
  };
};

interface Printed {
  readonly channel: WorkspaceChannel;
  readonly counts: ChannelCounts;
  readonly purpose: PurposeName;
  readonly files: readonly BuiltFile[];
  readonly folder: string;
  readonly dryRun: boolean;
  readonly json: boolean;
  readonly io: Io;
}

const sizeText = (bytes: number): string => {
  if (bytes < 1000) return `${bytes} B`;
  return bytes < 1_000_000 ? `${(bytes / 1000).toFixed(1)} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`;
};

const print = ({ channel, counts, purpose, files, folder, dryRun, json, io }: Printed): void => {
  const { ready, held, leftOut } = counts;
  const { channel: name, definition } = channel.setup;
  if (json) {
    io.out(
      jsonLine({
        type: "build",
        channel: name,
        version: definition.version,
        purpose,
        ready,
        held,
        leftOut,
        folder,
        files,
        dryRun,
      }),
    );
    return;
  }
  const style = styleFor(io);
  const width = Math.max(...files.map((file) => file.name.length), 0);
  const lines = [
    `${style.bold(`${definition.label} ${definition.version}`)}, ${purpose}: ${style.good(countText(ready, "listing"))}${dryRun ? " would be written; nothing was" : ` written to ${folder}`}`,
    ...files.map((file) => `  ${file.name.padEnd(width)}  ${sizeText(file.bytes)}`),
  ];
  if (held + leftOut > 0) {
    const where = dryRun ? "" : `each with its reason in ${join(folder, RECORD_FILE)}; `;
    lines.push(
      `  not in it: ${held.toLocaleString("en")} held, ${leftOut.toLocaleString("en")} left out; ${where}what to do: lexicant check ${name}`,
    );
  }
  io.out(`${lines.join("\n")}\n`);
};
