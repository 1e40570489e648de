import type Database from "better-sqlite3";
import type { LiveListing } from "../core/listing/live-listing.js";

/** What was handed over of one SKU, and when and for what. */
export interface LedgerEntry {
  readonly sku: string;
  readonly listing: LiveListing;
  readonly purpose: string;
  /** ISO 8601; "" for what an earlier version noted. */
  readonly at: string;
}

export type LedgerState = "built" | "sent";

/** What one channel has of ours, by SKU: what the last builds hold, and what was sent. */
export interface ChannelLedger {
  readonly isEmpty: boolean;
  /** What the channel has of a product; undefined where nothing was sent, or it was withdrawn. */
  sent(sku: string): LiveListing | undefined;
  /** What the last builds, sent or not, hold of a product. */
  built(sku: string): LiveListing | undefined;
  entry(sku: string): LedgerEntry | undefined;
  /** Every SKU that was ever sent, withdrawn ones too, in order. */
  entries(state?: LedgerState): IterableIterator<LedgerEntry>;
  /** The number of the next build of this channel, from 1. */
  nextNumber(): number;
  /** The files of the last build. */
  builtFiles(): readonly string[];
  /** A build begins. Nothing holds until `commit`. */
  begin(purpose: string, at: string): LedgerNotes;
  /** The last builds were sent: what they hold is what the channel has. Gives how many listings. */
  markSent(at: string): number;
}

export interface LedgerNotes {
  note(sku: string, entry: LiveListing): void;
  /** What was noted holds, with the names of the files that it stands in. */
  commit(files: readonly string[]): void;
  /** Nothing of it holds. */
  discard(): void;
}

interface Row {
  readonly sku: string;
  readonly entry: string;
  readonly purpose: string;
  readonly at: string;
}

const BATCH = 10_000;
const columns = "channel, state, sku, entry, purpose, at";

const read = ({ sku, entry, purpose, at }: Row): LedgerEntry => ({
  ...{ sku, purpose, at },
  listing: JSON.parse(entry) as LiveListing,
});

export const channelLedger = (database: Database.Database, channel: string): ChannelLedger => {
  const find = database.prepare<[string, string, string], Row>(
    "SELECT sku, entry, purpose, at FROM ledger WHERE channel = ? AND state = ? AND sku = ?",
  );
  const all = database.prepare<[string, string], Row>(
    "SELECT sku, entry, purpose, at FROM ledger WHERE channel = ? AND state = ? ORDER BY sku",
  );
  const any = database
    .prepare<[string], number>("SELECT 1 FROM ledger WHERE channel = ? AND state = 'sent' LIMIT 1")
    .pluck();
  const put = database.prepare<[string, string, string, string, string]>(
    `INSERT OR REPLACE INTO ledger (${columns}) VALUES (?, 'coming', ?, ?, ?, ?)`,
  );
  const forget = database.prepare<[string, string]>("DELETE FROM ledger WHERE channel = ? AND state = ?");
  const last = database
    .prepare<[string], number | null>("SELECT max(number) FROM built_file WHERE channel = ?")
    .pluck();
  const names = database
    .prepare<[string, number], string>("SELECT name FROM built_file WHERE channel = ? AND number = ?")
    .pluck();
  const addFile = database.prepare<[string, number, string]>("INSERT INTO built_file VALUES (?, ?, ?)");
  const nextNumber = (): number => (last.get(channel) ?? 0) + 1;
  const listing = (state: LedgerState, sku: string): LiveListing | undefined => {
    const row = find.get(channel, state, sku);
    const found = row === undefined ? undefined : read(row).listing;
    return found?.withdrawn === true ? undefined : found;
  };
  return {
    get isEmpty() {
      return any.get(channel) === undefined;
    },
    sent: (sku) => listing("sent", sku),
    built: (sku) => listing("built", sku),
    entry(sku) {
      const row = find.get(channel, "sent", sku);
      return row === undefined ? undefined : read(row);
    },
    *entries(state = "sent") {
      for (const row of all.iterate(channel, state)) yield read(row);
    },
    nextNumber,
    builtFiles: () => names.all(channel, nextNumber() - 1),
    begin(purpose, at) {
      forget.run(channel, "coming");
      let waiting: (readonly [string, string])[] = [];
      const write = database.transaction((notes: typeof waiting) => {
        for (const [sku, entry] of notes) put.run(channel, sku, entry, purpose, at);
      });
      const flush = (): void => {
        if (waiting.length > 0) write.immediate(waiting);
        waiting = [];
      };
      return {
        note(sku, entry) {
          waiting.push([sku, JSON.stringify(entry)]);
          if (waiting.length >= BATCH) flush();
        },
        commit: database.transaction((files: readonly string[]) => {
          flush();
          const number = nextNumber();
          for (const file of files) addFile.run(channel, number, file);
          forget.run(channel, "built");
          database
            .prepare("UPDATE ledger SET state = 'built' WHERE channel = ? AND state = 'coming'")
            .run(channel);
        }),
        discard() {
          waiting = [];
          forget.run(channel, "coming");
        },
      };
    },
    markSent: database.transaction(
      (at: string) =>
        database
          .prepare(
            `INSERT OR REPLACE INTO ledger (${columns})
             SELECT channel, 'sent', sku, entry, purpose, ? FROM ledger WHERE channel = ? AND state = 'built'`,
          )
          .run(at, channel).changes,
    ),
  };
};
