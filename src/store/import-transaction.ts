import type Database from "better-sqlite3";
import { CLEARED } from "../core/catalogue/record.js";
import type { ImportCounts, ImportPlan, ImportTransaction, IncomingRecord, RecordFate } from "./store.js";
import { REVISIONS_PER_PRODUCT } from "./schema.js";
import { TEXT_SEPARATOR } from "./texts.js";

interface Statements {
  readonly find: Database.Statement<[string], { readonly id: number; readonly family: number }>;
  readonly addProduct: Database.Statement<[string, number]>;
  readonly setFamily: Database.Statement<[number, number]>;
  readonly addRecord: Database.Statement<[number, number, string]>;
  readonly records: Database.Statement<[number, number], { readonly id: number; readonly texts: string }>;
  readonly findFamily: Database.Statement<[string], { readonly id: number }>;
  readonly addFamily: Database.Statement<[string, number]>;
}

const prepare = (database: Database.Database): Statements => ({
  find: database.prepare("SELECT id, family FROM product WHERE sku = ?"),
  addProduct: database.prepare("INSERT INTO product (sku, family) VALUES (?, ?)"),
  setFamily: database.prepare("UPDATE product SET family = ? WHERE id = ?"),
  addRecord: database.prepare("INSERT INTO record (id, row, texts) VALUES (?, ?, ?)"),
  records: database.prepare("SELECT id, texts FROM record WHERE id >= ? AND id < ? ORDER BY id"),
  findFamily: database.prepare("SELECT id FROM family WHERE name = ?"),
  addFamily: database.prepare("INSERT INTO family (name, id) VALUES (?, ?)"),
});

/** Which products a file has named so far: a bit by product id, so that a million costs 128 kB. */
const seenProducts = (): ((id: number) => boolean) => {
  let bits = new Uint8Array(1 << 16);
  return (id) => {
    const at = id >> 3;
    if (at >= bits.length) {
      const larger = new Uint8Array(Math.max(at + 1, bits.length * 2));
      larger.set(bits);
      bits = larger;
    }
    const mask = 1 << (id & 7);
    const was = ((bits[at] ?? 0) & mask) !== 0;
    bits[at] = (bits[at] ?? 0) | mask;
    return was;
  };
};

/** Starts the one transaction of an import; the caller has checked that no other is running. */
export const importTransaction = (database: Database.Database, plan: ImportPlan): ImportTransaction => {
  database.exec("BEGIN IMMEDIATE");
  const statements = prepare(database);
  const insert = database
    .prepare("INSERT INTO revision (layer, source, file, at, columns, counts) VALUES (?, ?, ?, ?, ?, '{}')")
    .run(plan.layer, plan.source, plan.file, plan.at, JSON.stringify(plan.columns));
  const revision = Number(insert.lastInsertRowid);
  const addAttribute = database.prepare(
    "INSERT OR IGNORE INTO attribute (slot, name) VALUES ((SELECT count(*) FROM attribute), ?)",
  );
  for (const { attribute } of plan.columns) addAttribute.run(attribute);
  const seen = seenProducts();
  const groupAt = plan.columns.findIndex(({ attribute }) => attribute === "group");
  const inLayer = layerTexts(database, plan, statements);

  const familyOf = (group: string, own: number): number => {
    if (group === "" || group === CLEARED) return own;
    const known = statements.findFamily.get(group);
    if (known !== undefined) return known.id;
    statements.addFamily.run(group, own);
    return own;
  };
  const store = (id: number, row: number, texts: readonly string[]): void => {
    statements.addRecord.run(id * REVISIONS_PER_PRODUCT + revision, row, texts.join(TEXT_SEPARATOR));
  };
  const settleFamily = (id: number, family: number, group: string): void => {
    const wanted = familyOf(group, id);
    if (wanted !== family) statements.setFamily.run(wanted, id);
  };
  const putOne = ({ sku, row, texts }: IncomingRecord): RecordFate => {
    const known = statements.find.get(sku);
    if (known === undefined) {
      // A product's family is its group's first product, or itself; its own id is known only once it is stored.
      const id = Number(statements.addProduct.run(sku, 0).lastInsertRowid);
      seen(id);
      settleFamily(id, 0, groupAt < 0 ? "" : (texts[groupAt] ?? ""));
      store(id, row, texts);
      return "added";
    }
    if (seen(known.id)) return "repeated";
    const current = inLayer(known.id);
    let differs = false;
    const changed = texts.map((text, index) => {
      if (text === "" || text === current[index]) return "";
      differs = true;
      return text;
    });
    if (!differs) return "unchanged";
    store(known.id, row, changed);
    const group = groupAt < 0 ? "" : (changed[groupAt] ?? "");
    if (group !== "") settleFamily(known.id, known.family, group);
    return "changed";
  };
  return {
    put: (records) => Promise.resolve(records.map(putOne)),
    commit(counts: ImportCounts) {
      const landed = counts.added + counts.changed > 0;
      if (landed)
        database.prepare("UPDATE revision SET counts = ? WHERE id = ?").run(JSON.stringify(counts), revision);
      database.exec(landed ? "COMMIT" : "ROLLBACK");
      return Promise.resolve();
    },
    rollback() {
      if (database.inTransaction) database.exec("ROLLBACK");
      return Promise.resolve();
    },
  };
};

/** What the plan's layer says of a product so far, in the order of the plan's columns. */
const layerTexts = (
  database: Database.Database,
  plan: ImportPlan,
  { records }: Statements,
): ((id: number) => readonly string[]) => {
  const rows = database.prepare("SELECT id, columns FROM revision WHERE layer = ?").all(plan.layer) as {
    readonly id: number;
    readonly columns: string;
  }[];
  const positions = new Map(plan.columns.map(({ attribute }, index) => [attribute, index]));
  const byRevision = new Map(
    rows.map(({ id, columns }) => {
      const written = JSON.parse(columns) as ImportPlan["columns"];
      return [id, written.map(({ attribute }) => positions.get(attribute))];
    }),
  );
  return (id) => {
    const current = new Array<string>(plan.columns.length).fill("");
    for (const record of records.all(id * REVISIONS_PER_PRODUCT, (id + 1) * REVISIONS_PER_PRODUCT)) {
      const targets = byRevision.get(record.id % REVISIONS_PER_PRODUCT);
      if (targets === undefined) continue;
      record.texts.split(TEXT_SEPARATOR).forEach((text, index) => {
        const position = targets[index];
        if (text !== "" && position !== undefined) current[position] = text;
      });
    }
    return current;
  };
};
