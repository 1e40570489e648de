/** Products by the values of keys: every value ever stored, answers checked against the product. */
import type Database from "better-sqlite3";
import { CLEARED, isUnread, RETRACTED, TEXT_SEPARATOR } from "../../core/catalogue/record.js";
import { gtin14 } from "../../core/values/gtin.js";
import type { MetBefore } from "./met-before.js";
import { REVISIONS_PER_PRODUCT } from "./schema.js";
import type { PlannedColumn } from "../store.js";

/**
 * Products by the values of key attributes. It holds every value that was ever stored, so that undoing and overriding
 * need not touch it: a candidate counts only when the merged product still has the value.
 */
export interface ProductKeys {
  /** Notes a stored text, if its attribute is a key that is kept. */
  note(attribute: string, text: string, product: number): void;
  /** The keys that are kept. */
  readonly kept: ReadonlySet<string>;
  /** Products that have or had the value. */
  candidates(attribute: string, text: string): readonly number[];
  /** Begins to keep a key: gathers it from all records there are. */
  keep(attribute: string): void;
}

const digits = /^\d{8,14}$/;

/** The form in which key values compare: a GTIN of any length as its 14-digit number. */
export const keyForm = (attribute: string, text: string): string | number =>
  attribute === "gtin" && digits.test(text) ? Number(gtin14(text)) : text;

const metKey = (attribute: string, form: string | number): string => `${attribute} ${form}`;

const hasValue = (text: string | undefined): text is string =>
  text !== undefined && text !== "" && text !== CLEARED && text !== RETRACTED && !isUnread(text);

/** The keys of a store. */
export function productKeys(database: Database.Database, met: MetBefore): ProductKeys {
  const kept = new Set(database.prepare("SELECT attribute FROM indexed").pluck().all() as string[]);
  const add = database.prepare<[string, string | number, number]>(
    "INSERT OR IGNORE INTO key_value (attribute, value, product) VALUES (?, ?, ?)",
  );
  const find = database
    .prepare<[string, string | number], number>(
      "SELECT product FROM key_value WHERE attribute = ? AND value = ?",
    )
    .pluck();
  const note = (attribute: string, text: string, product: number): void => {
    if (!hasValue(text)) return;
    const form = keyForm(attribute, text);
    met.note("key", metKey(attribute, form));
    add.run(attribute, form, product);
  };
  return {
    note(attribute, text, product) {
      if (kept.has(attribute)) note(attribute, text, product);
    },
    kept,
    candidates(attribute, text) {
      const form = keyForm(attribute, text);
      return met.mayHold("key", metKey(attribute, form)) ? find.all(attribute, form) : [];
    },
    keep(attribute) {
      if (kept.has(attribute)) return;
      gather(database, positionsOf(database, attribute), (text, product) => note(attribute, text, product));
      database.prepare("INSERT INTO indexed (attribute) VALUES (?)").run(attribute);
      kept.add(attribute);
    },
  };
}

function positionsOf(database: Database.Database, attribute: string): ReadonlyMap<number, number> {
  const revisions = database.prepare("SELECT id, columns FROM revision").all() as {
    readonly id: number;
    readonly columns: string;
  }[];
  return new Map(
    revisions.flatMap(({ id, columns }) => {
      const at = (JSON.parse(columns) as PlannedColumn[]).findIndex(
        (column) => column.attribute === attribute,
      );
      return at < 0 ? [] : [[id, at] as const];
    }),
  );
}

const GATHERED = 10_000;

/** Reads all texts in slices, since nothing can be written while a statement is being stepped through. */
function gather(
  database: Database.Database,
  positions: ReadonlyMap<number, number>,
  take: (text: string, product: number) => void,
): void {
  if (positions.size === 0) return;
  const slice = database.prepare<[number], { readonly id: number; readonly texts: string }>(
    `SELECT id, texts FROM record WHERE id > ? ORDER BY id LIMIT ${GATHERED}`,
  );
  for (let from = 0; ;) {
    const rows = slice.all(from);
    for (const { id, texts } of rows) {
      const position = positions.get(id % REVISIONS_PER_PRODUCT);
      if (position !== undefined)
        take(texts.split(TEXT_SEPARATOR)[position] ?? "", Math.floor(id / REVISIONS_PER_PRODUCT));
    }
    const last = rows.at(-1);
    if (rows.length < GATHERED || last === undefined) return;
    from = last.id;
  }
}
