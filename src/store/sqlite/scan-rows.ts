/**
 * Rows of the store as opinions: what one live revision says of one product, with what decides its place among others. The
 * query that reads them is told here once; who reads by product, by family or in order adds its condition.
 */
import type Database from "better-sqlite3";
import { mayTakeBack, TEXT_SEPARATOR, type PartialRecord } from "../../core/catalogue/record.js";
import type { Revision } from "./revisions.js";
import { REVISIONS_PER_PRODUCT } from "./schema.js";

/** product id, SKU or group, family, record id, row, texts, whether it is a group's own record */
export type ScanRow = readonly [
  product: number,
  sku: string,
  family: number,
  record: number,
  row: number,
  texts: string,
  isGroup: number,
];

const columns = "p.id, p.sku, p.family, r.id, r.row, r.texts, p.is_group";
const joined = `product p JOIN record r ON r.id >= p.id * ${REVISIONS_PER_PRODUCT} AND r.id < (p.id + 1) * ${REVISIONS_PER_PRODUCT}`;

/** A query of records by a condition on `p` (products) and `r` (records). */
export function scanWhere<Given extends readonly unknown[]>(
  database: Database.Database,
  condition: string,
): Database.Statement<Given[number][], ScanRow> {
  return database
    .prepare<Given[number][], ScanRow>(`SELECT ${columns} FROM ${joined} WHERE ${condition}`)
    .raw();
}

/** A record with what decides its place among others. */
export interface Opinion extends PartialRecord {
  /** The only channel that it is for; undefined: all. */
  readonly channel: string | undefined;
  readonly ofGroup: boolean;
}

/** Lower layers first, within one a group's own before its members', then older before later. */
export const byHeight = (a: Opinion, b: Opinion): number =>
  a.layer - b.layer || a.origin.revision - b.origin.revision;

/** Reads rows as opinions. */
export interface OpinionReader {
  /** One row; undefined where its revision was undone. */
  of(row: ScanRow): Opinion | undefined;
  all(rows: readonly ScanRow[]): readonly Opinion[];
  /** The same with those that were undone. */
  everSaid(rows: readonly ScanRow[]): readonly Opinion[];
}

/** A reader by the revisions that hold. */
export function opinionReader(revisions: ReadonlyMap<number, Revision>): OpinionReader {
  const read = ([, , , record, row, texts, isGroup]: ScanRow, withUndone: boolean): Opinion | undefined => {
    const id = record % REVISIONS_PER_PRODUCT;
    const revision = revisions.get(id);
    if (revision === undefined || (!revision.live && !withUndone)) return undefined;
    return {
      origin: { revision: id, row },
      // A layer's word of a group lies below its words of the members, and shows again where those are taken back.
      layer: revision.rank * 2 + (isGroup === 1 ? 0 : 1),
      slots: isGroup === 1 ? revision.slotsOfGroup : revision.slots,
      texts: texts.split(TEXT_SEPARATOR),
      isPlain: !mayTakeBack(texts),
      isByHand: revision.kind === "edit",
      channel: revision.channel,
      ofGroup: isGroup === 1,
    };
  };
  return {
    of: (row) => read(row, false),
    all: (rows) => rows.flatMap((row) => read(row, false) ?? []),
    everSaid: (rows) => rows.flatMap((row) => read(row, true) ?? []),
  };
}
