import { existsSync, mkdirSync } from "node:fs";
import { dirname } from "node:path";
import Database from "better-sqlite3";
import { attributeIndex, type AttributeIndex } from "../core/catalogue/attribute-index.js";
import { vocabulary } from "../core/catalogue/vocabulary.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { asSku } from "../core/ids.js";
import { catalogueReader } from "./catalogue-reader.js";
import { importTransaction } from "./import-transaction.js";
import { loadRevisions } from "./revisions.js";
import { migrate, STORE_VERSION, storedVersion } from "./schema.js";
import type { Store } from "./store.js";

const BUSY_MILLISECONDS = 5000;

export interface StoreOptions {
  readonly path: string;
  /** The path as messages show it. */
  readonly shownPath: string;
  /** Layers from lowest to highest. */
  readonly layers: readonly string[];
}

/**
 * Opens the workspace's store, makes it when there is none, and brings an older one forward.
 * @throws Refusal when the store is newer than this program, damaged, or not writable
 */
export const openStore = async (options: StoreOptions): Promise<Store> => {
  const database = guarded(options, () => connect(options));
  guarded(options, () => migrate(database));
  // Slots: the vocabulary first, then the attributes that only this catalogue has.
  const own = database.prepare("SELECT name FROM attribute ORDER BY slot").pluck().all() as string[];
  const attributes: AttributeIndex = attributeIndex([...new Set([...vocabulary, ...own])]);
  const revisions = loadRevisions(database, attributes);
  const reader = catalogueReader(database, attributes, revisions, options.layers);
  return Promise.resolve({
    attributes: () => Promise.resolve(attributes),
    counts: () => Promise.resolve(counts(database)),
    families: () => reader.families(),
    product: (sku) => Promise.resolve(reader.product(sku)),
    groupMembers: (group) =>
      Promise.resolve(
        (
          database
            .prepare(
              "SELECT sku FROM product WHERE family = (SELECT id FROM family WHERE name = ?) ORDER BY id",
            )
            .pluck()
            .all(group) as string[]
        ).map(asSku),
      ),
    skusNear: (sku) => Promise.resolve(skusNear(database, sku)),
    placeOf({ revision, row }, attribute) {
      const { file = "", layer = "", columns = [] } = revisions.get(revision) ?? {};
      const column = columns.find((entry) => entry.attribute === attribute)?.column;
      return { layer, file, row, ...(column === undefined ? {} : { column }) };
    },
    beginImport: (plan) => Promise.resolve(guarded(options, () => importTransaction(database, plan))),
    close() {
      database.close();
      return Promise.resolve();
    },
  });
};

const connect = ({ path, shownPath }: StoreOptions): Database.Database => {
  const isNew = !existsSync(path);
  if (isNew) mkdirSync(dirname(path), { recursive: true });
  const database = new Database(path, { timeout: BUSY_MILLISECONDS });
  if (isNew) database.pragma("page_size = 16384");
  const found = storedVersion(database);
  if (found > STORE_VERSION) {
    database.close();
    throw new Refusal([diagnostic("store-newer", { path: shownPath, found, known: STORE_VERSION })]);
  }
  database.pragma("journal_mode = WAL");
  // Each import is one commit: waiting for the disk once costs nothing, and the import survives a power cut.
  database.pragma("synchronous = FULL");
  database.pragma("cache_size = -65536");
  return database;
};

const counts = (database: Database.Database): { products: number; families: number } => ({
  products: database.prepare("SELECT count(*) FROM product").pluck().get() as number,
  families: database.prepare("SELECT count(DISTINCT family) FROM product").pluck().get() as number,
});

const NEAR_SAMPLE = 500;

const skusNear = (database: Database.Database, sku: string): readonly string[] => {
  const half = NEAR_SAMPLE / 2;
  const read = (comparison: string, direction: string): string[] =>
    database
      .prepare(`SELECT sku FROM product WHERE sku ${comparison} ? ORDER BY sku ${direction} LIMIT ?`)
      .pluck()
      .all(sku, half) as string[];
  const folded = database
    .prepare("SELECT sku FROM product WHERE sku = ? COLLATE NOCASE LIMIT 3")
    .pluck()
    .all(sku) as string[];
  return [...folded, ...read("<", "DESC"), ...read(">=", "ASC")];
};

const guarded = <T>({ shownPath: path }: StoreOptions, work: () => T): T => {
  try {
    return work();
  } catch (error) {
    throw storeFault(path, error);
  }
};

/** Turns the database's own errors into what a person can act on. */
export const storeFault = (path: string, error: unknown): unknown => {
  if (error instanceof Refusal || !(error instanceof Error)) return error;
  const code = "code" in error ? String(error.code) : "";
  if (code.startsWith("SQLITE_BUSY") || code.startsWith("SQLITE_LOCKED"))
    return new Refusal([diagnostic("store-busy", { path })], 3);
  if (code === "SQLITE_NOTADB" || code.startsWith("SQLITE_CORRUPT"))
    return new Refusal(
      [diagnostic("store-damaged", { path, reason: "it is no database, or parts of it are broken" })],
      3,
    );
  if (code === "SQLITE_FULL")
    return new Refusal([diagnostic("cannot-write", { path, reason: "the disk is full" })], 3);
  if (code.startsWith("SQLITE_") || code === "EACCES" || code === "EROFS" || code === "EPERM")
    return new Refusal([diagnostic("cannot-write", { path, reason: error.message })], 3);
  return error;
};
