/** What one layer says of products before the revision that is being written. */
import type Database from "better-sqlite3";
import { RETRACTED, SAME, takesBack, TEXT_SEPARATOR } from "../../core/catalogue/record.js";
import type { RevisionColumns } from "./revision-columns.js";
import type { Revision } from "./revisions.js";
import { REVISIONS_PER_PRODUCT } from "./schema.js";
import { seenProducts, type SeenProducts } from "./seen-products.js";

/** What one layer says of products before the revision that is being written. */
export interface LayerState {
  /** Attributes that the layer ever spoke of. */
  readonly attributes: readonly string[];
  /** The layer's texts of a product, by attribute; without those it took back. */
  of(product: number): ReadonlyMap<string, string>;
  /** The same in the order of columns, "" where it says nothing: for every row of an import. */
  inOrder(product: number, columns: RevisionColumns): readonly string[];
  /** Which revision said each of these last, in the order of columns; 0 where the layer says nothing. */
  saidBy(product: number, columns: RevisionColumns): readonly number[];
  /** Whether the layer has a record of the product. */
  speaksOf(recordId: number): boolean;
}

const nothing: ReadonlyMap<string, string> = new Map();

/** Begins with a layer. */
export function layerState(
  database: Database.Database,
  layer: string,
  revisions: ReadonlyMap<number, Revision>,
): LayerState {
  const inLayer = new Map(
    [...revisions]
      .filter(([, revision]) => revision.layer === layer && revision.live)
      .sort(([one], [other]) => one - other),
  );
  const again = saidAgain(database);
  const records = database.prepare<[number, number], { readonly id: number; readonly texts: string }>(
    "SELECT id, texts FROM record WHERE id >= ? AND id < ? ORDER BY id",
  );
  const cached = new Map<number, { readonly columns: number; readonly positions: readonly number[] }>();
  /** Where a revision's texts stand among the columns; made anew when those have grown. */
  const positionsOf = (revision: Revision, columns: RevisionColumns): readonly number[] => {
    const known = cached.get(revision.id);
    if (known?.columns === columns.all.length) return known.positions;
    const positions = revision.columns.map(({ attribute }) => columns.positionOf(attribute) ?? -1);
    cached.set(revision.id, { columns: columns.all.length, positions });
    return positions;
  };
  return {
    attributes: [
      ...new Set([...inLayer.values()].flatMap(({ columns }) => columns.map(({ attribute }) => attribute))),
    ],
    speaksOf: (recordId) => inLayer.has(recordId % REVISIONS_PER_PRODUCT),
    inOrder(product, columns) {
      const texts = new Array<string>(columns.all.length).fill("");
      if (inLayer.size === 0) return texts;
      for (const record of records.all(
        product * REVISIONS_PER_PRODUCT,
        (product + 1) * REVISIONS_PER_PRODUCT,
      )) {
        const revision = inLayer.get(record.id % REVISIONS_PER_PRODUCT);
        if (revision === undefined) continue;
        const positions = positionsOf(revision, columns);
        const said = record.texts.split(TEXT_SEPARATOR);
        for (let i = 0; i < said.length; i++) {
          const [text, position] = [said[i] ?? "", positions[i] ?? -1];
          if (text !== "" && text !== SAME && position >= 0) texts[position] = text === RETRACTED ? "" : text;
        }
      }
      return texts;
    },
    saidBy(product, columns) {
      const by = new Array<number>(columns.all.length).fill(0);
      const own = records.all(product * REVISIONS_PER_PRODUCT, (product + 1) * REVISIONS_PER_PRODUCT);
      const texts = new Map(own.map(({ id, texts: said }) => [id % REVISIONS_PER_PRODUCT, said]));
      for (const [id, revision] of inLayer) {
        const positions = positionsOf(revision, columns);
        const said = texts.get(id)?.split(TEXT_SEPARATOR);
        // A delivery without a record of it says all of it again, or nothing.
        if (said === undefined && !again.of(id).has(product)) continue;
        for (const [i, position] of positions.entries()) {
          const text = said === undefined ? SAME : (said[i] ?? "");
          if (position < 0 || text === "") continue;
          if (text === SAME) by[position] = by[position] === 0 ? 0 : id;
          else by[position] = takesBack(text) ? 0 : id;
        }
      }
      return by;
    },
    of(product) {
      if (inLayer.size === 0) return nothing;
      const texts = new Map<string, string>();
      for (const record of records.all(
        product * REVISIONS_PER_PRODUCT,
        (product + 1) * REVISIONS_PER_PRODUCT,
      )) {
        const revision = inLayer.get(record.id % REVISIONS_PER_PRODUCT);
        if (revision === undefined) continue;
        record.texts.split(TEXT_SEPARATOR).forEach((text, index) => {
          const attribute = revision.columns[index]?.attribute;
          if (text === "" || text === SAME || attribute === undefined) return;
          if (text === RETRACTED) texts.delete(attribute);
          else texts.set(attribute, text);
        });
      }
      return texts;
    },
  };
}

/** The products of which a revision says again all that was said; read when it is first asked for. */
function saidAgain(database: Database.Database): { of(revision: number): SeenProducts } {
  const find = database.prepare<[number], Buffer | null>("SELECT same FROM revision WHERE id = ?").pluck();
  const known = new Map<number, SeenProducts>();
  return {
    of(revision) {
      const found = known.get(revision) ?? seenProducts(find.get(revision) ?? undefined);
      known.set(revision, found);
      return found;
    },
  };
}
