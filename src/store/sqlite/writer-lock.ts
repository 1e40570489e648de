import { mkdirSync } from "node:fs";
import { dirname } from "node:path";
import Database from "better-sqlite3";
import type { WriterLock } from "../store.js";
import { isBusy, storeFault } from "./store-fault.js";

/**
 * Takes the workspace's lock, or says at once that another process has it. It is the engine's own lock on a file beside
 * the store: the system lets it go when its process ends, however it ends, so that none is ever left behind.
 */
export function takeWriterLock(path: string, shown: string): WriterLock | undefined {
  let database: Database.Database | undefined;
  try {
    mkdirSync(dirname(path), { recursive: true });
    database = new Database(path, { timeout: 0 });
    database.exec("BEGIN EXCLUSIVE");
  } catch (error) {
    database?.close();
    if (isBusy(error)) return undefined;
    throw storeFault(shown, error);
  }
  const held = database;
  return {
    release() {
      if (!held.open) return;
      held.exec("ROLLBACK");
      held.close();
    },
  };
}
