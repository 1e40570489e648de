import { choiceOptions, workers } from "./options/shared-options.js";
import { command } from "./command.js";
import { refuseIdle, refuseTogether } from "./options/refuse-idle.js";
import { flag, flagOrText, text, oneOf, limit } from "./options/option.js";
import { resolve } from "node:path";
import { purposeNames, type PurposeName } from "../core/channel/purpose-names.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { Io } from "../io/io.js";
import type { WorkspaceChannel } from "../workspace/channel-files.js";
import type { CommandFile } from "./command-file.js";
import { buildAll } from "../flow/builds/build-all.js";
import { refusePurpose } from "../flow/builds/build-channel.js";
import type { BuildWishes } from "../flow/builds/build-wishes.js";
import { exitForBuilds } from "../flow/channel-counts.js";
import { chooseProducts } from "../flow/choice/choose-products.js";
import { isNarrowed } from "../flow/choice/choice-wishes.js";
import { skusIn } from "../flow/choice/sku-list.js";
import { withCatalogueToChange, type OpenCatalogue } from "../flow/open-catalogue.js";
import { refuseUnknownSkus } from "../flow/refusals.js";
import { buildPartFile } from "../flow/builds/build-in-parts.js";
import type { PartNumber } from "../flow/builds/part-files.js";
import type { ConfirmedPrices } from "../flow/builds/confirmed-prices.js";
import { loadChannels } from "../flow/run-channels.js";
import type { Store } from "../store/store.js";
import { buildJson, buildLines, partJson, partLines } from "../report/build-report.js";
import { tellNoChannel } from "../report/tell-in-use.js";
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
  ...choiceOptions,
  failed: flagOrText(
    "--failed [report]",
    "only what the channel refused, by what it answered or by this result report, and is ready now",
    "is the channel's result report",
    4000,
  ),
  limit: limit("so many listings at most, whole groups: for a trial"),
  keepLive: flag("--keep-live", "with full: fill what would be erased from what the channel has"),
  yes: flag("--yes", "with withdraw: also where many listings end at once"),
  confirmPrices: text(
    "--confirm-prices <list>",
    "these may change by more than channel.yaml allows, this once: SKUs as for --sku, or all",
    "is a list of SKUs, or all",
    100_000,
  ),
  strict: flag("--strict", "end with 1 where any listing is held (else told, and 0)"),
  outFolder: text("--out-folder <dir>", "the folder for the files (out, in the workspace)", "is a folder"),
  workers,
  part: text(
    "--part <number>",
    "build only this part, such as 2/8, into a file of its own: parts are joined later",
    "is a part's number and how many there are, such as 2/8",
    20,
  ),
  join: flag("--join", "write the channels' files from parts that were built, all of them"),
  partsFolder: text(
    "--parts-folder <dir>",
    "where parts are (.lexicant/parts, in the workspace)",
    "is a folder",
  ),
  dryRun: flag("--dry-run", "say what would be written, and write nothing"),
};

/** `lexicant build`: the channels' files, from all that is ready. */
export const build: CommandFile = command({
  args: [["[channels...]", "channels (all in use, if none is named)"]],
  options: table,
  examples: [
    ["build", "the whole files of every channel in use"],
    ["build merrowgate --purpose stock --changed", "stock alone, of what is not there as it is now"],
    ["build fjordhandel --category Hives", "one category, in a file of its own beside the whole one"],
    ["build --part 2/8", "an eighth of a build, for a machine of several; then: build --join"],
    ["build gavelstead --failed", "again what the channel refused and is ready now"],
  ],
  async run({ given, args, options, io }) {
    refuseIdleOptions(given);
    const number = given.part === undefined ? undefined : partNumber(given.part);
    return withCatalogueToChange(given.dryRun || number !== undefined)(options, io, async (open) => {
      const channels = await channelsFor(given, args, open);
      if (channels.length === 0) return tellNoChannel(io);
      const wishes = await withFailed(given.failed, channels, await wishesOf(given, open, io), open, io);
      const { dryRun, strict, workers: threads } = given;
      const parts =
        given.partsFolder === undefined
          ? open.workspace.path(".lexicant", "parts")
          : resolve(io.cwd, given.partsFolder);
      if (number !== undefined) {
        const file = await buildPartFile(open, channels, wishes, { number, folder: parts, workers: threads });
        io.out(options.json ? partJson(number, file) : `${partLines(number, file, io).join("\n")}\n`);
        return 0;
      }
      const out =
        given.outFolder === undefined ? open.workspace.path("out") : resolve(io.cwd, given.outFolder);
      const built = await buildAll(open, channels, wishes, {
        root: out,
        dryRun,
        workers: threads,
        parts: given.join ? parts : undefined,
      });
      for (const one of built) {
        const shown = { ...one, wishes, dryRun };
        io.out(options.json ? buildJson(shown, io) : `${buildLines(shown, io).join("\n")}\n`);
      }
      return exitForBuilds(
        built.map(({ build }) => build),
        { strict, dryRun },
      );
    });
  },
});

type GivenHere = Given<typeof table>;

function refuseIdleOptions({ purpose = "full", ...given }: GivenHere): void {
  const isFull = purpose === "full";
  const ends = purpose === "withdraw";
  const inParts = given.part !== undefined || given.join;
  refuseTogether([
    [given.part !== undefined, "--part"],
    [given.join, "--join"],
  ]);
  if (inParts)
    refuseTogether([
      [true, given.join ? "--join" : "--part"],
      [isNarrowed(given), "a choice of products"],
      [given.limit !== undefined, "--limit"],
      [given.failed !== undefined, "--failed"],
      [given.dryRun, "--dry-run"],
    ]);
  refuseIdle([
    [given.partsFolder !== undefined && !inParts, "--parts-folder", "--part or --join"],
    [given.join && given.workers !== undefined, "--workers", "a build of products, not with --join"],
    [given.only !== undefined && purpose !== "amend", "--only", "--purpose amend"],
    [given.keepLive && !isFull, "--keep-live", "--purpose full"],
    [given.yes && !ends, "--yes", "--purpose withdraw"],
    [
      given.changed && !isFull && purpose !== "stock" && purpose !== "offer",
      "--changed",
      "--purpose full, offer or stock",
    ],
    [given.limit !== undefined && ends, "--limit", "files of listings, not with --purpose withdraw"],
    [given.failed !== undefined && ends, "--failed", "files of listings, not with --purpose withdraw"],
    [
      given.confirmPrices !== undefined && ends,
      "--confirm-prices",
      "files of prices, not with --purpose withdraw",
    ],
    [given.strict && ends, "--strict", "files of listings, not with --purpose withdraw"],
  ]);
}

const MOST_PARTS = 10_000;

function partNumber(text: string): PartNumber {
  const [, part = 0, of = 0] = /^(\d{1,5})\/(\d{1,5})$/.exec(text)?.map(Number) ?? [];
  if (part >= 1 && part <= of && of <= MOST_PARTS) return { part, of };
  throw new Refusal([
    diagnostic("unknown-option", {
      reason: `--part: "${text}" is no part: write its number and how many there are, such as 2/8`,
    }),
  ]);
}

const listed = (text: string | undefined): readonly string[] | undefined =>
  text?.split(",").map((part) => part.trim());

async function wishesOf(given: GivenHere, open: OpenCatalogue, io: Io): Promise<BuildWishes> {
  const purpose: PurposeName = given.purpose ?? "full";
  const ends = purpose === "withdraw";
  const { where, category, group, lacking, sku, changed } = given;
  // What is named to be withdrawn may not be in the catalogue any more: the ledger knows it. What changed the purposes
  // know of each row: choosing by it too would fill and shape every listing twice.
  const wished = { where, category, group, lacking, sku: ends ? undefined : sku };
  const isPart =
    isNarrowed({ ...wished, changed }) || given.limit !== undefined || given.failed !== undefined;
  return {
    purpose,
    choice: await chooseProducts(open, wished, io),
    kind: purpose === "full" && isPart ? "chosen" : purpose,
    only: listed(given.only),
    changedOnly: changed,
    keepLive: given.keepLive,
    limit: given.limit ?? Infinity,
    ending: ends && sku !== undefined ? await skusIn(sku, io) : undefined,
    confirmedPrices: await confirmedPrices(given.confirmPrices, open.store, io),
    confirmed: given.yes,
    isTrial: given.dryRun,
    at: io.now().toISOString(),
  };
}

/** What a result report refused, and nothing else. */
async function withFailed(
  report: string | undefined,
  channels: readonly WorkspaceChannel[],
  wishes: BuildWishes,
  { store }: OpenCatalogue,
  io: Io,
): Promise<BuildWishes> {
  if (report === undefined) return wishes;
  const [channel, ...others] = channels;
  if (channel === undefined || others.length > 0)
    throw new Refusal([
      diagnostic("unknown-option", { reason: "--failed: refusals are one channel's; name that channel" }),
    ]);
  const { failedSkus, refusedSkus } = await import("../flow/exchange/failed-skus.js");
  const { channel: name } = channel.setup;
  const failed =
    report === ""
      ? await refusedSkus(store.jobsOf(name))
      : await failedSkus(resolve(io.cwd, report), channel, store.ledgerOf(name));
  const { choice } = wishes;
  return {
    ...wishes,
    choice: {
      ...choice,
      isAll: false,
      isMeant: (product, on) => failed.has(product.sku) && choice.isMeant(product, on),
    },
  };
}

/** The channels that are named; where none is, all that have files for this purpose. */
async function channelsFor(
  { purpose = "full" }: GivenHere,
  args: readonly string[],
  { workspace, store, surroundings }: OpenCatalogue,
): Promise<readonly WorkspaceChannel[]> {
  const inUse = await loadChannels(workspace, store, args, await surroundings());
  const channels =
    args.length > 0 ? inUse : inUse.filter(({ setup }) => setup.definition.purposes.includes(purpose));
  for (const channel of channels) refusePurpose(channel, purpose);
  return channels;
}

async function confirmedPrices(
  list: string | undefined,
  store: Store,
  io: Io,
): Promise<ConfirmedPrices | undefined> {
  if (list === undefined) return undefined;
  if (list.trim() === "all") return "all";
  const skus = new Set(await skusIn(list, io));
  await refuseUnknownSkus(skus, store);
  return skus;
}
