import { bareObject } from "../../core/own.js";
import type Database from "better-sqlite3";
import type { LiveListing } from "../../core/listing/live-listing.js";
import type { BuildKind, ChannelLedger, LedgerEntry, LedgerState } from "../ledger.js";
import { builtState, sendBuild } from "./sent-builds.js";
import { FIELD_SEPARATOR, FIELD_END } from "./schema.js";

interface Row {
  readonly sku: string;
  readonly is_group: number;
  readonly withdrawn: number;
  readonly name: string | null;
  readonly gtin: string | null;
  readonly price: string | null;
  readonly category: string;
  readonly axes: string;
  readonly grp: string | null;
  readonly texts: string;
  readonly purpose: string;
  readonly at: string;
}

type Put = [
  channel: string,
  sku: string,
  isGroup: number,
  withdrawn: number,
  name: string | null,
  gtin: string | null,
  price: string | null,
  category: string,
  axes: string,
  group: string | null,
  texts: string,
  purpose: string,
  at: string,
];

const BATCH = 2000;
const READ_BATCH = 1000;
const content = "sku, is_group, withdrawn, name, gtin, price, category, axes, grp, texts, purpose";
const columns = `channel, state, ${content}, at`;

const marks = new RegExp(`[${FIELD_SEPARATOR}${FIELD_END}]`, "g");

/** Values by field in one text: most are never looked at again, and those are not taken apart. */
const textsOf = (values: LiveListing["values"]): string => {
  let texts = "";
  for (const code in values)
    // eslint-disable-next-line house/data-names -- its own names, one after the other
    texts += `${code}${FIELD_SEPARATOR}${(values[code] ?? "").replace(marks, " ")}${FIELD_END}`;
  return texts;
};

const valuesIn = (texts: string): LiveListing["values"] => {
  const values = bareObject<string>();
  for (let from = 0; from < texts.length;) {
    const [middle, end] = [texts.indexOf(FIELD_SEPARATOR, from), texts.indexOf(FIELD_END, from)];
    // eslint-disable-next-line house/data-names -- a bare object has no name of the language
    values[texts.slice(from, middle)] = texts.slice(middle + 1, end);
    from = end + 1;
  }
  return values;
};

const listingOf = (row: Row): LiveListing => {
  let values: LiveListing["values"] | undefined;
  return {
    name: row.name ?? undefined,
    gtin: row.gtin ?? undefined,
    price: row.price ?? undefined,
    category: row.category,
    axes: row.axes,
    group: row.grp ?? undefined,
    ...(row.is_group === 1 ? { isGroup: true } : {}),
    ...(row.withdrawn === 1 ? { withdrawn: true } : {}),
    get values() {
      return (values ??= valuesIn(row.texts));
    },
  };
};

const entryOf = (row: Row): LedgerEntry => ({
  sku: row.sku,
  listing: listingOf(row),
  purpose: row.purpose,
  at: row.at,
});

export const channelLedger = (database: Database.Database, channel: string): ChannelLedger => {
  const find = database.prepare<[string, string, string], Row>(
    `SELECT ${content}, at FROM ledger WHERE channel = ? AND state = ? AND sku = ?`,
  );
  // Two queries, since one with an "or" reads the whole channel.
  const ofGroup = database.prepare<[string, string, string], Row>(
    `SELECT ${content}, at FROM ledger INDEXED BY ledger_group
     WHERE channel = ? AND state = ? AND is_group = 1 AND grp = ?`,
  );
  const ofParts = database.prepare<[string, string, string, string], Row>(
    `SELECT ${content}, at FROM ledger INDEXED BY ledger_group
     WHERE channel = ? AND state = ? AND is_group = 1 AND grp >= ? AND grp < ?`,
  );
  const next = database.prepare<[string, string, string], Row>(
    `SELECT ${content}, at FROM ledger WHERE channel = ? AND state = ? AND sku > ? ORDER BY sku LIMIT ${READ_BATCH}`,
  );
  const any = database
    .prepare<[string], number>("SELECT 1 FROM ledger WHERE channel = ? AND state = 'sent' LIMIT 1")
    .pluck();
  const put = database.prepare<Put>(
    `INSERT OR REPLACE INTO ledger (${columns}) VALUES (?, 'coming', ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  );
  const forget = database.prepare<[string, string]>("DELETE FROM ledger WHERE channel = ? AND state = ?");
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
  const holds = database.prepare<[string, string]>(
    "UPDATE ledger SET state = ? WHERE channel = ? AND state = 'coming'",
  );
  const latest = (): number => last.get(channel) ?? 0;
  const putAll = database.transaction((notes: readonly Put[]) => {
    for (const note of notes) put.run(...note);
  });
  return {
    isEmpty: async () => any.get(channel) === undefined,
    async of({ skus, groups = [], state = "sent" }) {
      const found = new Map<string, LedgerEntry>();
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
    async *entries(state: LedgerState = "sent") {
      for (let from = ""; ;) {
        const rows = next.all(channel, state, from);
        if (rows.length > 0) yield rows.map(entryOf);
        const end = rows.at(-1);
        if (end === undefined || rows.length < READ_BATCH) return;
        from = end.sku;
      }
    },
    nextNumber: async () => latest() + 1,
    builds: async () =>
      builds
        .all(channel)
        .map(({ names, ...build }) => ({ ...build, files: JSON.parse(names) as readonly string[] })),
    async begin(purpose, at, kind) {
      forget.run(channel, "coming");
      let waiting: Put[] = [];
      const flush = (): void => {
        if (waiting.length > 0) putAll.immediate(waiting);
        waiting = [];
      };
      const commit = database.transaction((files: readonly string[]) => {
        flush();
        const number = latest() + 1;
        for (const file of files) addFile.run(channel, number, file, kind);
        forget.run(channel, builtState(kind));
        holds.run(builtState(kind), channel);
      });
      return {
        async note(entries) {
          for (const [sku, one] of entries)
            waiting.push([
              ...([channel, sku, one.isGroup === true ? 1 : 0, one.withdrawn === true ? 1 : 0] as const),
              ...([one.name ?? null, one.gtin ?? null, one.price ?? null] as const),
              ...([one.category, one.axes, one.group ?? null, textsOf(one.values), purpose, at] as const),
            ]);
          if (waiting.length >= BATCH) flush();
        },
        commit: async (files) => commit.immediate(files),
        async discard() {
          waiting = [];
          forget.run(channel, "coming");
        },
      };
    },
    markSent: async (wish) => sendBuild(database, channel, wish),
  };
};
