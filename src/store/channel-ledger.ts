import type Database from "better-sqlite3";
import type { LiveListing } from "../core/listing/live-listing.js";

/** What one channel has of ours, by SKU: what the last build holds, and what was sent. */
export interface ChannelLedger {
  readonly isEmpty: boolean;
  /** What was last sent of a product. */
  sent(sku: string): LiveListing | undefined;
  /** A build begins: what the last one was to send is forgotten. Nothing holds until `commit`. */
  begin(): LedgerNotes;
  /** The last build was sent: what it holds is what the channel has. Gives how many listings. */
  markSent(): number;
}

export interface LedgerNotes {
  note(sku: string, entry: LiveListing): void;
  commit(): void;
}

const BATCH = 10_000;

export const channelLedger = (database: Database.Database, channel: string): ChannelLedger => {
  const find = database
    .prepare<[string, string], string>(
      "SELECT entry FROM ledger WHERE channel = ? AND state = 'sent' AND sku = ?",
    )
    .pluck();
  const any = database
    .prepare<[string], number>("SELECT 1 FROM ledger WHERE channel = ? AND state = 'sent' LIMIT 1")
    .pluck();
  const put = database.prepare<[string, string, string]>(
    "INSERT OR REPLACE INTO ledger (channel, state, sku, entry) VALUES (?, 'coming', ?, ?)",
  );
  const forget = database.prepare<[string, string]>("DELETE FROM ledger WHERE channel = ? AND state = ?");
  const write = database.transaction((notes: readonly (readonly [string, string])[]) => {
    for (const [sku, entry] of notes) put.run(channel, sku, entry);
  });
  return {
    get isEmpty() {
      return any.get(channel) === undefined;
    },
    sent(sku) {
      const entry = find.get(channel, sku);
      return entry === undefined ? undefined : (JSON.parse(entry) as LiveListing);
    },
    begin() {
      forget.run(channel, "coming");
      let waiting: (readonly [string, string])[] = [];
      const flush = (): void => {
        if (waiting.length > 0) write.immediate(waiting);
        waiting = [];
      };
      return {
        note(sku, entry) {
          waiting.push([sku, JSON.stringify(entry)]);
          if (waiting.length >= BATCH) flush();
        },
        commit: database.transaction(() => {
          flush();
          forget.run(channel, "built");
          database
            .prepare("UPDATE ledger SET state = 'built' WHERE channel = ? AND state = 'coming'")
            .run(channel);
        }),
      };
    },
    markSent: database.transaction(
      () =>
        database
          .prepare(
            `INSERT OR REPLACE INTO ledger (channel, state, sku, entry)
             SELECT channel, 'sent', sku, entry FROM ledger WHERE channel = ? AND state = 'built'`,
          )
          .run(channel).changes,
    ),
  };
};
