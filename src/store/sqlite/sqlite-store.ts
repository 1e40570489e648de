import { createHash } from "node:crypto";
import { existsSync, mkdirSync } from "node:fs";
import { dirname } from "node:path";
import Database from "better-sqlite3";
import { attributeIndex } from "../../core/catalogue/attribute-index.js";
import { COMPUTED_REVISION } from "../../core/catalogue/record.js";
import { vocabulary } from "../../core/catalogue/vocabulary.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { asSku } from "../../core/ids.js";
import { catalogueReader } from "./catalogue-reader.js";
import { channelLedger } from "./channel-ledger.js";
import { channelJobs } from "./jobs.js";
import { linkAnswers } from "./link-answers.js";
import { layersOf, opinionsOf } from "./opinions.js";
import { bareRevision, historyOf, loadRevisions } from "./revisions.js";
import { migrate, STORE_VERSION, storedVersion } from "./schema.js";
import { tellingFaults } from "./telling-faults.js";
import type { ChannelJobs } from "../jobs.js";
import type { ChannelLedger } from "../ledger.js";
import type { Store, StoreOptions } from "../store.js";
import { sharedBarcodes } from "./shared-keys.js";
import { skuTwins } from "./sku-twins.js";
import { familiesSince, familyNumbers, productsSince, stateOf } from "./catalogue-state.js";
import { noteLanded } from "./landed.js";
import { readingCopy, type ReadingCopy } from "./reading-copy.js";
import { storeFault, takesNothing } from "./store-fault.js";

const BUSY_MILLISECONDS = 5000;
const CACHE_MEGABYTES = 64;

/**
 * Opens the workspace's store, makes it when there is none, and brings an older one forward.
 * @throws Refusal when the store is newer than this program, damaged, or not writable
 */
export const openSqliteStore = (options: StoreOptions): Store => {
  const told = (error: unknown): unknown => storeFault(options.shownPath, error);
  const guard = <T>(work: () => T): T => {
    try {
      return work();
    } catch (error) {
      throw told(error);
    }
  };
  let copy: ReadingCopy | undefined;
  const open = (): Database.Database =>
    copy === undefined ? connect(options) : ready(copy.connect(), options);
  const database = guard(() => {
    const begin = (): Database.Database => {
      const opened = open();
      migrate(opened);
      return opened;
    };
    try {
      return begin();
    } catch (error) {
      if (options.onlyReads !== true || !takesNothing(error)) throw error;
      copy = readingCopy(options.path);
      return begin();
    }
  });
  // Slots: the vocabulary first, then the attributes that only this catalogue has.
  const own = guard(
    () => database.prepare("SELECT name FROM attribute ORDER BY slot").pluck().all() as string[],
  );
  const attributes = attributeIndex([...new Set([...vocabulary, ...own])]);
  const revisions = new Map(loadRevisions(database, attributes, options.layers));
  const reader = catalogueReader(database, attributes, revisions);
  const placeOf: Store["placeOf"] = ({ revision, row }, attribute) => {
    if (revision === COMPUTED_REVISION) return { layer: "", file: "its parts" };
    const { file = "", layer = "", columns = [], kind, at = "" } = revisions.get(revision) ?? {};
    if (kind === "edit") return { layer, file: `edit of ${at.slice(0, 10)}` };
    const column = columns.find((entry) => entry.attribute === attribute)?.column;
    return { layer, file, row, ...(column === undefined || column === "" ? {} : { column }) };
  };
  // A connection that reads the catalogue cannot write at the same time: what is noted meanwhile goes through its own.
  let besides: Database.Database | undefined;
  const beside = (): Database.Database => (besides ??= guard(open));
  const shared = () => sharedBarcodes(database, (id) => reader.productById(id));
  /** What is seen of the catalogue while it is held. */
  let sharedThen: ReturnType<typeof shared> | undefined;
  const store: Store = {
    attributes: async () => attributes,
    async isEmpty() {
      for await (const batch of reader.families()) if (batch.length > 0) return false;
      return true;
    },
    families: (range) => reader.families(range),
    stretches: async (count, mostProducts, within) => reader.stretches(count, mostProducts, within),
    async hold() {
      if (!database.inTransaction) database.exec("BEGIN");
      return seenMark(database);
    },
    state: async () => stateOf(database),
    familiesSince: async (state, mostProducts) => familiesSince(database, state, mostProducts),
    productsSince: async (state) => productsSince(database, state),
    familyNumbers: async (skus) => familyNumbers(database, skus),
    product: async (sku, channel) => reader.product(sku, channel),
    familyOf: (sku) => reader.familyOf(sku),
    groupMembers: async (group) => groupMembers(database, group),
    skusNear: async (sku) => skusNear(database, sku),
    placeOf,
    layersOf: async (sku) => layersOf(database, revisions, sku),
    history: async () => historyOf(database),
    opinions: async (sku) => opinionsOf(database, revisions, placeOf, sku),
    async begin() {
      const { catalogueTransaction } = await import("./catalogue-transaction.js");
      return tellingFaults(
        catalogueTransaction({ database, attributes, revisions, reader, layers: options.layers, told }),
        told,
      );
    },
    linkAnswers: () => tellingFaults(linkAnswers(beside()), told),
    ledgerOf(channel) {
      const ledger = channelLedger(beside(), channel);
      return tellingFaults(
        {
          ...ledger,
          begin: async (...args) => tellingFaults(await ledger.begin(...args), told),
          beginExport: async (...args) => tellingFaults(await ledger.beginExport(...args), told),
          async adopt(at, ids) {
            const counts = await ledger.adopt(at, ids);
            const { revision: id } = counts;
            if (id !== undefined) revisions.set(id, bareRevision({ id, kind: "sent", at, source: channel }));
            return counts;
          },
          async markSent(wish) {
            const counts = await ledger.markSent(wish);
            const { revision: id } = counts;
            if (id !== undefined)
              revisions.set(id, bareRevision({ id, kind: "sent", at: wish.at, source: channel }));
            return counts;
          },
        } satisfies ChannelLedger,
        told,
      );
    },
    jobsOf(channel) {
      const jobs = channelJobs(beside(), channel);
      return tellingFaults(
        {
          ...jobs,
          async answer(job, at, outcomes) {
            const counts = await jobs.answer(job, at, outcomes);
            const { revision: id } = counts;
            if (id !== undefined) revisions.set(id, bareRevision({ id, kind: "sent", at, source: channel }));
            return counts;
          },
        } satisfies ChannelJobs,
        told,
      );
    },
    async together(mark, work) {
      const connection = beside();
      connection.exec("BEGIN IMMEDIATE");
      try {
        await work();
        noteLanded(connection, mark);
        connection.exec("COMMIT");
      } catch (error) {
        if (connection.inTransaction) connection.exec("ROLLBACK");
        throw error;
      }
    },
    async sharedBarcodes() {
      if (!database.inTransaction) return shared();
      return (sharedThen ??= shared());
    },
    skuTwins: async () => skuTwins(database, -1),
    async close() {
      besides?.close();
      database.close();
      copy?.remove();
    },
  };
  return tellingFaults(store, told);
};

const connect = (options: StoreOptions): Database.Database => {
  const { path } = options;
  const isNew = !existsSync(path);
  if (isNew) mkdirSync(dirname(path), { recursive: true });
  const database = new Database(path, { timeout: BUSY_MILLISECONDS });
  try {
    if (isNew) database.pragma("page_size = 16384");
    return ready(database, options);
  } catch (error) {
    database.close();
    throw error;
  }
};

const ready = (
  database: Database.Database,
  { shownPath, cacheMegabytes = CACHE_MEGABYTES }: StoreOptions,
): Database.Database => {
  const found = storedVersion(database);
  if (found > STORE_VERSION)
    throw new Refusal([diagnostic("store-newer", { path: shownPath, found, known: STORE_VERSION })]);
  database.pragma("journal_mode = WAL");
  // Each import is one commit: waiting for the disk once costs nothing, and the import survives a power cut.
  database.pragma("synchronous = FULL");
  database.pragma(`cache_size = -${cacheMegabytes * 1024}`);
  return database;
};

/** What tells two states of the catalogue apart: no product changes without a revision that says when and from where. */
const seenMark = (database: Database.Database): string =>
  createHash("sha256")
    .update(
      JSON.stringify(
        database.prepare("SELECT id, at, layer, source, file, counts, undone_by FROM revision").raw().all(),
      ),
    )
    .digest("hex");

const groupMembers = (database: Database.Database, group: string): readonly ReturnType<typeof asSku>[] =>
  (
    database
      .prepare(
        "SELECT sku FROM product WHERE family = (SELECT id FROM family WHERE name = ?) AND is_group = 0 ORDER BY id",
      )
      .pluck()
      .all(group) as string[]
  ).map(asSku);

const NEAR_SAMPLE = 500;

const skusNear = (database: Database.Database, sku: string): readonly string[] => {
  const half = NEAR_SAMPLE / 2;
  const read = (comparison: string, direction: string): string[] =>
    database
      .prepare(
        `SELECT sku FROM product WHERE is_group = 0 AND sku ${comparison} ? ORDER BY sku ${direction} LIMIT ?`,
      )
      .pluck()
      .all(sku, half) as string[];
  const folded = database
    .prepare("SELECT sku FROM product WHERE is_group = 0 AND sku = ? COLLATE NOCASE LIMIT 3")
    .pluck()
    .all(sku) as string[];
  return [...folded, ...read("<", "DESC"), ...read(">=", "ASC")];
};
