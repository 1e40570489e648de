/** Products that a person took out of the catalogue: they stay out until that is undone. */
import type Database from "better-sqlite3";
import { isRemoval, type Revision } from "./revisions.js";
import { REVISIONS_PER_PRODUCT } from "./schema.js";

/** Tells the revision by which a person took a product out of the catalogue; the latest of several. */
export function removalsIn(
  database: Database.Database,
  revisions: ReadonlyMap<number, Revision>,
): (product: number) => number | undefined {
  const removals = [...revisions.values()].filter((one) => one.live && isRemoval(one)).map(({ id }) => id);
  const hasRecord = database.prepare<[number], number>("SELECT 1 FROM record WHERE id = ?").pluck();
  return (product) =>
    removals.findLast((revision) => hasRecord.get(product * REVISIONS_PER_PRODUCT + revision) !== undefined);
}
