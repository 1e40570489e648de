/** A sending as an act of the history: what the channel has now, and what it had before beside it. */
import type Database from "better-sqlite3";
import { addRevision } from "./revision-row.js";
import { touchedProducts } from "./touched.js";
import type { BuildKind, SentCounts, SentWish } from "../ledger.js";

/**
 * Sending a build changes what a channel has; what it had stands beside it until the next one, so that it can be taken
 * back. In the column `withdrawn` of such a row 0 and 1 say that the row is what the channel had, and besides:
 */
const SAME = 2;
/** …that the channel had nothing. */
const ABSENT = 3;

/** The state of what a build of a kind holds: the whole file's is what others are compared with. */
export const builtState = (kind: BuildKind): string => (kind === "full" ? "built" : `built ${kind}`);

const content = "is_group, withdrawn, grp, content";
const columns = `channel, state, sku, ${content}, purpose, at`;
/** A row that stands for no listing. */
const marker = (kind: number, purpose: string, at: string): string =>
  `0, ${kind}, NULL, '', ${purpose}, ${at}`;

/** The state of what a channel had before a revision. */
export const beforeState = (revision: number): string => `before ${revision}`;

const sameContent = content
  .split(", ")
  .map((column) => `new.${column} IS old.${column}`)
  .join(" AND ");

const count = (
  database: Database.Database,
  where: string,
  values: readonly string[],
  table: "ledger" | "built_listing" = "ledger",
): number =>
  database
    .prepare(`SELECT count(*) FROM ${table} WHERE ${where}`)
    .pluck()
    .get(...values) as number;

/** What the channel has and the build does not, where the build is all that there is to be. */
const ENDING = `channel = ? AND state = 'sent' AND withdrawn = 0
  AND sku NOT IN (SELECT sku FROM built_listing WHERE channel = ? AND state = ?)`;

/** Notes a build as sent, as one act of the history. */
export function sendBuild(
  database: Database.Database,
  channel: string,
  { kind, at, whole, isTrial }: SentWish,
): SentCounts {
  const built = builtState(kind);
  const run = database.transaction((): SentCounts => {
    // A group's own row is noted too, and is no listing.
    const inBuild = "channel = ? AND state = ?";
    const isThere = count(database, inBuild, [channel, built], "built_listing") > 0;
    const listings = count(database, `${inBuild} AND is_group = 0`, [channel, built], "built_listing");
    const ended =
      whole && isThere ? count(database, `${ENDING} AND is_group = 0`, [channel, channel, built]) : 0;
    if (isTrial || !isThere) return { listings, ended, revision: undefined };
    const revision = noteAct(database, { channel, file: kind, at, listings });
    takeOver(database, { channel, state: built, rows: "built_listing", at, whole }, revision);
    // What a channel answered before is no longer the last that is known of these.
    database
      .prepare(
        `DELETE FROM standing WHERE channel = ? AND sku IN (SELECT sku FROM built_listing WHERE channel = ? AND state = ?)`,
      )
      .run(channel, channel, built);
    return { listings, ended, revision };
  });
  if (isTrial) return run.deferred();
  return database.inTransaction ? run() : run.immediate();
}

/** Makes what the last export held what the channel has, as one act of the history. */
export function adoptExport(
  database: Database.Database,
  channel: string,
  at: string,
  ids: ReadonlyMap<string, string>,
): SentCounts {
  const run = (): SentCounts => {
    const listings = count(
      database,
      "channel = ? AND state = 'live' AND is_group = 0",
      [channel],
      "built_listing",
    );
    const ended = count(database, `${ENDING} AND is_group = 0`, [channel, channel, "live"]);
    const revision = noteAct(database, { channel, file: "live listings", at, listings });
    takeOver(database, { channel, state: "live", rows: "built_listing", at, whole: true }, revision);
    database.prepare("DELETE FROM standing WHERE channel = ?").run(channel);
    const stand = database.prepare(
      `INSERT OR REPLACE INTO standing (channel, sku, state, job, at, given_id, code, message, field, content)
       VALUES (?, ?, 'live', 0, ?, ?, '', '', '', NULL)`,
    );
    for (const [sku, id] of ids) stand.run(channel, sku, at, id);
    return { listings, ended, revision };
  };
  return database.inTransaction ? run() : database.transaction(run).immediate();
}

/** Rows that become what the channel has. */
export interface TakenRows {
  readonly channel: string;
  /** The state of the book that they stand in. */
  readonly state: string;
  /** What they are selected from: the view of all books, or a part of it with the same columns. */
  readonly rows: string;
  readonly at: string;
  /** Whether what is not in the whole book has ended. */
  readonly whole: boolean;
  /** Further SKUs of which something else is known now: a query, and what it is asked with. */
  readonly besides?: readonly [sql: string, ...values: readonly (string | number)[]];
}

/** Makes rows of a book what the channel has; what it had stands beside it, by the revision. */
export function takeOver(database: Database.Database, taken: TakenRows, revision: number): void {
  const { channel, state, rows, at, whole } = taken;
  keepBefore(database, taken, beforeState(revision));
  touch(database, taken, revision);
  database
    .prepare(
      `INSERT OR REPLACE INTO ledger (${columns})
       SELECT channel, 'sent', sku, ${content}, purpose, ? FROM ${rows} WHERE channel = ? AND state = ?`,
    )
    .run(at, channel, state);
  if (whole)
    database
      .prepare(`UPDATE ledger SET withdrawn = 1, at = ?, purpose = 'full' WHERE ${ENDING}`)
      .run(at, channel, channel, state);
}

interface SentAct {
  readonly channel: string;
  /** What the history calls it: a build's kind, or the job that was answered. */
  readonly file: string;
  readonly at: string;
  readonly listings: number;
}

/** Adds an act to the history. Gives its number. */
export const noteAct = (database: Database.Database, { channel, file, at, listings }: SentAct): number =>
  addRevision(database, { kind: "sent", at, source: channel, file, counts: { read: listings } });

/** Notes the products of which the channel has something else now, and the families whose groups it has otherwise. */
function touch(
  database: Database.Database,
  { channel, besides }: Pick<TakenRows, "channel" | "besides">,
  revision: number,
): void {
  const changed = `channel = ? AND state = ? AND withdrawn <> ${SAME}`;
  const among = (sql: string): readonly unknown[] =>
    database.prepare(sql).pluck().all(channel, beforeState(revision));
  const touched = touchedProducts();
  const products = `SELECT id FROM product WHERE is_group = 0 AND sku IN (SELECT sku FROM ledger WHERE ${changed})`;
  for (const id of among(products)) touched.product(id as number);
  if (besides !== undefined) {
    const [sql, ...values] = besides;
    const ids = database.prepare(`SELECT id FROM product WHERE is_group = 0 AND sku IN (${sql})`).pluck();
    for (const id of ids.all(...values)) touched.product(id as number);
  }
  const familyOf = database.prepare<[string], number>("SELECT id FROM family WHERE name = ?").pluck();
  const groups = `SELECT DISTINCT own.grp FROM ledger AS changed JOIN ledger AS own USING (channel, sku)
    WHERE changed.${changed.replaceAll(" AND ", " AND changed.")} AND own.is_group = 1 AND own.grp IS NOT NULL`;
  for (const group of among(groups)) {
    // A part of a family, such as its red ones, has the family's name with something behind it.
    for (let name = group as string; name !== ""; name = name.slice(0, Math.max(0, name.lastIndexOf("-")))) {
      const family = familyOf.get(name);
      if (family !== undefined) touched.family(family);
    }
  }
  touched.keep(database, revision);
}

/** Only the latest can be taken back: what an earlier one changed is forgotten. */
function keepBefore(
  database: Database.Database,
  { channel, state: built, rows, whole }: TakenRows,
  before: string,
): void {
  database.prepare("DELETE FROM ledger WHERE channel = ? AND state LIKE 'before %'").run(channel);
  const keep = (select: string, ...values: readonly string[]): void =>
    void database.prepare(`INSERT INTO ledger (${columns}) ${select}`).run(...values);
  const pairs = `FROM ${rows} AS new JOIN ledger AS old ON old.channel = new.channel AND old.state = 'sent' AND old.sku = new.sku
    WHERE new.channel = ? AND new.state = ?`;
  const old = content
    .split(", ")
    .map((column) => `old.${column}`)
    .join(", ");
  keep(
    `SELECT old.channel, ?, old.sku, ${old}, old.purpose, old.at ${pairs} AND NOT (${sameContent})`,
    ...[before, channel, built],
  );
  keep(
    `SELECT old.channel, ?, old.sku, ${marker(SAME, "old.purpose", "old.at")} ${pairs} AND ${sameContent}`,
    ...[before, channel, built],
  );
  keep(
    `SELECT channel, ?, sku, ${marker(ABSENT, "''", "''")} FROM ${rows}
     WHERE channel = ? AND state = ? AND sku NOT IN (SELECT sku FROM ledger WHERE channel = ? AND state = 'sent')`,
    ...[before, channel, built, channel],
  );
  if (whole)
    keep(
      `SELECT channel, ?, sku, ${content}, purpose, at FROM ledger WHERE ${ENDING}`,
      ...[before, channel, channel, built],
    );
}

/** Whether what the channel had before a revision is still known. */
export const canTurnSent = (database: Database.Database, channel: string, revision: number): boolean =>
  count(database, "channel = ? AND state = ?", [channel, beforeState(revision)]) > 0;

/** Changes what the channel has with what it had before: done once it is taken back, done twice it holds again. */
export function turnSent(database: Database.Database, channel: string, revision: number): void {
  const before = beforeState(revision);
  const run = (sql: string, ...values: readonly string[]): void => void database.prepare(sql).run(...values);
  run(
    "DELETE FROM standing WHERE channel = ? AND sku IN (SELECT sku FROM ledger WHERE channel = ? AND state = ?)",
    ...[channel, channel, before],
  );
  const among = (which: string): string =>
    `sku IN (SELECT sku FROM ledger WHERE channel = ? AND state = ? AND ${which})`;
  // Those with the same content change the day and purpose alone.
  run(
    `INSERT INTO ledger (${columns})
     SELECT channel, 'turning', sku, ${marker(SAME, "purpose", "at")} FROM ledger
     WHERE channel = ? AND state = 'sent' AND ${among(`withdrawn = ${SAME}`)}`,
    ...[channel, channel, before],
  );
  run(
    `UPDATE ledger SET (purpose, at) = (
       SELECT purpose, at FROM ledger AS was WHERE was.channel = ledger.channel AND was.state = ? AND was.sku = ledger.sku)
     WHERE channel = ? AND state = 'sent' AND ${among(`withdrawn = ${SAME}`)}`,
    ...[before, channel, channel, before],
  );
  run(`DELETE FROM ledger WHERE channel = ? AND state = ? AND withdrawn = ${SAME}`, channel, before);
  run(
    `UPDATE ledger SET state = 'turning' WHERE channel = ? AND state = 'sent' AND ${among("true")}`,
    ...[channel, channel, before],
  );
  run(
    `INSERT INTO ledger (${columns})
     SELECT channel, 'turning', sku, ${marker(ABSENT, "''", "''")} FROM ledger
     WHERE channel = ? AND state = ? AND withdrawn < ${SAME}
       AND sku NOT IN (SELECT sku FROM ledger WHERE channel = ? AND state = 'turning')`,
    ...[channel, before, channel],
  );
  run(
    `UPDATE ledger SET state = 'sent' WHERE channel = ? AND state = ? AND withdrawn < ${SAME}`,
    channel,
    before,
  );
  run("DELETE FROM ledger WHERE channel = ? AND state = ?", channel, before);
  run("UPDATE ledger SET state = ? WHERE channel = ? AND state = 'turning'", before, channel);
}
