/** The jobs of one channel, each state noted at once. */
import type Database from "better-sqlite3";
import { listingKept } from "../../core/listing/live-text.js";
import {
  KEPT_JOBS,
  type AnswerCounts,
  type ChannelJobs,
  type FileChange,
  type Job,
  type JobFile,
  type NewJob,
  type RowOutcome,
  type Standing,
  type StandingState,
} from "../jobs.js";
import { entryOf, inOrder, listingColumns, READ_BATCH, type ListingRow } from "./listing-rows.js";
import { beforeState, builtState, noteAct, takeOver } from "./sent-builds.js";

interface JobRow extends Omit<Job, "files" | "whole"> {
  readonly whole: number;
}

interface JobFileRow extends Omit<JobFile, "percent"> {
  readonly percent: number | null;
}

interface OutcomeRow {
  readonly sku: string;
  readonly accepted: number;
  readonly given_id: string;
  readonly code: string;
  readonly message: string;
  readonly field: string;
}

interface StandingRow extends Omit<OutcomeRow, "accepted"> {
  readonly state: StandingState;
  readonly job: number;
  readonly at: string;
  readonly content: string | null;
  readonly grp: string | null;
}

/** The state of the book that keeps what a job holds. */
const jobState = (job: number): string => `job ${job}`;

const outcomeOf = ({ sku, accepted, given_id, code, message, field }: OutcomeRow): RowOutcome => ({
  sku,
  code,
  message,
  field,
  isAccepted: accepted === 1,
  id: given_id,
});

const standingOf = ({ content, grp, given_id, ...row }: StandingRow): Standing => ({
  ...row,
  id: given_id,
  refused:
    content === null
      ? undefined
      : listingKept({ text: content, group: grp ?? undefined, isGroup: false, withdrawn: false }),
});

/** The jobs of a channel. */
export function channelJobs(database: Database.Database, channel: string): ChannelJobs {
  const run = (sql: string, ...values: readonly (string | number | null)[]): number =>
    database.prepare(sql).run(...values).changes;
  const filesOf = (job: number): readonly JobFile[] =>
    database
      .prepare<[number], JobFileRow>(
        `SELECT position, name, bytes, sha256, state, key, reference, at, percent, because
         FROM job_file WHERE job = ? ORDER BY position`,
      )
      .all(job)
      .map(({ percent, ...file }) => ({ ...file, percent: percent ?? undefined }));
  return {
    list: async () =>
      database
        .prepare<[string], JobRow>(
          `SELECT number, channel, kind, purpose, build, whole, at, listings, accepted, refused
           FROM job WHERE channel = ? ORDER BY number DESC`,
        )
        .all(channel)
        .map(({ whole, ...job }) => ({ ...job, whole: whole === 1, files: filesOf(job.number) })),
    open: async (job) => openJob(database, channel, job),
    async change(job, position, change) {
      const sets = Object.entries(columnsOf(change));
      run(
        `UPDATE job_file SET ${sets.map(([column]) => `${column} = ?`).join(", ")} WHERE job = ? AND position = ?`,
        ...[...sets.map(([, value]) => value), job, position],
      );
    },
    entries(job) {
      const next = database.prepare<[string, string, string], ListingRow>(
        `SELECT ${listingColumns} FROM built_listing WHERE channel = ? AND state = ? AND sku > ? ORDER BY sku LIMIT ${READ_BATCH}`,
      );
      return inOrder((after) => next.all(channel, jobState(job), after), entryOf);
    },
    answer: async (job, at, outcomes) => answered(database, channel, job, at, outcomes),
    refused(job) {
      const next = database.prepare<[number, string], OutcomeRow>(
        `SELECT sku, accepted, given_id, code, message, field FROM outcome
         WHERE job = ? AND accepted = 0 AND sku > ? ORDER BY sku LIMIT ${READ_BATCH}`,
      );
      return inOrder((after) => next.all(job, after), outcomeOf);
    },
    unanswered: async (job, limit) =>
      database
        .prepare<[string, string, number, number], string>(
          `SELECT sku FROM built_listing WHERE channel = ? AND state = ? AND is_group = 0
             AND sku NOT IN (SELECT sku FROM outcome WHERE job = ?) ORDER BY sku LIMIT ?`,
        )
        .pluck()
        .all(channel, jobState(job), job, limit),
    async standings(skus) {
      const find = database.prepare<[string, string], StandingRow>(
        "SELECT standing.*, NULL AS grp FROM standing WHERE channel = ? AND sku = ?",
      );
      return new Map(
        skus.flatMap((sku) => {
          const row = find.get(channel, sku);
          return row === undefined ? [] : [[sku, standingOf(row)] as const];
        }),
      );
    },
    standing(state) {
      const next = database.prepare<[string, string, string], StandingRow>(
        `SELECT standing.*, NULL AS grp FROM standing WHERE channel = ? AND state = ? AND sku > ? ORDER BY sku LIMIT ${READ_BATCH}`,
      );
      return inOrder((after) => next.all(channel, state, after), standingOf);
    },
    has: async (state) =>
      database
        .prepare("SELECT 1 FROM standing WHERE channel = ? AND state = ? LIMIT 1")
        .get(channel, state) !== undefined,
  };
}

const columnsOf = ({ percent, ...change }: FileChange): Readonly<Record<string, string | number>> => ({
  ...change,
  ...(percent === undefined ? {} : { percent }),
});

function openJob(database: Database.Database, channel: string, job: NewJob): number {
  const { kind, purpose, build, whole, at, files, skus } = job;
  const built = builtState(kind);
  const number = Number(
    database
      .prepare(
        `INSERT INTO job (number, channel, kind, purpose, build, whole, at, listings, accepted, refused)
         VALUES ((SELECT coalesce(max(number), 0) + 1 FROM job), ?, ?, ?, ?, ?, ?, 0, 0, 0)`,
      )
      .run(channel, kind, purpose, build, whole ? 1 : 0, at).lastInsertRowid,
  );
  const addFile = database.prepare(
    `INSERT INTO job_file (job, position, name, bytes, sha256, state, key, reference, at, percent, because)
     VALUES (?, ?, ?, ?, ?, 'waiting', ?, '', ?, NULL, '')`,
  );
  for (const [position, { name, bytes, sha256, key }] of files.entries())
    addFile.run(number, position, name, bytes, sha256, key, at);
  const book = database
    .prepare("INSERT INTO book (channel, state, purpose, at) VALUES (?, ?, ?, ?)")
    .run(channel, jobState(number), purpose, at).lastInsertRowid;
  database
    .prepare(
      `INSERT INTO built (book, family, member, sku, is_group, withdrawn, grp, content)
       SELECT ?, family, member, sku, is_group, withdrawn, grp, content FROM built
       WHERE book = (SELECT id FROM book WHERE channel = ? AND state = ?)`,
    )
    .run(book, channel, built);
  if (skus !== undefined)
    database
      .prepare("DELETE FROM built WHERE book = ? AND sku NOT IN (SELECT value FROM json_each(?))")
      .run(book, JSON.stringify(skus));
  database
    .prepare(
      "UPDATE job SET listings = (SELECT count(*) FROM built WHERE book = ? AND is_group = 0) WHERE number = ?",
    )
    .run(book, number);
  database
    .prepare(
      `INSERT OR REPLACE INTO standing (channel, sku, state, job, at, given_id, code, message, field, content)
       SELECT new.channel, new.sku, 'sent', ?, ?, coalesce(old.given_id, ''), '', '', '', NULL
       FROM built_listing AS new LEFT JOIN standing AS old ON old.channel = new.channel AND old.sku = new.sku
       WHERE new.channel = ? AND new.state = ? AND new.is_group = 0`,
    )
    .run(number, at, channel, jobState(number));
  forgetOld(database, channel);
  return number;
}

function forgetOld(database: Database.Database, channel: string): void {
  const old = database
    .prepare<[string], number>(
      `SELECT number FROM job WHERE channel = ? ORDER BY number DESC LIMIT -1 OFFSET ${KEPT_JOBS}`,
    )
    .pluck()
    .all(channel);
  for (const job of old) {
    const book = "SELECT id FROM book WHERE channel = ? AND state = ?";
    database.prepare(`DELETE FROM built WHERE book IN (${book})`).run(channel, jobState(job));
    database.prepare("DELETE FROM book WHERE channel = ? AND state = ?").run(channel, jobState(job));
    database.prepare("DELETE FROM prior WHERE job = ?").run(job);
    database.prepare("DELETE FROM outcome WHERE job = ?").run(job);
  }
}

/** Notes what the channel said of a job's rows, and makes what it accepted what it has. */
function answered(
  database: Database.Database,
  channel: string,
  job: number,
  at: string,
  outcomes: readonly RowOutcome[],
): AnswerCounts {
  const state = jobState(job);
  const count = (sql: string, ...values: readonly (string | number)[]): number =>
    database
      .prepare<(string | number)[], number>(sql)
      .pluck()
      .get(...values) ?? 0;
  database.exec(
    "CREATE TEMP TABLE IF NOT EXISTS said (sku TEXT PRIMARY KEY, accepted INTEGER, was_taken INTEGER) WITHOUT ROWID",
  );
  database.exec("DELETE FROM said");
  const before = database
    .prepare<[number, string], [number, string, string, string, string]>(
      "SELECT accepted, given_id, code, message, field FROM outcome WHERE job = ? AND sku = ?",
    )
    .raw();
  const put = database.prepare(
    `INSERT OR REPLACE INTO outcome (job, sku, accepted, given_id, code, message, field) VALUES (?, ?, ?, ?, ?, ?, ?)`,
  );
  const say = database.prepare("INSERT OR REPLACE INTO said (sku, accepted, was_taken) VALUES (?, ?, ?)");
  const stands = database
    .prepare<[string, string], [number, StandingState]>(
      "SELECT job, state FROM standing WHERE channel = ? AND sku = ?",
    )
    .raw();
  const isIn = database.prepare("SELECT 1 FROM built_listing WHERE channel = ? AND state = ? AND sku = ?");
  let takenBack = 0;
  for (const { sku, isAccepted, id, code, message, field } of outcomes) {
    if (isIn.get(channel, state, sku) === undefined) continue;
    const known = before.get(job, sku);
    const now = [isAccepted ? 1 : 0, id, code, message, field] as const;
    if (known !== undefined && known.every((value, index) => value === now[index])) continue;
    put.run(job, sku, ...now);
    const [by = job, standing] = stands.get(channel, sku) ?? [];
    // A late word on what was sent and answered again since.
    if (by > job && standing !== "sent") continue;
    const wasTaken = known?.[0] === 1 && !isAccepted && by === job;
    if (wasTaken) takenBack++;
    say.run(sku, now[0], wasTaken ? 1 : 0);
  }
  // A group's own row comes with its first member that was taken, where the channel says nothing of it.
  database
    .prepare(
      `INSERT OR IGNORE INTO said (sku, accepted, was_taken)
       SELECT own.sku, 1, 0 FROM built_listing AS own WHERE own.channel = ? AND own.state = ? AND own.is_group = 1
         AND own.sku NOT IN (SELECT sku FROM outcome WHERE job = ?)
         AND EXISTS (SELECT 1 FROM built_listing AS member JOIN said ON said.sku = member.sku AND said.accepted = 1
                     WHERE member.channel = own.channel AND member.state = own.state AND member.grp = own.grp)`,
    )
    .run(channel, state, job);
  const isNews = count("SELECT count(*) FROM said") > 0;
  const revision = isNews
    ? noteAct(database, {
        channel,
        file: state,
        at,
        listings: count("SELECT count(*) FROM said WHERE accepted = 1"),
      })
    : undefined;
  if (revision !== undefined) settle(database, { channel, job, at }, revision);
  const counted = (accepted: number): number =>
    count(
      `SELECT count(*) FROM outcome WHERE job = ? AND accepted = ? AND sku NOT IN
         (SELECT sku FROM built_listing WHERE channel = ? AND state = ? AND is_group = 1)`,
      ...[job, accepted, channel, state],
    );
  const [accepted, refused] = [counted(1), counted(0)];
  database.prepare("UPDATE job SET accepted = ?, refused = ? WHERE number = ?").run(accepted, refused, job);
  return { accepted, refused, takenBack, revision };
}

interface AnsweredJob {
  readonly channel: string;
  readonly job: number;
  readonly at: string;
}

function settle(database: Database.Database, { channel, job, at }: AnsweredJob, revision: number): void {
  const state = jobState(job);
  const whole = database.prepare("SELECT whole FROM job WHERE number = ?").pluck().get(job) === 1;
  const taken = "SELECT sku FROM said WHERE accepted = 1";
  // What this job had put there, and the channel now refuses: what was there before it is there again.
  const wasTaken = "SELECT sku FROM said WHERE was_taken = 1";
  database
    .prepare(
      `INSERT OR IGNORE INTO prior (job, ${listingColumns})
       SELECT ?, sku, is_group, withdrawn, grp, content, purpose, at FROM ledger
       WHERE channel = ? AND state = 'sent' AND sku IN (${taken})`,
    )
    .run(job, channel);
  const was = listingColumns
    .split(", ")
    .map((column) => `prior.${column}`)
    .join(", ");
  const rows = `(SELECT channel, state, ${listingColumns} FROM built_listing WHERE sku IN (${taken})
    UNION ALL SELECT job.channel, 'job ' || job.number, ${was} FROM prior JOIN job ON job.number = prior.job
      WHERE prior.job = ${job} AND prior.sku IN (${wasTaken}))`;
  takeOver(database, { channel, state, rows, at, whole, besides: ["SELECT sku FROM said"] }, revision);
  const gone = database
    .prepare<[number], string>(`${wasTaken} AND sku NOT IN (SELECT sku FROM prior WHERE job = ?)`)
    .pluck()
    .all(job);
  const keep = database.prepare(
    `INSERT INTO ledger (channel, state, ${listingColumns})
     SELECT channel, ?, ${listingColumns} FROM ledger WHERE channel = ? AND state = 'sent' AND sku = ?`,
  );
  const remove = database.prepare("DELETE FROM ledger WHERE channel = ? AND state = 'sent' AND sku = ?");
  for (const sku of gone) {
    keep.run(beforeState(revision), channel, sku);
    remove.run(channel, sku);
  }
  database
    .prepare(
      `INSERT OR REPLACE INTO standing (channel, sku, state, job, at, given_id, code, message, field, content)
       SELECT new.channel, new.sku,
         CASE WHEN said.accepted = 0 THEN 'refused' WHEN new.withdrawn = 1 THEN 'withdrawn' ELSE 'live' END,
         outcome.job, ?, CASE WHEN outcome.given_id = '' THEN coalesce(old.given_id, '') ELSE outcome.given_id END,
         outcome.code, outcome.message, outcome.field, CASE WHEN said.accepted = 0 THEN new.content END
       FROM said JOIN outcome ON outcome.sku = said.sku AND outcome.job = ?
         JOIN built_listing AS new ON new.channel = ? AND new.state = ? AND new.sku = said.sku
         LEFT JOIN standing AS old ON old.channel = new.channel AND old.sku = new.sku
       WHERE new.is_group = 0 AND (old.job IS NULL OR old.job <= outcome.job)`,
    )
    .run(at, job, channel, state);
}
