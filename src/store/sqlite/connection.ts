/**
 * Connections to the store's file: made where there is none, brought forward where it is older, refused where it is newer.
 * A workspace that takes no writing is read from a copy of its store.
 */
import { existsSync, mkdirSync } from "node:fs";
import { dirname } from "node:path";
import Database from "better-sqlite3";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { StoreOptions } from "../store.js";
import { readingCopy, type ReadingCopy } from "./reading-copy.js";
import { migrate, STORE_VERSION, storedVersion } from "./schema.js";
import { takesNothing } from "./store-fault.js";

const BUSY_MILLISECONDS = 5000;
const CACHE_MEGABYTES = 64;
const PAGE_BYTES = 16_384;

/** Sets a connection up. @throws Refusal where a newer program wrote the store */
function ready(
  database: Database.Database,
  { shownPath, cacheMegabytes = CACHE_MEGABYTES }: StoreOptions,
): Database.Database {
  const found = storedVersion(database);
  if (found > STORE_VERSION)
    throw new Refusal([diagnostic("store-newer", { path: shownPath, found, known: STORE_VERSION })]);
  database.pragma("journal_mode = WAL");
  // Each import is one commit: waiting for the disk once costs nothing, and the import survives a power cut.
  database.pragma("synchronous = FULL");
  database.pragma(`cache_size = -${cacheMegabytes * 1024}`);
  return database;
}

function connect(options: StoreOptions): Database.Database {
  const { path } = options;
  const isNew = !existsSync(path);
  if (isNew) mkdirSync(dirname(path), { recursive: true });
  const database = new Database(path, { timeout: BUSY_MILLISECONDS });
  try {
    if (isNew) database.pragma(`page_size = ${PAGE_BYTES}`);
    return ready(database, options);
  } catch (error) {
    database.close();
    throw error;
  }
}

/** The connections to one store. */
export interface Connections {
  /** What the catalogue is read and written by. */
  readonly main: Database.Database;
  /** Another to the same file: one that reads cannot write at the same time. Opened when it is first asked for. */
  beside(): Database.Database;
  close(): void;
}

/** Opens the store of a workspace; `guard` runs what may fail and tells its faults. */
export function connections(options: StoreOptions, guard: <T>(work: () => T) => T): Connections {
  let copy: ReadingCopy | undefined;
  const open = (): Database.Database =>
    copy === undefined ? connect(options) : ready(copy.connect(), options);
  const begin = (): Database.Database => {
    const opened = open();
    migrate(opened);
    return opened;
  };
  const main = guard(() => {
    try {
      return begin();
    } catch (error) {
      if (options.onlyReads !== true || !takesNothing(error)) throw error;
      copy = readingCopy(options.path);
      return begin();
    }
  });
  let besides: Database.Database | undefined;
  return {
    main,
    beside: () => (besides ??= guard(open)),
    close() {
      besides?.close();
      main.close();
      copy?.remove();
    },
  };
}
