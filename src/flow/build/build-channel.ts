import { addAll } from "../../core/many.js";
import type { PurposeName } from "../../core/channel/purpose-names.js";
import { causeCollector, type CauseCollector } from "../../core/diagnostics/causes.js";
import { diagnostic, isError, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { asSku } from "../../core/ids.js";
import { sentence } from "../../workspace/wording.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { productOf, type Outcome } from "../../core/listing/listing.js";
import type { LayoutDefinition } from "../../core/channel/layout-definition.js";
import type { AccountFacts } from "../../layouts/layout.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { layoutFiles } from "./layout-files.js";
import type { BuiltFile, LayoutFiles } from "./built-files.js";
import { textRegister } from "../../core/catalogue/beside/text-register.js";
import { rowsOf, type FileFamily } from "../../core/listing/shape/file-family.js";
import { shape } from "../../core/listing/shape/shape.js";
import { keptListing } from "../../core/listing/live-text.js";
import { noted } from "../../core/purpose/noted.js";
import type { PurposeFacts } from "../../core/purpose/purpose.js";
import { purposes } from "../../core/purpose/purposes.js";
import { withdrawal } from "../../core/purpose/withdraw.js";
import { chosenOf, layoutFor, meantOn, named, purposeFactsFor, type BuildWishes } from "./build-wishes.js";
import { formerFiles } from "./former-files.js";
import { endingListings, noteGoing, refuseMany } from "./ending-listings.js";
import { countedFiles } from "../../workspace/landing/landing.js";
import type { WritableCatalogue } from "../open-catalogue.js";
import type { Workspace } from "../../workspace/workspace.js";
import { channelCounts, type ChannelCounts } from "../channel-counts.js";
import type { ChannelRun } from "../run-channels.js";

export const RECORD_FILE = "build.json";

/** Where rows stand in the ledger that are of no family of the catalogue. */
const NO_FAMILY = -1;

/** The files of one channel on their way: they land with those of the others, or not at all. */
export interface ChannelBuild extends ChannelRun {
  readonly counts: ChannelCounts;
  /** Listings in the files so far. */
  readonly written: number;
  /** Whether no row is in them, not even a group's own. */
  readonly isEmpty: boolean;
  /** The files' names, when they are finished. */
  readonly files: readonly string[];
  /** Why ready listings are not in them, with how many. */
  readonly omitted: CauseCollector;
  /** What a person should know of the files. */
  told(): readonly string[];
  /** For withdrawals: when all products were seen, what the channel has and is not to have any more. */
  withdraw(): Promise<void>;
  /** Ends the files; they are whole, and nobody sees them yet. */
  finish(): Promise<readonly BuiltFile[]>;
  /** Notes what the finished files hold. */
  hold(): Promise<void>;
  discard(): Promise<void>;
}

const accountFacts = (workspace: Workspace, { setup, account }: WorkspaceChannel): AccountFacts => {
  const shopUrl = account.shop_url;
  if (
    shopUrl === undefined &&
    setup.definition.layouts.some(({ format }) => format === "rss" || format === "atom")
  )
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

/** Layouts that have files of a purpose: all, where none says for what it is. */
const isFor =
  (purpose: PurposeName) =>
  ({ purposes: own }: LayoutDefinition): boolean =>
    own === undefined || own.includes(purpose);

/** Refuses a purpose that the channel does not take. */
export const refusePurpose = ({ setup }: WorkspaceChannel, purpose: PurposeName): void => {
  const known = setup.definition.purposes;
  if (!known.includes(purpose))
    throw new Refusal([diagnostic("unknown-purpose", { purpose, channel: setup.definition.label, known })]);
};

/** Starts a channel's files in a folder: one a layout, and the record of the build. */
export const buildChannel = async (
  { workspace, store, landing }: WritableCatalogue,
  channel: WorkspaceChannel,
  folder: string,
  wishes: BuildWishes,
): Promise<ChannelBuild> => {
  const ledger = store.ledgerOf(channel.setup.channel);
  const { definition } = channel.setup;
  const { purpose, kind } = wishes;
  const isMeant = meantOn(wishes, channel.setup.channel);
  const notes = wishes.isTrial ? undefined : await ledger.begin(purpose, wishes.at, kind);
  const account = accountFacts(workspace, channel);
  // What a trial writes nobody is to find: it is only counted.
  const staged = wishes.isTrial ? countedFiles() : await landing.into(folder);
  const omitted = causeCollector();
  const leaving: Diagnostic[] = [];
  const purposeFacts: PurposeFacts = {
    ...purposeFactsFor(channel.setup, wishes),
    omit: ({ sku }, { code, facts }) =>
      leaving.push(
        diagnostic(code, facts as never, { product: asSku(sku), channel: channel.setup.channel }, "advice"),
      ),
  };
  const facts = { account, action: purposeFacts.rule.action };
  const number = await ledger.nextNumber();
  const layouts: LayoutFiles[] = [];
  const own = definition.layouts.filter(isFor(purpose));
  for (const layout of own)
    layouts.push(
      await layoutFiles(
        named(layoutFor(layout, purposeFacts, kind), channel.setup, number),
        channel.setup,
        facts,
        staged,
        channel.templateFolders,
      ),
    );
  const counts = channelCounts();
  const record = await staged.create(RECORD_FILE);
  await record.write(
    `${JSON.stringify({ channel: channel.setup.channel, definition: definition.channel, version: definition.version, purpose, kind }).slice(0, -1)},\n"notSent": [`,
  );
  let separator = "\n";
  const note = async (entry: Readonly<Record<string, unknown>>): Promise<void> => {
    await record.write(separator + JSON.stringify(entry));
    separator = ",\n";
  };
  /** Ready listings that are not for a file of this purpose. */
  const noteLeaving = async (): Promise<void> => {
    for (const finding of leaving.splice(0)) {
      omitted.add(finding);
      const { code, product: sku } = finding;
      await note({ sku, state: "not in this file", because: [{ code, message: sentence(finding) }] });
    }
  };
  let written = 0;
  let isEmpty = true;
  const write = async (family: FileFamily): Promise<void> => {
    for (const files of layouts) await files.write(family);
    written += family.members.length;
    isEmpty = false;
  };
  const going = textRegister();
  const files: BuiltFile[] = [];
  return {
    channel,
    counts,
    omitted,
    told: () => layouts.flatMap((files) => files.told?.() ?? []),
    get written() {
      return written;
    },
    get isEmpty() {
      return isEmpty;
    },
    get files() {
      return files.map(({ name }) => name);
    },
    async take(outcome) {
      counts.take(outcome);
      if (purpose === "withdraw" && outcome.kind !== "left-out") noteGoing(going, productOf(outcome));
      if (outcome.kind !== "ready") await note(noteOf(outcome));
    },
    async family(outcomes, family) {
      if (purpose === "withdraw" || written >= wishes.limit) return;
      for (const shaped of shape(outcomes, family, channel.setup)) {
        const chosen = chosenOf(shaped, isMeant);
        const applied = chosen === undefined ? undefined : purposes[purpose](chosen, purposeFacts);
        await noteLeaving();
        if (applied === undefined) continue;
        await write(applied);
        await notes?.note(
          family.number,
          rowsOf(applied).flatMap((row) => noted(row, purposeFacts) ?? []),
        );
      }
    },
    async withdraw() {
      if (purpose !== "withdraw") return;
      const ending = await endingListings(ledger, going, wishes, channel.setup.channel);
      refuseMany(channel, ending, wishes);
      for (const { sku, listing } of ending.entries) {
        await write(withdrawal(sku, listing, definition));
        await notes?.note(NO_FAMILY, [keptListing(sku, { ...listing, withdrawn: true })]);
      }
    },
    async finish() {
      for (const layout of layouts) addAll(files, await layout.finish());
      const { ready, held, leftOut } = counts;
      const rows = written;
      await record.write(
        `\n],\n"counts": ${JSON.stringify({ ready, held, leftOut, ...(omitted.count("advice") === 0 ? {} : { notForThisFile: omitted.count("advice") }), written: rows })},\n"files": ${JSON.stringify(files)}\n}\n`,
      );
      await record.finish();
      const built = files.map(({ name }) => name);
      const former = await formerFiles(folder, kind, { setup: channel.setup, layouts: own }, ledger, built);
      for (const name of former) staged.remove(name);
      return files;
    },
    async hold() {
      await notes?.commit(files.map(({ name }) => name));
    },
    async discard() {
      await staged.discard();
      await notes?.discard();
    },
  };
};

/** A product that is not in the files, and why. */
const noteOf = (outcome: Exclude<Outcome, { kind: "ready" }>): Readonly<Record<string, unknown>> => {
  const { sku } = productOf(outcome);
  if (outcome.kind === "left-out")
    return {
      sku,
      state: "left out",
      because: outcome.findings.map((finding) => ({ code: finding.code, message: sentence(finding) })),
    };
  return {
    sku,
    state: "held",
    because: outcome.findings.filter(isError).map((finding) => ({
      code: finding.code,
      field: finding.field,
      message: sentence(finding),
    })),
  };
};
