/** One channel's build: its files, its record, its book in the ledger, put together from parts. */
import { addAll } from "../../core/many.js";
import type { PurposeName } from "../../core/channel/purpose-names.js";
import type { CauseCollector } from "../../core/diagnostics/causes.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { accountFacts } from "./account-facts.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { layoutFiles } from "./layout-files.js";
import type { BuiltFile, LayoutFiles } from "./built-files.js";
import { layoutPieces, type LayoutPiece } from "./layout-pieces.js";
import type { KeptJudged } from "../../core/listing/judged.js";
import type { BuiltPart } from "./part-build.js";
import { buildRecord, RECORD_FILE } from "./build-record.js";
import { textRegister } from "../../core/catalogue/beside/text-register.js";
import { keptListing } from "../../core/listing/live-text.js";
import { withdrawal } from "../../core/purpose/withdraw.js";
import { layoutFor, layoutsFor, named, purposeFactsFor, type BuildWishes } from "./build-wishes.js";
import { formerFiles } from "./former-files.js";
import { endingListings, noteGoing, refuseMany } from "./ending-listings.js";
import { countedFiles } from "../../workspace/landing/landing.js";
import type { WritableCatalogue } from "../open-catalogue.js";
import { channelCounts, type ChannelCounts } from "../channel-counts.js";

/** Where rows stand in the ledger that are of no family of the catalogue. */
const NO_FAMILY = -1;

/** The files of one channel on their way: they land with those of the others, or not at all. */
export interface ChannelBuild {
  readonly channel: WorkspaceChannel;
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
  /** Takes what became of a product, in the order of the catalogue. */
  take(kept: KeptJudged): void;
  /** Takes a ready listing that is not for these files. */
  omit(kept: KeptJudged): void;
  /** Takes what the files hold of one part of the catalogue, behind the parts before it. */
  join(part: BuiltPart): Promise<void>;
  /** Writes down what was taken. */
  note(): Promise<void>;
  /** For withdrawals: when all products were seen, what the channel has and is not to have any more. */
  withdraw(): Promise<void>;
  /** Ends the files; they are whole, and nobody sees them yet. */
  finish(): Promise<readonly BuiltFile[]>;
  /** Notes what the finished files hold. */
  hold(): Promise<void>;
  discard(): Promise<void>;
}

/** Refuses a purpose that the channel does not take. */
export function refusePurpose({ setup }: WorkspaceChannel, purpose: PurposeName): void {
  const known = setup.definition.purposes;
  if (!known.includes(purpose))
    throw new Refusal([diagnostic("unknown-purpose", { purpose, channel: setup.definition.label, known })]);
}

/** Starts a channel's files in a folder: one a layout, and the record of the build. */
export async function buildChannel(
  { workspace, store, landing }: WritableCatalogue,
  channel: WorkspaceChannel,
  folder: string,
  wishes: BuildWishes,
): Promise<ChannelBuild> {
  const ledger = store.ledgerOf(channel.setup.channel);
  const { definition } = channel.setup;
  const { purpose, kind } = wishes;
  const notes = wishes.isTrial ? undefined : await ledger.begin(purpose, wishes.at, kind);
  const account = accountFacts(workspace, channel);
  // What a trial writes nobody is to find: it is only counted.
  const staged = wishes.isTrial ? countedFiles() : await landing.into(folder);
  const left = channelCounts();
  const omitted = left.causes;
  const purposeFacts = purposeFactsFor(channel.setup, wishes);
  const facts = { account, action: purposeFacts.rule.action };
  const number = await ledger.nextNumber();
  const own = layoutsFor(channel.setup, purpose);
  const layouts: LayoutFiles[] = [];
  for (const layout of own) {
    const wanted = named(layoutFor(layout, purposeFacts, kind), channel.setup, number);
    layouts.push(await layoutFiles(wanted, channel.setup, facts, staged, channel.templateFolders));
  }
  const counts = channelCounts();
  const record = await buildRecord(await staged.create(RECORD_FILE), {
    channel: channel.setup.channel,
    definition: definition.channel,
    version: definition.version,
    purpose,
    kind,
  });
  let written = 0;
  let isEmpty = true;
  const join = async (pieces: readonly LayoutPiece[]): Promise<void> => {
    for (const [at, piece] of pieces.entries()) await layouts[at]?.join(piece);
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
    take(kept) {
      counts.countKept(kept);
      record.take(kept);
    },
    omit(kept) {
      left.countKept(kept);
      record.omit(kept);
    },
    note: () => record.write(),
    async join(part) {
      await join(part.pieces);
      for (const [family, kept] of part.kept) await notes?.note(family, kept);
      for (const product of part.going) noteGoing(going, product);
      written += part.written;
      if (part.kept.length > 0) isEmpty = false;
    },
    async withdraw() {
      if (purpose !== "withdraw") return;
      const ending = await endingListings(ledger, going, wishes, channel.setup.channel);
      refuseMany(channel, ending, wishes);
      const pieces = own.map((layout) => layoutPieces(layoutFor(layout, purposeFacts, kind), facts));
      for (const { sku, listing } of ending.entries) {
        const family = withdrawal(sku, listing, definition);
        for (const piece of pieces) piece.write(family);
        written += family.members.length;
        isEmpty = false;
        await notes?.note(NO_FAMILY, [keptListing(sku, { ...listing, withdrawn: true })]);
      }
      await join(pieces.map((piece) => piece.take()));
    },
    async finish() {
      for (const layout of layouts) addAll(files, await layout.finish());
      const { ready, held, leftOut } = counts;
      const others = omitted.count("advice");
      await record.finish(
        { ready, held, leftOut, ...(others === 0 ? {} : { notForThisFile: others }), written },
        files,
      );
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
}
