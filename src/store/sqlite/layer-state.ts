/** What one layer says of products before the revision that is being written. */
import type Database from "better-sqlite3";
import { RETRACTED, SAME, TEXT_SEPARATOR } from "../../core/catalogue/record.js";
import type { RevisionColumns } from "./revision-columns.js";
import type { Revision } from "./revisions.js";
import { REVISIONS_PER_PRODUCT } from "./schema.js";

/** What one layer says of products before the revision that is being written. */
export interface LayerState {
  /** Attributes that the layer ever spoke of. */
  readonly attributes: readonly string[];
  /** The layer's texts of a product, by attribute; without those it took back. */
  of(product: number): ReadonlyMap<string, string>;
  /** The same in the order of columns, "" where it says nothing: for every row of an import. */
  inOrder(product: number, columns: RevisionColumns): readonly string[];
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
  const own = new Map([...revisions].filter(([, revision]) => revision.layer === layer && revision.live));
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
      ...new Set([...own.values()].flatMap(({ columns }) => columns.map(({ attribute }) => attribute))),
    ],
    speaksOf: (recordId) => own.has(recordId % REVISIONS_PER_PRODUCT),
    inOrder(product, columns) {
      const texts = new Array<string>(columns.all.length).fill("");
      if (own.size === 0) return texts;
      for (const record of records.all(
        product * REVISIONS_PER_PRODUCT,
        (product + 1) * REVISIONS_PER_PRODUCT,
      )) {
        const revision = own.get(record.id % REVISIONS_PER_PRODUCT);
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
    of(product) {
      if (own.size === 0) return nothing;
      const texts = new Map<string, string>();
      for (const record of records.all(
        product * REVISIONS_PER_PRODUCT,
        (product + 1) * REVISIONS_PER_PRODUCT,
      )) {
        const revision = own.get(record.id % REVISIONS_PER_PRODUCT);
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
