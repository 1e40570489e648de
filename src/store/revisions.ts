import type Database from "better-sqlite3";
import type { AttributeIndex } from "../core/catalogue/attribute-index.js";

/** A landed import, with the slots that its records' texts go to. */
export interface Revision {
  readonly id: number;
  readonly layer: string;
  readonly file: string;
  readonly columns: readonly { readonly attribute: string; readonly column: string }[];
  readonly slots: readonly number[];
}

interface RevisionRow {
  readonly id: number;
  readonly layer: string;
  readonly file: string;
  readonly columns: string;
}

/** All revisions by id; few beside the products, and needed for every record. */
export const loadRevisions = (
  database: Database.Database,
  attributes: AttributeIndex,
): ReadonlyMap<number, Revision> => {
  const rows = database
    .prepare("SELECT id, layer, file, columns FROM revision ORDER BY id")
    .all() as RevisionRow[];
  return new Map(
    rows.map(({ id, layer, file, columns: written }) => {
      const columns = JSON.parse(written) as Revision["columns"];
      return [
        id,
        { id, layer, file, columns, slots: columns.map(({ attribute }) => attributes.slot(attribute) ?? -1) },
      ];
    }),
  );
};
