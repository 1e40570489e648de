/** What a build holds, as a book in reading order; of the next one only rows that differ are written. */
import type Database from "better-sqlite3";
import type { KeptListing } from "../../core/listing/live-text.js";

/** A row of a book: family, place in it, SKU, whether a group's own, whether withdrawn, group, text. */
type BookRow = [number, number, string, number, number, string | null, string];

const columns = "family, member, sku, is_group, withdrawn, grp, content";
/** Where a listing stood and stands no more. No listing has a text without a sign. */
const GONE = "";

const BATCH = 2000;
const READ_BATCH = 500;

/** A build's book while it is written: beside the one that it is to take the place of, of which it holds what differs. */
export interface OpenBook {
  note(family: number, kept: readonly KeptListing[]): void;
  /** The book takes its place; within a transaction. */
  commit(): void;
  discard(): void;
}

const isSame = (before: BookRow, now: BookRow): boolean => before.every((value, at) => value === now[at]);

/** The rows of a book one after the other, read in pieces, so that the connection can write between them. */
function bookRows(database: Database.Database, book: number) {
  const next = database
    .prepare<[number, number, number], BookRow>(
      `SELECT ${columns} FROM built WHERE book = ? AND (family, member) > (?, ?) ORDER BY family, member LIMIT ${READ_BATCH}`,
    )
    .raw();
  let [rows, at]: [readonly BookRow[], number] = [next.all(book, -2, 0), 0];
  return {
    peek: () => rows[at],
    skip() {
      const last = rows[at++];
      if (at < rows.length || last === undefined) return;
      [rows, at] = [rows.length < READ_BATCH ? [] : next.all(book, last[0], last[1]), 0];
    },
  };
}

/** Which book it is. */
export interface BookNames {
  readonly channel: string;
  readonly state: string;
  readonly purpose: string;
  readonly at: string;
}

const COMING = "coming";

function remove(database: Database.Database, channel: string, state: string): void {
  const which = "SELECT id FROM book WHERE channel = ? AND state = ?";
  database.prepare(`DELETE FROM built WHERE book IN (${which})`).run(channel, state);
  database.prepare("DELETE FROM book WHERE channel = ? AND state = ?").run(channel, state);
}

/** Writes what nothing holds on to yet: the commit that lets it hold waits for the disk, and for all before it. */
function unsynced(database: Database.Database, write: () => void): void {
  database.pragma("synchronous = NORMAL");
  try {
    write();
  } finally {
    database.pragma("synchronous = FULL");
  }
}

/** Begins the book of a build; one that was broken off goes. */
export function openBook(database: Database.Database, { channel, state, purpose, at }: BookNames): OpenBook {
  const coming = `${COMING} ${state}`;
  const begin = database.transaction((): number => {
    remove(database, channel, coming);
    const added = database
      .prepare("INSERT INTO book (channel, state, purpose, at) VALUES (?, ?, ?, ?)")
      .run(channel, coming, purpose, at);
    return Number(added.lastInsertRowid);
  });
  const own = begin.immediate();
  const former = database
    .prepare<[string, string], number>("SELECT id FROM book WHERE channel = ? AND state = ?")
    .pluck()
    .get(channel, state);
  const before = former === undefined ? undefined : bookRows(database, former);
  const put = database.prepare<[number, ...BookRow]>(
    `INSERT INTO built (book, ${columns}) VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
  );
  let waiting: BookRow[] = [];
  const putAll = database.transaction((rows: readonly BookRow[]) => {
    for (const row of rows) put.run(own, ...row);
  });
  const flush = (): void => {
    if (waiting.length > 0 && database.inTransaction) putAll(waiting);
    else if (waiting.length > 0) unsynced(database, () => putAll.immediate(waiting));
    waiting = [];
  };
  /** What stood before a place, and is no more. */
  const passBefore = (family: number, member: number): BookRow | undefined => {
    for (let row = before?.peek(); row !== undefined; row = before?.peek()) {
      if (row[0] > family || (row[0] === family && row[1] > member)) return undefined;
      before?.skip();
      if (row[0] === family && row[1] === member) return row;
      waiting.push([row[0], row[1], "", 0, 0, null, GONE]);
    }
    return undefined;
  };
  let [last, member] = [-Infinity, 0];
  return {
    note(family, kept) {
      if (family !== last) [last, member] = [family, 0];
      for (const { sku, isGroup, withdrawn, group, text } of kept) {
        const row: BookRow = [family, member, sku, Number(isGroup), Number(withdrawn), group ?? null, text];
        const known = passBefore(family, member);
        if (known === undefined || !isSame(known, row)) waiting.push(row);
        member++;
      }
      if (waiting.length >= BATCH) flush();
    },
    commit() {
      passBefore(Infinity, 0);
      flush();
      if (former === undefined) {
        database.prepare("UPDATE book SET state = ? WHERE id = ?").run(state, own);
        return;
      }
      database
        .prepare(
          `DELETE FROM built WHERE book = ? AND (family, member) IN
             (SELECT family, member FROM built WHERE book = ? AND content = '${GONE}')`,
        )
        .run(former, own);
      database
        .prepare(
          `INSERT OR REPLACE INTO built (book, ${columns})
           SELECT ?, ${columns} FROM built WHERE book = ? AND content <> '${GONE}'`,
        )
        .run(former, own);
      database.prepare("UPDATE book SET purpose = ?, at = ? WHERE id = ?").run(purpose, at, former);
      remove(database, channel, coming);
    },
    discard() {
      waiting = [];
      remove(database, channel, coming);
    },
  };
}
