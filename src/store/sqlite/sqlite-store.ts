/**
 * The store in one SQLite file: ties its rooms (catalogue, transactions, ledger, jobs) to the interface that any engine
 * serves. Every fault of the engine leaves here as a refusal in words.
 */
import { createHash } from "node:crypto";
import type Database from "better-sqlite3";
import { attributeIndex, type GrowingIndex } from "../../core/catalogue/attribute-index.js";
import { COMPUTED_REVISION } from "../../core/catalogue/record.js";
import { vocabulary } from "../../core/catalogue/vocabulary.js";
import type { Store, StoreOptions } from "../store.js";
import { catalogueReader, type CatalogueReader } from "./catalogue-reader.js";
import { familiesSince, familyNumbers, productsSince, stateOf } from "./catalogue-state.js";
import { channelLedger } from "./channel-ledger.js";
import { connections, type Connections } from "./connection.js";
import { channelJobs } from "./jobs.js";
import { noteLanded } from "./landed.js";
import { linkAnswers } from "./link-answers.js";
import { groupMembers, skusNear } from "./near-products.js";
import { notedJobs, notedLedger, notingSent } from "./noted-revisions.js";
import { layersOf, opinionsOf } from "./opinions.js";
import { historyOf, loadRevisions, type Revision } from "./revisions.js";
import { sharedBarcodes } from "./shared-keys.js";
import { skuTwins } from "./sku-twins.js";
import { storeFault } from "./store-fault.js";
import { tellingFaults } from "./telling-faults.js";

/** What every part of the interface works with. */
interface Opened {
  readonly connections: Connections;
  readonly attributes: GrowingIndex;
  readonly revisions: Map<number, Revision>;
  readonly reader: CatalogueReader;
  readonly options: StoreOptions;
  told(error: unknown): unknown;
}

/**
 * Opens the workspace's store, makes it when there is none, and brings an older one forward.
 * @throws Refusal when the store is newer than this program, damaged, or not writable
 */
export function openSqliteStore(options: StoreOptions): Store {
  const told = (error: unknown): unknown => storeFault(options.shownPath, error);
  const guard = <T>(work: () => T): T => {
    try {
      return work();
    } catch (error) {
      throw told(error);
    }
  };
  const opened = connections(options, guard);
  const { main } = opened;
  // Slots: the vocabulary first, then the attributes that only this catalogue has.
  const own = guard(() => main.prepare("SELECT name FROM attribute ORDER BY slot").pluck().all() as string[]);
  const attributes = attributeIndex([...new Set([...vocabulary, ...own])], options.kindOf);
  const revisions = new Map(loadRevisions(main, attributes, options.layers));
  const reader = catalogueReader(main, attributes, revisions);
  const all: Opened = { connections: opened, attributes, revisions, reader, options, told };
  const store: Store = { ...catalogueSide(all), ...exchangeSide(all), close: async () => opened.close() };
  return tellingFaults(store, told);
}

/** What the catalogue is asked, and how it is changed. */
function catalogueSide({
  connections: { main },
  attributes,
  revisions,
  reader,
  options,
  told,
}: Opened): Omit<Store, keyof ReturnType<typeof exchangeSide> | "close"> {
  const placeOf = placeFinder(revisions);
  return {
    attributes: async () => attributes,
    async isEmpty() {
      for await (const batch of reader.families()) if (batch.length > 0) return false;
      return true;
    },
    families: (range) => reader.families(range),
    stretches: async (count, mostProducts, within) => reader.stretches(count, mostProducts, within),
    async hold() {
      if (!main.inTransaction) main.exec("BEGIN");
      return seenMark(main);
    },
    state: async () => stateOf(main),
    familiesSince: async (state, mostProducts) => familiesSince(main, state, mostProducts),
    productsSince: async (state) => productsSince(main, state),
    familyNumbers: async (skus) => familyNumbers(main, skus),
    product: async (sku, channel) => reader.product(sku, channel),
    familyOf: (sku) => reader.familyOf(sku),
    groupMembers: async (group) =>
      groupMembers(main, group).filter((sku) => reader.product(sku) !== undefined),
    skusNear: async (sku) => skusNear(main, sku).filter((one) => reader.product(one) !== undefined),
    placeOf,
    layersOf: async (sku) => layersOf(main, revisions, sku),
    history: async () => historyOf(main),
    opinions: async (sku) => opinionsOf(main, revisions, placeOf, sku),
    async begin() {
      const { catalogueTransaction } = await import("./catalogue-transaction.js");
      const { layers } = options;
      return tellingFaults(
        catalogueTransaction({ database: main, attributes, revisions, reader, layers, told }),
        told,
      );
    },
    sharedBarcodes: sharedBarcodesOf(main, reader),
    skuTwins: async () => skuTwins(main, -1, (id) => reader.productById(id) !== undefined),
  };
}

/** What channels have and are sent, beside the connection that reads. */
const exchangeSide = ({
  connections: { beside },
  revisions,
  told,
}: Opened): Pick<Store, "linkAnswers" | "ledgerOf" | "jobsOf" | "together"> => ({
  linkAnswers: () => tellingFaults(linkAnswers(beside()), told),
  ledgerOf(channel) {
    const ledger = notedLedger(channelLedger(beside(), channel), notingSent(revisions, channel));
    return tellingFaults(
      {
        ...ledger,
        begin: async (...args) => tellingFaults(await ledger.begin(...args), told),
        beginExport: async (...args) => tellingFaults(await ledger.beginExport(...args), told),
      },
      told,
    );
  },
  jobsOf: (channel) =>
    tellingFaults(notedJobs(channelJobs(beside(), channel), notingSent(revisions, channel)), told),
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
});

/** Where a value came from, by its origin. */
const placeFinder =
  (revisions: ReadonlyMap<number, Revision>): Store["placeOf"] =>
  ({ revision, row }, attribute) => {
    if (revision === COMPUTED_REVISION) return { layer: "", file: "its parts" };
    const { file = "", layer = "", columns = [], kind, at = "" } = revisions.get(revision) ?? {};
    if (kind === "edit") return { layer, file: `edit of ${at.slice(0, 10)}` };
    const column = columns.find((entry) => entry.attribute === attribute)?.column;
    // What a delivery only said again, and what is spelled out since an earlier one went, stood in a row that nobody noted.
    const where = row > 0 ? { layer, file, row } : { layer, file };
    return column === undefined || column === "" ? where : { ...where, column };
  };

/** Barcodes of several products: looked for once while the catalogue is held, anew where it may have changed. */
function sharedBarcodesOf(main: Database.Database, reader: CatalogueReader): Store["sharedBarcodes"] {
  const look = () => sharedBarcodes(main, (id) => reader.productById(id));
  let held: ReturnType<typeof look> | undefined;
  return async () => (main.inTransaction ? (held ??= look()) : look());
}

/** What tells two states of the catalogue apart: no product changes without a revision that says when and from where. */
const seenMark = (database: Database.Database): string =>
  createHash("sha256")
    .update(
      JSON.stringify(
        database.prepare("SELECT id, at, layer, source, file, counts, undone_by FROM revision").raw().all(),
      ),
    )
    .digest("hex");
