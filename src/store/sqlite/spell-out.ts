/** Writes out what later deliveries only said again, before what they refer to goes. */
import type Database from "better-sqlite3";
import { SAME, takesBack, TEXT_SEPARATOR } from "../../core/catalogue/record.js";
import type { Revision } from "./revisions.js";
import { REVISIONS_PER_PRODUCT } from "./schema.js";
import { seenProducts, type SeenProducts } from "./seen-products.js";
import { touchedProducts, type Touched } from "./touched.js";

interface Later {
  readonly revision: Revision;
  /** Whether its rows put products there. */
  readonly names: boolean;
  /** Products of which it says just what was said. */
  readonly same: SeenProducts;
}

/** Revisions of one layer from a revision on, in their order. */
function laterOnes(
  database: Database.Database,
  { id, layer }: Revision,
  revisions: ReadonlyMap<number, Revision>,
): readonly Later[] {
  const find = database
    .prepare<[string, number], [number, number, Buffer | null]>(
      "SELECT id, names, same FROM revision WHERE layer = ? AND id > ? ORDER BY id",
    )
    .raw();
  return find.all(layer, id).flatMap(([later, names, same]): readonly Later[] => {
    const revision = revisions.get(later);
    return revision === undefined
      ? []
      : [{ revision, names: names !== 0, same: seenProducts(same ?? undefined) }];
  });
}

/**
 * Before a revision goes or comes back: what later deliveries of its layer only said again is written out in their own
 * records, so that none of their words goes with it.
 */
export function spellOut(
  database: Database.Database,
  revision: Revision,
  revisions: ReadonlyMap<number, Revision>,
): void {
  const later = laterOnes(database, revision, revisions);
  if (later.length === 0) return;
  const products = database
    .prepare<[number], [number, string, number]>(
      `SELECT p.id, p.sku, p.is_group FROM product p JOIN record r ON r.id = p.id * ${REVISIONS_PER_PRODUCT} + ? ORDER BY p.id`,
    )
    .raw();
  const records = database
    .prepare<[number, number], [number, number, string]>(
      "SELECT id, row, texts FROM record WHERE id >= ? AND id < ? ORDER BY id",
    )
    .raw();
  const write = database.prepare<[number, number, string]>(
    "INSERT OR REPLACE INTO record (id, row, texts) VALUES (?, ?, ?)",
  );
  // What was spelled out goes with its revision from now on, which thereby changes those products too.
  const changed = new Map<Later, Touched>();
  // All at once: rows are written while the list is walked through.
  for (const [product, sku, isGroup] of products.all(revision.id)) {
    const first = product * REVISIONS_PER_PRODUCT;
    const own = new Map(
      records
        .all(first, first + REVISIONS_PER_PRODUCT)
        .map(([id, row, texts]) => [id - first, { row, texts }]),
    );
    const said = new Map<string, string>();
    const saying = (of: Revision, texts: readonly string[]): void => {
      if (!of.live) return;
      of.columns.forEach(({ attribute }, index) => {
        const text = texts[index] ?? "";
        if (text === "") return;
        if (takesBack(text)) said.delete(attribute);
        else said.set(attribute, text);
      });
    };
    // What the layer said up to and with the revision itself.
    for (const [id, { texts }] of own) {
      const before = revisions.get(id);
      if (before !== undefined && before.layer === revision.layer && id <= revision.id)
        saying(before, spelled(texts.split(TEXT_SEPARATOR), before, said));
    }
    for (const one of later) {
      const { id, columns } = one.revision;
      const record = own.get(id);
      if (record === undefined && !one.same.has(product)) continue;
      const texts =
        record === undefined
          ? columns.map(({ attribute }) =>
              attribute === "sku" ? (one.names && isGroup === 0 ? sku : "") : SAME,
            )
          : record.texts.split(TEXT_SEPARATOR);
      const full = spelled(texts, one.revision, said);
      if (record === undefined || texts.includes(SAME))
        write.run(first + id, record?.row ?? 0, full.join(TEXT_SEPARATOR));
      if (record === undefined) {
        one.same.forget(product);
        if (!changed.has(one)) changed.set(one, touchedBy(database, id));
        changed.get(one)?.product(product);
      }
      saying(one.revision, full);
    }
  }
  const keep = database.prepare<[Buffer | null, number]>("UPDATE revision SET same = ? WHERE id = ?");
  for (const [{ revision: one, same }, touched] of changed) {
    keep.run(same.bytes() ?? null, one.id);
    touched.keep(database, one.id);
  }
}

function touchedBy(database: Database.Database, revision: number): Touched {
  const touched = touchedProducts();
  touched.revision(database, revision);
  return touched;
}

/** Texts with what is said again in full. */
const spelled = (
  texts: readonly string[],
  { columns }: Revision,
  said: ReadonlyMap<string, string>,
): readonly string[] =>
  texts.map((text, index) => (text === SAME ? (said.get(columns[index]?.attribute ?? "") ?? "") : text));
