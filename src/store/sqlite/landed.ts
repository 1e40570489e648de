import { existsSync } from "node:fs";
import Database from "better-sqlite3";
import { storedVersion } from "./schema.js";

const FIRST_VERSION = 9;
const BUSY_MILLISECONDS = 5000;

/** Keeps the mark of the act that is being committed; those of before have ended. */
export function noteLanded(database: Database.Database, mark: string): void {
  database.exec("DELETE FROM landed");
  database.prepare("INSERT INTO landed (mark) VALUES (?)").run(mark);
}

/** Whether the act of a mark was committed. */
export function hasLandedIn(path: string, mark: string): boolean {
  if (!existsSync(path)) return false;
  const database = new Database(path, { timeout: BUSY_MILLISECONDS });
  try {
    if (storedVersion(database) < FIRST_VERSION) return false;
    return database.prepare("SELECT 1 FROM landed WHERE mark = ?").get(mark) !== undefined;
  } finally {
    database.close();
  }
}
