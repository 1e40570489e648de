import { mkdirSync } from "node:fs";
import { dirname } from "node:path";
import Database from "better-sqlite3";
import type { WriterLock } from "../store.js";
import { isBusy } from "./store-fault.js";

/**
 * Takes the workspace's lock, or says at once that another process has it. It is the engine's own lock on a file beside
 * the store: the system lets it go when its process ends, however it ends, so that none is ever left behind.
 */
export const takeWriterLock = (path: string): WriterLock | undefined => {
  mkdirSync(dirname(path), { recursive: true });
  const database = new Database(path, { timeout: 0 });
  try {
    database.exec("BEGIN EXCLUSIVE");
  } catch (error) {
    database.close();
    if (isBusy(error)) return undefined;
    throw error;
  }
  return {
    release() {
      if (!database.open) return;
      database.exec("ROLLBACK");
      database.close();
    },
  };
};
