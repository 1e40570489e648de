import type Database from "better-sqlite3";
import { RETRACTED } from "../core/catalogue/record.js";
import type { Revision } from "./revisions.js";
import { REVISIONS_PER_PRODUCT, TEXT_SEPARATOR } from "./schema.js";

/** What one layer says of products before the revision that is being written. */
export interface LayerState {
  /** Attributes that the layer ever spoke of. */
  readonly attributes: readonly string[];
  /** The layer's texts of a product, by attribute; without those it took back. */
  of(product: number): ReadonlyMap<string, string>;
  /** Whether the layer has a record of the product. */
  speaksOf(recordId: number): boolean;
}

const nothing: ReadonlyMap<string, string> = new Map();

export const layerState = (
  database: Database.Database,
  layer: string,
  revisions: ReadonlyMap<number, Revision>,
): LayerState => {
  const own = new Map([...revisions].filter(([, revision]) => revision.layer === layer && revision.live));
  const records = database.prepare<[number, number], { readonly id: number; readonly texts: string }>(
    "SELECT id, texts FROM record WHERE id >= ? AND id < ? ORDER BY id",
  );
  return {
    attributes: [
      ...new Set([...own.values()].flatMap(({ columns }) => columns.map(({ attribute }) => attribute))),
    ],
    speaksOf: (recordId) => own.has(recordId % REVISIONS_PER_PRODUCT),
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
          if (text === "" || attribute === undefined) return;
          if (text === RETRACTED) texts.delete(attribute);
          else texts.set(attribute, text);
        });
      }
      return texts;
    },
  };
};
