/** The ledger of one channel. */
import type Database from "better-sqlite3";
import type { BuildKind, ChannelLedger, LedgerEntry, LedgerState } from "../ledger.js";
import { openBook } from "./built-book.js";
import { entryOf, inOrder, listingColumns, READ_BATCH, type ListingRow } from "./listing-rows.js";
import { adoptExport, builtState, sendBuild } from "./sent-builds.js";

/** What was sent stands in the ledger, what was built in the build's book. */
const tableOf = (state: LedgerState): string => (state === "sent" ? "ledger" : "built_listing");

function lookUps(database: Database.Database, state: LedgerState) {
  const table = tableOf(state);
  // Only what was sent is asked by the groups' names, and only for the groups' own rows.
  const byGroup = state === "sent" ? "INDEXED BY ledger_group" : "";
  const where = `channel = ? AND state = ?`;
  return {
    find: database.prepare<[string, string, string], ListingRow>(
      `SELECT ${listingColumns} FROM ${table} WHERE ${where} AND sku = ?`,
    ),
    // Two queries, since one with an "or" reads the whole channel.
    ofGroup: database.prepare<[string, string, string], ListingRow>(
      `SELECT ${listingColumns} FROM ${table} ${byGroup} WHERE ${where} AND is_group = 1 AND grp = ?`,
    ),
    ofParts: database.prepare<[string, string, string, string], ListingRow>(
      `SELECT ${listingColumns} FROM ${table} ${byGroup} WHERE ${where} AND is_group = 1 AND grp >= ? AND grp < ?`,
    ),
    next: database.prepare<[string, string, string], ListingRow>(
      `SELECT ${listingColumns} FROM ${table} WHERE ${where} AND sku > ? ORDER BY sku LIMIT ${READ_BATCH}`,
    ),
  };
}

/** The ledger of a channel. */
export function channelLedger(database: Database.Database, channel: string): ChannelLedger {
  const prepared = new Map<LedgerState, ReturnType<typeof lookUps>>();
  const among = (state: LedgerState): ReturnType<typeof lookUps> => {
    const known = prepared.get(state) ?? lookUps(database, state);
    prepared.set(state, known);
    return known;
  };
  const any = database
    .prepare<[string], number>("SELECT 1 FROM ledger WHERE channel = ? AND state = 'sent' LIMIT 1")
    .pluck();
  const last = database
    .prepare<[string], number | null>("SELECT max(number) FROM built_file WHERE channel = ?")
    .pluck();
  const builds = database.prepare<
    [string],
    { readonly kind: BuildKind; readonly number: number; readonly names: string }
  >(
    `SELECT kind, number, json_group_array(name) AS names FROM built_file AS own
     WHERE channel = ? AND number = (SELECT max(number) FROM built_file WHERE channel = own.channel AND kind = own.kind)
     GROUP BY kind, number ORDER BY number DESC`,
  );
  const addFile = database.prepare<[string, number, string, BuildKind]>(
    "INSERT INTO built_file (channel, number, name, kind) VALUES (?, ?, ?, ?)",
  );
  const latest = (): number => last.get(channel) ?? 0;
  return {
    isEmpty: async () => any.get(channel) === undefined,
    async of({ skus, groups = [], state = "sent" }) {
      const found = new Map<string, LedgerEntry>();
      const { find, ofGroup, ofParts } = among(state);
      for (const sku of skus) {
        const row = find.get(channel, state, sku);
        if (row !== undefined) found.set(sku, entryOf(row));
      }
      for (const group of groups)
        for (const row of [
          ...ofGroup.all(channel, state, group),
          ...ofParts.all(channel, state, `${group}-`, `${group}.`),
        ])
          found.set(row.sku, entryOf(row));
      return found;
    },
    entries(state: LedgerState = "sent") {
      const { next } = among(state);
      return inOrder((after) => next.all(channel, state, after), entryOf);
    },
    built(kind) {
      const { next } = among("built");
      return inOrder((after) => next.all(channel, builtState(kind), after), entryOf);
    },
    nextNumber: async () => latest() + 1,
    builds: async () =>
      builds
        .all(channel)
        .map(({ names, ...build }) => ({ ...build, files: JSON.parse(names) as readonly string[] })),
    async begin(purpose, at, kind) {
      const book = openBook(database, { channel, state: builtState(kind), purpose, at });
      const commit = database.transaction((files: readonly string[]) => {
        book.commit();
        const number = latest() + 1;
        for (const file of files) addFile.run(channel, number, file, kind);
      });
      return {
        note: async (family, kept) => book.note(family, kept),
        commit: async (files) => commit.immediate(files),
        discard: async () => book.discard(),
      };
    },
    async beginExport(state, at) {
      const book = openBook(database, { channel, state, purpose: "export", at });
      const commit = database.transaction(() => book.commit());
      return {
        note: async (family, kept) => book.note(family, kept),
        commit: async () => commit.immediate(),
        discard: async () => book.discard(),
      };
    },
    adopt: async (at, ids) => adoptExport(database, channel, at, ids),
    markSent: async (wish) => sendBuild(database, channel, wish),
  };
}
