import type Database from "better-sqlite3";

/** The prices of one channel, as canonical texts by SKU: those of the last build, and those that were sent. */
export interface ChannelPrices {
  sent(sku: string): string | undefined;
  /** A build begins: what the last one was to send is forgotten. Nothing holds until `commit`. */
  begin(): PriceNotes;
  /** The last build was sent: its prices are those that the channel has. Gives how many. */
  markSent(): number;
}

export interface PriceNotes {
  note(sku: string, price: string): void;
  commit(): void;
}

const BATCH = 10_000;

export const channelPrices = (database: Database.Database, channel: string): ChannelPrices => {
  const find = database
    .prepare<[string, string], string>(
      "SELECT price FROM channel_price WHERE channel = ? AND state = 'sent' AND sku = ?",
    )
    .pluck();
  const put = database.prepare<[string, string, string, string]>(
    "INSERT OR REPLACE INTO channel_price (channel, state, sku, price) VALUES (?, ?, ?, ?)",
  );
  const forget = database.prepare<[string, string]>(
    "DELETE FROM channel_price WHERE channel = ? AND state = ?",
  );
  const write = database.transaction((notes: readonly (readonly [string, string])[]) => {
    for (const [sku, price] of notes) put.run(channel, "coming", sku, price);
  });
  return {
    sent: (sku) => find.get(channel, sku),
    begin() {
      forget.run(channel, "coming");
      let waiting: (readonly [string, string])[] = [];
      const flush = (): void => {
        if (waiting.length > 0) write.immediate(waiting);
        waiting = [];
      };
      return {
        note(sku, price) {
          waiting.push([sku, price]);
          if (waiting.length >= BATCH) flush();
        },
        commit: database.transaction(() => {
          flush();
          forget.run(channel, "built");
          database
            .prepare("UPDATE channel_price SET state = 'built' WHERE channel = ? AND state = 'coming'")
            .run(channel);
        }),
      };
    },
    markSent: database.transaction(
      () =>
        database
          .prepare(
            `INSERT OR REPLACE INTO channel_price (channel, state, sku, price)
             SELECT channel, 'sent', sku, price FROM channel_price WHERE channel = ? AND state = 'built'`,
          )
          .run(channel).changes,
    ),
  };
};
