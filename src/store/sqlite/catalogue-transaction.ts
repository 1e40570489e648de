/** The one transaction of a command: revisions written, undone, committed with the landing's mark. */
import type { GrowingIndex } from "../../core/catalogue/attribute-index.js";
import type Database from "better-sqlite3";
import type { CatalogueReader } from "./catalogue-reader.js";
import { families } from "./families.js";
import { anything, metBefore } from "./met-before.js";
import { productKeys } from "./product-keys.js";
import { addRevision } from "./revision-row.js";
import { revisionWriter } from "./revision-writer.js";
import { bareRevision, type Revision } from "./revisions.js";
import { FAMILIES_PER_PRODUCT, REVISIONS_PER_PRODUCT } from "./schema.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { noteLanded } from "./landed.js";
import { canTurnSent, turnSent } from "./sent-builds.js";
import { spellOut } from "./spell-out.js";
import { tellingFaults } from "./telling-faults.js";
import { touchedProducts, type Touched } from "./touched.js";
import { skuTwins } from "./sku-twins.js";
import type { CatalogueTransaction, LayerName } from "../store.js";

const SLICE = 10_000;

/** What a transaction works with. */
export interface TransactionTools {
  readonly database: Database.Database;
  readonly attributes: GrowingIndex;
  readonly revisions: Map<number, Revision>;
  readonly reader: CatalogueReader;
  readonly layers: readonly LayerName[];
  /** The database's errors as ours. */
  told(error: unknown): unknown;
}

/** Starts the one transaction of a command. */
export function catalogueTransaction(tools: TransactionTools): CatalogueTransaction {
  const { database } = tools;
  database.exec("BEGIN IMMEDIATE");
  try {
    return begun(tools);
  } catch (error) {
    database.exec("ROLLBACK");
    throw error;
  }
}

function begun(tools: TransactionTools): CatalogueTransaction {
  const { database, reader, told } = tools;
  const suspects = new Set<number>();
  const newest = database.prepare("SELECT coalesce(max(id), 0) FROM product").pluck().get() as number;
  const met = newest === 0 ? metBefore() : anything;
  const writing = {
    ...tools,
    met,
    families: families(database, met),
    keys: productKeys(database, met),
    suspect: (family: number) => void suspects.add(family),
  };
  const addedAny = (): boolean =>
    (database.prepare("SELECT coalesce(max(id), 0) FROM product").pluck().get() as number) > newest;
  let act: number | undefined;
  return {
    async revision(plan) {
      const writer = revisionWriter(writing, plan, act);
      act ??= writer.id;
      const { put, vanished, finish } = writer;
      const own = {
        put: put.bind(writer),
        vanished: vanished.bind(writer),
        finish: finish.bind(writer),
        drop: writer.drop.bind(writer),
        formerRules: writer.formerRules.bind(writer),
      };
      return tellingFaults(own, told);
    },
    async undo(ids, at) {
      const undo = undoRevisions(tools, ids, at);
      const touched = touchedProducts();
      for (const id of undo.turned) {
        touched.revision(database, id);
        regroup(writing, id, touched);
      }
      touched.keep(database, undo.id);
      return undo.id;
    },
    touchedFamilies() {
      if (addedAny()) for (const family of lonelyFamilies(database, newest)) suspects.add(family);
      return reader.familiesOf([...suspects].sort((a, b) => a - b));
    },
    skuTwins: async () =>
      addedAny() ? skuTwins(database, newest, (id) => reader.productById(id) !== undefined) : [],
    isKnown: async (sku) => reader.product(sku) !== undefined,
    hasGroupRecord: async (group) =>
      database.prepare("SELECT 1 FROM product WHERE sku = ? AND is_group = 1").get(group) !== undefined,
    async commit(mark) {
      if (mark !== undefined) noteLanded(database, mark);
      database.exec("COMMIT");
    },
    async rollback() {
      if (database.inTransaction) database.exec("ROLLBACK");
    },
  };
}

/** Groups with one member that this act added: found by counting, which reads the index alone. */
const lonelyFamilies = (database: Database.Database, newest: number): readonly number[] =>
  database
    .prepare<[number], number>(
      `SELECT family FROM product WHERE family % ${FAMILIES_PER_PRODUCT} != 0
       GROUP BY family HAVING sum(is_group = 0) = 1 AND max(id) > ?`,
    )
    .pluck()
    .all(newest);

/** Marks revisions; undoing an undo brings back what it undid. Gives every revision that turned. */
function undoRevisions(
  { database, revisions }: TransactionTools,
  ids: readonly number[],
  at: string,
): { readonly id: number; readonly turned: readonly number[] } {
  const id = addRevision(database, { kind: "undo", at, undoes: ids });
  revisions.set(id, bareRevision({ id, kind: "undo", at, source: "" }));
  const mark = database.prepare("UPDATE revision SET undone_by = ? WHERE id = ?");
  const undoes = database.prepare<[number], string>("SELECT undoes FROM revision WHERE id = ?").pluck();
  const turned: number[] = [];
  const turn = (revision: number, live: boolean): void => {
    const known = revisions.get(revision);
    if (known === undefined) return;
    if (known.kind === "sent") refuseForgotten(database, known);
    if (known.kind === "sent" && known.live !== live) turnSent(database, known.source, revision);
    if (known.kind === "import" || known.kind === "edit") spellOut(database, known, revisions);
    mark.run(live ? null : id, revision);
    revisions.set(revision, { ...known, live });
    if (known.kind !== "undo") turned.push(revision);
    else for (const inner of JSON.parse(undoes.get(revision) ?? "[]") as number[]) turn(inner, !live);
  };
  for (const revision of ids) turn(revision, false);
  return { id, turned };
}

function refuseForgotten(database: Database.Database, { id, source }: Revision): void {
  if (!canTurnSent(database, source, id))
    throw new Refusal([diagnostic("sent-since", { revision: id, channel: source })]);
}

/** Products follow their group again after a revision that spoke of groups came or went. */
function regroup(
  {
    database,
    revisions,
    reader,
    families: familyOf,
    suspect,
  }: TransactionTools & {
    readonly families: ReturnType<typeof families>;
    suspect(family: number): void;
  },
  revision: number,
  touched: Touched,
): void {
  if (revisions.get(revision)?.columns.some(({ attribute }) => attribute === "group") !== true) return;
  const slice = database
    .prepare<[number, number], [number, number]>(
      `SELECT p.id, p.family FROM product p JOIN record r ON r.id = p.id * ${REVISIONS_PER_PRODUCT} + ?
       WHERE p.id > ? AND p.is_group = 0 ORDER BY p.id LIMIT ${SLICE}`,
    )
    .raw();
  const move = database.prepare<[number, number]>("UPDATE product SET family = ? WHERE id = ?");
  for (let from = 0; ;) {
    const products = slice.all(revision, from);
    for (const [id, family] of products) {
      const wanted = familyOf.of(reader.productById(id)?.group, id);
      if (wanted === family) continue;
      move.run(wanted, id);
      touched.product(id);
      touched.family(family);
      suspect(wanted);
    }
    const last = products.at(-1);
    if (products.length < SLICE || last === undefined) return;
    from = last[0];
  }
}
