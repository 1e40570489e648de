/** States of the catalogue, and what changed between two of them. */
import { createHash } from "node:crypto";
import type Database from "better-sqlite3";
import type { CatalogueState } from "../store.js";
import { familiesTouched, productsTouched } from "./touched.js";

const marks = (database: Database.Database): readonly (readonly [id: number, mark: string])[] =>
  (
    database
      .prepare("SELECT id, at, kind, layer, source, file, counts FROM revision ORDER BY id")
      .raw()
      .all() as [number, ...string[]][]
  ).map((row) => [row[0], createHash("sha256").update(JSON.stringify(row)).digest("hex").slice(0, 16)]);

/** The state of now. */
export const stateOf = (database: Database.Database): CatalogueState => ({
  revisions: marks(database).map(([, mark]) => mark),
  newest: database.prepare("SELECT coalesce(max(id), 0) FROM product").pluck().get() as number,
});

/** Revisions behind a state; undefined where one of its own is no more. */
function laterThan(
  database: Database.Database,
  { revisions }: CatalogueState,
): readonly number[] | undefined {
  const now = marks(database);
  return revisions.some((mark, at) => now[at]?.[1] !== mark)
    ? undefined
    : now.slice(revisions.length).map(([id]) => id);
}

/** The products that changed since a state. */
export function productsSince(
  database: Database.Database,
  state: CatalogueState,
): { has(product: number): boolean } | undefined {
  const later = laterThan(database, state);
  return later === undefined ? undefined : productsTouched(database, later);
}

/** The families that revisions behind a state changed; no product changes without one, and an undo is one too. */
export function familiesSince(
  database: Database.Database,
  state: CatalogueState,
  mostProducts: number,
): readonly number[] | undefined {
  const later = laterThan(database, state);
  return later === undefined ? undefined : familiesTouched(database, later, mostProducts);
}

/** The numbers of the families that products belong to, which whoever is nobody's product has not. */
export function familyNumbers(database: Database.Database, skus: readonly string[]): readonly number[] {
  const find = database
    .prepare<[string], number>("SELECT family FROM product WHERE sku = ? AND is_group = 0")
    .pluck();
  return skus.map((sku) => find.get(sku) ?? -1);
}
