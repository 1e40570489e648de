import { categoryPath, condition, groupName, skuList } from "./options/shared-options.js";
import { command } from "./command.js";
import { flag, text, oneOf, limit } from "./options/option.js";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join, relative, resolve } from "node:path";
import { purposeNames, type PurposeName } from "../core/channel/definition.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { heading } from "../workspace/wording.js";
import { countText } from "../core/diagnostics/phrases.js";
import { wrapText } from "../report/text-width.js";
import type { Io } from "../io/io.js";
import { jsonLine } from "../report/json.js";
import { styleFor } from "../report/style.js";
import type { WorkspaceChannel } from "../workspace/channel-files.js";
import type { CommandFile } from "./command-file.js";
import type { ExitCode } from "../io/exit-code.js";
import { buildChannel, RECORD_FILE, refusePurpose, type ChannelBuild } from "../flow/build/build-channel.js";
import { landBuilds } from "../flow/build/land-builds.js";
import type { BuiltFile } from "../flow/build/built-files.js";
import { exitFor, type ChannelCounts } from "../flow/channel-counts.js";
import type { BuildWishes } from "../flow/build/build-wishes.js";
import { productTest } from "../flow/export/chosen-products.js";
import { withCatalogue, type OpenCatalogue } from "../flow/open-catalogue.js";
import { loadChannels, runChannels } from "../flow/run-channels.js";
import type { Given } from "./options/given-options.js";

const table = {
  purpose: oneOf(
    "--purpose <purpose>",
    "what the files are for: full, amend, offer, stock, withdraw (full)",
    purposeNames,
  ),
  only: text(
    "--only <fields>",
    "with amend: just these fields of the channel, with commas between",
    "is a list of fields with commas between",
    100_000,
  ),
  changed: flag("--changed", "only what differs from what was sent last"),
  keepLive: flag("--keep-live", "with full: fill what would be erased from what the channel has"),
  where: condition("only products for which this holds"),
  category: categoryPath("only products in this category of ours or below it"),
  group: groupName,
  sku: skuList,
  failed: text(
    "--failed <report>",
    "only what this result report of the channel refused, and is ready now",
    "is the channel's result report",
    4000,
  ),
  limit: limit("so many listings at most, whole groups: for a trial"),
  yes: flag("--yes", "with withdraw: also where many listings end at once"),
  confirmPrices: text(
    "--confirm-prices <skus>",
    "these may change by more than channel.yaml allows, this once: SKUs with commas between, or all",
    "is a list of SKUs, or all",
    100_000,
  ),
  out: text("--out <dir>", "the folder for the files (out, in the workspace)", "is a folder"),
  dryRun: flag("--dry-run", "say what would be written, and write nothing"),
};

/** `lexicant build`: the channels' files, from all that is ready. */
export const build: CommandFile = command({
  args: [["[channels...]", "channels (all in use, if none is named)"]],
  options: table,
  async run({ given, args, options, io }) {
    return withCatalogue(options.workspace, io, async (open) => {
      const asked = await wishesOf(given, open, io);
      const channels = await channelsFor(asked.purpose, args, given.confirmPrices, open);
      const wishes = await withFailed(given.failed, channels, asked, open, io);
      if (channels.length === 0) {
        io.err(
          'No channel is in use; name one in lexicant.yaml, under channels ("lexicant channels" lists them).\n',
        );
        return 0;
      }
      const dryRun = given.dryRun;
      // What a dry run writes, nobody is to find.
      const aside = dryRun ? await mkdtemp(join(tmpdir(), "lexicant-dry-run-")) : undefined;
      const out = given.out === undefined ? open.workspace.path("out") : resolve(io.cwd, given.out);
      try {
        return await buildAll(channels, wishes, aside ?? out, { ...open, dryRun, json: options.json, io });
      } finally {
        if (aside !== undefined) await rm(aside, { recursive: true, force: true });
      }
    });
  },
});

const listed = (text: string | undefined): readonly string[] | undefined =>
  text?.split(",").map((part) => part.trim());

const wishesOf = async (given: Given<typeof table>, open: OpenCatalogue, io: Io): Promise<BuildWishes> => {
  const purpose: PurposeName = given.purpose ?? "full";
  const isWithdrawal = purpose === "withdraw";
  // What is withdrawn may not be in the catalogue any more: it is chosen by the ledger.
  const test = await productTest(open, isWithdrawal ? {} : given, io);
  return {
    purpose,
    isMeant: test ?? (() => true),
    only: listed(given.only),
    changedOnly: given.changed,
    keepLive: given.keepLive,
    limit: given.limit ?? Infinity,
    ending: isWithdrawal ? listed(given.sku) : undefined,
    confirmed: given.yes,
    isTrial: given.dryRun,
    at: io.now().toISOString(),
  };
};

/** What a result report refused, and nothing else. */
const withFailed = async (
  report: string | undefined,
  channels: readonly WorkspaceChannel[],
  wishes: BuildWishes,
  { store }: OpenCatalogue,
  io: Io,
): Promise<BuildWishes> => {
  if (report === undefined) return wishes;
  const [channel, ...others] = channels;
  if (channel === undefined || others.length > 0)
    throw new Refusal([
      diagnostic("unknown-option", { reason: "--failed: a report is one channel's; name that channel" }),
    ]);
  const { failedSkus } = await import("../flow/build/failed-skus.js");
  const failed = await failedSkus(resolve(io.cwd, report), channel, store.ledgerOf(channel.setup.channel));
  return { ...wishes, isMeant: (product) => failed.has(product.sku) && wishes.isMeant(product) };
};

/** The channels that are named; where none is, all that have files for this purpose. */
const channelsFor = async (
  purpose: PurposeName,
  args: readonly string[],
  confirmPrices: string | undefined,
  { workspace, store, surroundings }: OpenCatalogue,
): Promise<readonly WorkspaceChannel[]> => {
  const inUse = await loadChannels(workspace, store, args, await surroundings());
  const channels =
    args.length > 0 ? inUse : inUse.filter(({ setup }) => setup.definition.purposes.includes(purpose));
  for (const channel of channels) refusePurpose(channel, purpose);
  return confirmPrices === undefined ? channels : channels.map((one) => confirmed(one, confirmPrices));
};

interface BuildRun extends OpenCatalogue {
  readonly dryRun: boolean;
  readonly json: boolean;
  readonly io: Io;
}

/** Builds all channels in one pass; their files appear when all are whole. */
const buildAll = async (
  channels: readonly WorkspaceChannel[],
  wishes: BuildWishes,
  root: string,
  { workspace, store, dryRun, json, io }: BuildRun,
): Promise<ExitCode> => {
  const builds: ChannelBuild[] = [];
  try {
    for (const channel of channels) {
      const name = channel.setup.channel;
      builds.push(await buildChannel(workspace, channel, join(root, name), wishes, store.ledgerOf(name)));
    }
    await runChannels(store, builds);
    for (const one of builds) await one.withdraw();
    const landed = await landBuilds(builds, dryRun);
    io.landed();
    for (const one of builds) {
      const { channel, counts, written, omitted } = one;
      const files = landed.get(one) ?? [];
      const folder = dryRun ? "" : relative(io.cwd, join(root, channel.setup.channel)) || ".";
      const told = dryRun ? [] : one.told();
      const { purpose, keepLive } = wishes;
      print({ channel, counts, omitted, written, files, told, folder, purpose, keepLive, dryRun, json, io });
    }
  } catch (error) {
    for (const one of builds) await one.discard();
    throw error;
  }
  return exitFor(builds.map(({ counts }) => counts));
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
  readonly omitted: ChannelBuild["omitted"];
  readonly purpose: PurposeName;
  readonly keepLive: boolean;
  readonly files: readonly BuiltFile[];
  readonly written: number;
  readonly told?: readonly string[];
  readonly folder: string;
  readonly dryRun: boolean;
  readonly json: boolean;
  readonly io: Io;
}

const sizeText = (bytes: number): string => {
  if (bytes < 1000) return `${bytes} B`;
  return bytes < 1_000_000 ? `${(bytes / 1000).toFixed(1)} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`;
};

const print = ({
  channel,
  counts,
  omitted,
  purpose,
  keepLive,
  files,
  written,
  told = [],
  folder,
  dryRun,
  json,
  io,
}: Printed): void => {
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
        notForThisFile: omitted.count("advice"),
        written,
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
    `${style.bold(`${definition.label} ${definition.version}`)}, ${purpose}: ${style.good(countText(written, "listing"))}${dryRun ? " would be written; nothing was" : ` written to ${folder}`}`,
    ...files.map((file) => `  ${file.name.padEnd(width)}  ${sizeText(file.bytes)}`),
  ];
  if (held + leftOut > 0) {
    const where = dryRun ? "" : `each with its reason in ${join(folder, RECORD_FILE)}; `;
    lines.push(
      `  not in it: ${held.toLocaleString("en")} held, ${leftOut.toLocaleString("en")} left out; ${where}what to do: lexicant check ${name}`,
    );
  }
  for (const { products, first } of omitted.causes()) {
    const text = `not in it: ${countText(products, "ready listing")}: ${heading(first, products)}`;
    lines.push(...wrapText(text, io.columns - 2).map((line) => `  ${line}`));
  }
  const erases =
    purpose === "full" &&
    !keepLive &&
    definition.purposeRules.some((rule) => rule.purpose === "full" && rule.blank === "erase");
  const erased = erases ? (counts.causes.byCode().get("would-erase") ?? 0) : 0;
  if (erased > 0)
    lines.push(
      `  ${style.severity("warning", "note")} ${countText(erased, "value")} that the channel has would be erased: lexicant check ${name} --code would-erase, or build with --keep-live`,
    );
  lines.push(...told.map((text) => `  ${style.severity("warning", "note")} ${text}`));
  io.out(`${lines.join("\n")}\n`);
};
