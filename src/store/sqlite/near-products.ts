/** Questions about SKUs alone, for messages: who is in a group, what stands near a name that nobody has. */
import type Database from "better-sqlite3";
import { asSku, type Sku } from "../../core/ids.js";

/** The members of a group, in catalogue order. */
export function groupMembers(database: Database.Database, group: string): readonly Sku[] {
  return (
    database
      .prepare(
        "SELECT sku FROM product WHERE family = (SELECT id FROM family WHERE name = ?) AND is_group = 0 ORDER BY id",
      )
      .pluck()
      .all(group) as string[]
  ).map(asSku);
}

const NEAR_SAMPLE = 500;

/** SKUs that may be meant by one that is not there: the same in another case, then those around it in order. */
export function skusNear(database: Database.Database, sku: string): readonly string[] {
  const half = NEAR_SAMPLE / 2;
  const read = (comparison: string, direction: string): string[] =>
    database
      .prepare(
        `SELECT sku FROM product WHERE is_group = 0 AND sku ${comparison} ? ORDER BY sku ${direction} LIMIT ?`,
      )
      .pluck()
      .all(sku, half) as string[];
  const folded = database
    .prepare("SELECT sku FROM product WHERE is_group = 0 AND sku = ? COLLATE NOCASE LIMIT 3")
    .pluck()
    .all(sku) as string[];
  return [...folded, ...read("<", "DESC"), ...read(">=", "ASC")];
}
