/** All that revisions ever said of a product. */
import type Database from "better-sqlite3";
import { SAME, TEXT_SEPARATOR } from "../../core/catalogue/record.js";
import type { Revision } from "./revisions.js";
import { REVISIONS_PER_PRODUCT } from "./schema.js";
import type { PastOpinion, Store } from "../store.js";

/** All that revisions ever said of a product, latest first, those undone included. */
export function opinionsOf(
  database: Database.Database,
  revisions: ReadonlyMap<number, Revision>,
  placeOf: Store["placeOf"],
  sku: string,
): readonly PastOpinion[] {
  const rows = database
    .prepare<[string], { readonly id: number; readonly row: number; readonly texts: string }>(
      `SELECT r.id, r.row, r.texts FROM product p
       JOIN record r ON r.id >= p.id * ${REVISIONS_PER_PRODUCT} AND r.id < (p.id + 1) * ${REVISIONS_PER_PRODUCT}
       WHERE p.sku = ? ORDER BY r.id DESC`,
    )
    .all(sku);
  return rows.flatMap(({ id, row, texts }) => {
    const revision = revisions.get(id % REVISIONS_PER_PRODUCT);
    if (revision === undefined) return [];
    return texts.split(TEXT_SEPARATOR).flatMap((text, index): PastOpinion[] => {
      const attribute = revision.columns[index]?.attribute;
      if (text === "" || text === SAME || attribute === undefined || attribute === "sku") return [];
      return [
        {
          revision: revision.id,
          attribute,
          text,
          place: placeOf({ revision: revision.id, row }, attribute),
          at: revision.at,
          undone: !revision.live,
        },
      ];
    });
  });
}

/** Layers with a record of a product that holds, lowest first. */
export function layersOf(
  database: Database.Database,
  revisions: ReadonlyMap<number, Revision>,
  sku: string,
): readonly string[] {
  const ids = database
    .prepare<[string], number>(
      `SELECT r.id FROM product p
       JOIN record r ON r.id >= p.id * ${REVISIONS_PER_PRODUCT} AND r.id < (p.id + 1) * ${REVISIONS_PER_PRODUCT}
       WHERE p.sku = ? AND p.is_group = 0`,
    )
    .pluck()
    .all(sku);
  const found = ids
    .flatMap((id) => revisions.get(id % REVISIONS_PER_PRODUCT) ?? [])
    .filter(({ live }) => live);
  return [...new Set(found.sort((a, b) => a.rank - b.rank).map(({ layer }) => layer))];
}
