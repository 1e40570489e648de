import type Database from "better-sqlite3";

/** The store's version: raised with each change of the tables, with a step in {@link migrations}. */
export const STORE_VERSION = 1;

/**
 * A record's id holds its product and its revision, so that one product's records lie side by side on disk and a scan
 * reads each page once: id = product × 2^20 + revision. Both stay exact in a JavaScript number.
 */
export const REVISIONS_PER_PRODUCT = 1 << 20;

const version1 = `
  CREATE TABLE revision (
    id INTEGER PRIMARY KEY,
    layer TEXT NOT NULL,
    source TEXT NOT NULL,
    file TEXT NOT NULL,
    at TEXT NOT NULL,
    columns TEXT NOT NULL,
    counts TEXT NOT NULL
  );
  CREATE TABLE attribute (slot INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE);
  CREATE TABLE family (name TEXT PRIMARY KEY, id INTEGER NOT NULL);
  CREATE TABLE product (id INTEGER PRIMARY KEY, sku TEXT NOT NULL UNIQUE, family INTEGER NOT NULL);
  CREATE INDEX product_family ON product (family, id);
  CREATE TABLE record (id INTEGER PRIMARY KEY, row INTEGER NOT NULL, texts TEXT NOT NULL);
`;

/** Steps from each version to the next; a store is brought forward in one transaction when it is opened. */
const migrations: readonly string[] = [version1];

export const storedVersion = (database: Database.Database): number =>
  database.pragma("user_version", { simple: true }) as number;

export const migrate = (database: Database.Database): void => {
  const run = database.transaction(() => {
    for (const step of migrations.slice(storedVersion(database))) database.exec(step);
    database.pragma(`user_version = ${STORE_VERSION}`);
  });
  if (storedVersion(database) < STORE_VERSION) run.immediate();
};
