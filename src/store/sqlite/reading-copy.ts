/** A copy of a store that its own disk lets nobody write to. */
import { constants, copyFileSync, existsSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import Database from "better-sqlite3";
import { clearLeftovers } from "../../io/leftovers.js";

/** A store that is only read, and not where it lies. */
export interface ReadingCopy {
  connect(): Database.Database;
  remove(): void;
}

const PREFIX = "lexicant-reading-";
const leftover = new RegExp(`^${PREFIX}(\\d+)-`);

// Where both say that the journal lies beside the file, the engine asks for one; in memory there is none.
const JOURNAL_BYTES = [18, 19];

/** The folders that may take a copy: the system's own for such things, and its memory. */
const places = (): readonly string[] => [tmpdir(), "/dev/shm"].filter((folder) => existsSync(folder));

function copyTo(place: string, path: string): string | undefined {
  let folder: string | undefined;
  try {
    clearLeftovers(place, (entry) => leftover.exec(entry)?.[1]);
    folder = mkdtempSync(join(place, `${PREFIX}${process.pid}-`));
    const copy = join(folder, "store.db");
    for (const part of ["", "-wal"])
      if (existsSync(path + part)) copyFileSync(path + part, copy + part, constants.COPYFILE_FICLONE);
    return copy;
  } catch {
    if (folder !== undefined) rmSync(folder, { recursive: true, force: true });
    return undefined;
  }
}

function inMemory(path: string): Database.Database {
  if (!existsSync(path)) return new Database(":memory:");
  const bytes = readFileSync(path);
  for (const at of JOURNAL_BYTES) bytes[at] = 1;
  return new Database(bytes);
}

/**
 * A copy of a store whose own disk takes nothing: it is full, or its folder may only be read, and the engine needs a file
 * beside the store even to read it.
 */
export function readingCopy(path: string): ReadingCopy {
  for (const place of places()) {
    const copy = copyTo(place, path);
    if (copy !== undefined)
      return {
        connect: () => new Database(copy),
        remove: () => rmSync(join(copy, ".."), { recursive: true, force: true }),
      };
  }
  return { connect: () => inMemory(path), remove: () => undefined };
}
