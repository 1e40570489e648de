import type Database from "better-sqlite3";
import type { MetBefore } from "./met-before.js";
import { FAMILIES_PER_PRODUCT } from "./schema.js";

/** Which family a product belongs to, by its group's name. */
export interface Families {
  /** The group's family; a new one begins at the product that names it first. */
  of(group: string | undefined, product: number): number;
}

/** Numbers of families, given and found. */
export function families(database: Database.Database, met: MetBefore): Families {
  const find = database.prepare<[string], number>("SELECT id FROM family WHERE name = ?").pluck();
  const taken = database
    .prepare<[number, number], number>("SELECT max(id) FROM family WHERE id >= ? AND id < ?")
    .pluck();
  const add = database.prepare<[string, number]>("INSERT INTO family (name, id) VALUES (?, ?)");
  return {
    of(group, product) {
      const own = product * FAMILIES_PER_PRODUCT;
      if (group === undefined || group === "") return own;
      const known = met.mayHold("family", group) ? find.get(group) : undefined;
      if (known !== undefined) return known;
      met.note("family", group);
      const last = taken.get(own, own + FAMILIES_PER_PRODUCT) as number | null | undefined;
      const id = Math.min((last ?? own) + 1, own + FAMILIES_PER_PRODUCT - 1);
      add.run(group, id);
      return id;
    },
  };
}
