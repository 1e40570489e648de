import type Database from "better-sqlite3";
import type { AttributeIndex } from "../../core/catalogue/attribute-index.js";
import { withParts } from "../../core/catalogue/bundle.js";
import type { Family } from "../../core/catalogue/family.js";
import { merge } from "../../core/catalogue/merge.js";
import type { Product } from "../../core/catalogue/product.js";
import { mayTakeBack, type PartialRecord, TEXT_SEPARATOR } from "../../core/catalogue/record.js";
import { asSku } from "../../core/ids.js";
import type { FamilyRange } from "../store.js";
import type { Revision } from "./revisions.js";
import { FAMILIES_PER_PRODUCT, REVISIONS_PER_PRODUCT } from "./schema.js";

const FAMILIES_PER_BATCH = 100;
// Rows come in one call for so many families: one call a row costs twice as much, and keeps the collector busy.
const FAMILIES_PER_QUERY = 100;

/** product id, SKU or group, family, record id, row, texts, whether it is a group's own record */
type ScanRow = [number, string, number, number, number, string, number];

const scanColumns = "p.id, p.sku, p.family, r.id, r.row, r.texts, p.is_group";
const joined = `product p JOIN record r ON r.id >= p.id * ${REVISIONS_PER_PRODUCT} AND r.id < (p.id + 1) * ${REVISIONS_PER_PRODUCT}`;

/** A record with what decides its place among others. */
interface Opinion extends PartialRecord {
  readonly channel: string | undefined;
  readonly ofGroup: boolean;
}

/** A product's opinions before they are merged. */
interface Scanned {
  readonly id: number;
  readonly sku: string;
  readonly opinions: readonly Opinion[];
}

export interface CatalogueReader {
  families(range?: FamilyRange): AsyncGenerator<readonly Family[]>;
  stretches(count: number, mostProducts: number, within?: FamilyRange): readonly FamilyRange[];
  /** The families of these numbers, as far as they have members. */
  familiesOf(ids: readonly number[]): AsyncGenerator<readonly Family[]>;
  product(sku: string, channel?: string): Product | undefined;
  familyOf(sku: string): Promise<Family | undefined>;
  productById(id: number, channel?: string): Product | undefined;
  /** The product as it last was, even when nothing says anything of it any more. */
  lastKnown(id: number): Product | undefined;
}

const byHeight = (a: Opinion, b: Opinion): number =>
  a.layer - b.layer || Number(b.ofGroup) - Number(a.ofGroup) || a.origin.revision - b.origin.revision;

export const catalogueReader = (
  database: Database.Database,
  attributes: AttributeIndex,
  revisions: ReadonlyMap<number, Revision>,
): CatalogueReader => {
  const find = database
    .prepare<[string], ScanRow>(`SELECT ${scanColumns} FROM ${joined} WHERE p.sku = ? AND p.is_group = 0`)
    .raw();
  const findById = database
    .prepare<[number], ScanRow>(`SELECT ${scanColumns} FROM ${joined} WHERE p.id = ?`)
    .raw();
  const groupOf = database
    .prepare<[number], ScanRow>(
      `SELECT ${scanColumns} FROM ${joined} WHERE p.family = (SELECT family FROM product WHERE id = ?) AND p.is_group = 1`,
    )
    .raw();

  const opinionOf = (
    [, , , recordId, row, texts, isGroup]: ScanRow,
    withUndone: boolean,
  ): Opinion | undefined => {
    const id = recordId % REVISIONS_PER_PRODUCT;
    const revision = revisions.get(id);
    if (revision === undefined || (!revision.live && !withUndone)) return undefined;
    return {
      origin: { revision: id, row },
      layer: revision.rank,
      slots: revision.slots,
      texts: texts.split(TEXT_SEPARATOR),
      isPlain: !mayTakeBack(texts),
      channel: revision.channel,
      ofGroup: isGroup === 1,
    };
  };
  const opinionsOf = (rows: readonly ScanRow[], withUndone = false): readonly Opinion[] =>
    rows.flatMap((row) => opinionOf(row, withUndone) ?? []);

  // A bundle's parts are read without parts of their own: `withParts` goes down itself, and knows when to stop.
  const parts = (sku: string): Product | undefined => product(sku, undefined, false);
  /** Merges what holds for a channel, or for all; undefined when nothing is said of the product itself. */
  const merged = (
    { sku, opinions }: Scanned,
    shared: readonly Opinion[],
    channel: string | undefined,
    withBundle = true,
  ): Product | undefined => {
    if (opinions.length === 0) return undefined;
    const all = shared.length === 0 ? [...opinions] : [...shared, ...opinions];
    const seen = all.filter((opinion) => opinion.channel === undefined || opinion.channel === channel);
    const result = merge(asSku(sku), attributes, seen.length > 1 ? seen.sort(byHeight) : seen);
    if (!result.exists) return undefined;
    return withBundle ? withParts(result, parts) : result;
  };

  const product = (sku: string, channel: string | undefined, withBundle = true): Product | undefined => {
    const rows = find.all(sku);
    const [first] = rows;
    if (first === undefined) return undefined;
    const scanned = { id: first[0], sku: first[1], opinions: opinionsOf(rows) };
    return merged(scanned, opinionsOf(groupOf.all(first[0])), channel, withBundle);
  };

  const familyOf = (
    number: number,
    members: readonly Scanned[],
    shared: readonly Opinion[],
  ): Family | undefined => {
    const base = members.flatMap((member) => merged(member, shared, undefined) ?? []);
    if (base.length === 0) return undefined;
    const seen = new Map<string, readonly Product[]>();
    const scoped = [...shared, ...members.flatMap(({ opinions }) => opinions)].some(
      (opinion) => opinion.channel !== undefined,
    );
    return {
      number,
      group: base[0]?.group,
      get record() {
        const seen = shared.filter(({ channel }) => channel === undefined);
        return seen.length === 0 ? undefined : merge(asSku(""), attributes, [...seen].sort(byHeight));
      },
      members: base,
      membersOn(channel) {
        if (!scoped) return base;
        // Asked for by one stage after the other, and merged once.
        const known = seen.get(channel);
        if (known !== undefined) return known;
        const own = members.flatMap((member) => merged(member, shared, channel) ?? []);
        seen.set(channel, own);
        return own;
      },
    };
  };

  async function* grouped(rows: Iterable<ScanRow>): AsyncGenerator<readonly Family[]> {
    let batch: Family[] = [];
    let members: Scanned[] = [];
    let shared: Opinion[] = [];
    let [family, productId] = [-1, -1];
    let opinions: Opinion[] = [];
    const endFamily = (): void => {
      const found = members.length === 0 ? undefined : familyOf(family, members, shared);
      if (found !== undefined) batch.push(found);
      members = [];
      shared = [];
    };
    for (const row of rows) {
      if (row[2] !== family) {
        endFamily();
        family = row[2];
        if (batch.length >= FAMILIES_PER_BATCH) {
          yield batch;
          batch = [];
        }
      }
      const opinion = opinionOf(row, false);
      if (opinion === undefined) continue;
      if (opinion.ofGroup) {
        shared.push(opinion);
        continue;
      }
      if (row[0] !== productId) {
        productId = row[0];
        opinions = [];
        members.push({ id: row[0], sku: row[1], opinions });
      }
      opinions.push(opinion);
    }
    endFamily();
    if (batch.length > 0) yield batch;
  }

  const byFamily = database
    .prepare<[number], ScanRow>(`SELECT ${scanColumns} FROM ${joined} WHERE p.family = ? ORDER BY p.id, r.id`)
    .raw();
  const between = database
    .prepare<[number, number], ScanRow>(
      `SELECT ${scanColumns} FROM ${joined} WHERE p.family >= ? AND p.family < ? ORDER BY p.family, p.id, r.id`,
    )
    .raw();
  const greatest = database.prepare<[], number | null>("SELECT max(family) FROM product").pluck();
  const end = (): number => (greatest.get() ?? -1) + 1;
  /** Rows in catalogue order; a family, which begins at a product, is never torn over two queries. */
  function* inOrder(range: FamilyRange | undefined): Generator<ScanRow> {
    const step = FAMILIES_PER_QUERY * FAMILIES_PER_PRODUCT;
    const { from, until } = range ?? { from: 0, until: end() };
    for (let at = from; at < until; at += step) yield* between.all(at, Math.min(at + step, until));
  }
  function* each(families: readonly number[]): Generator<ScanRow> {
    for (const family of families) yield* byFamily.all(family);
  }
  return {
    families: (range) => grouped(range?.only === undefined ? inOrder(range) : each(range.only)),
    stretches(count, mostProducts, { from: first, until: last } = { from: 0, until: end() }) {
      const products = Math.ceil((last - first) / FAMILIES_PER_PRODUCT / count);
      const step = Math.max(1, Math.min(products, mostProducts)) * FAMILIES_PER_PRODUCT;
      const ranges: FamilyRange[] = [];
      for (let from = first; from < last; from += step)
        ranges.push({ from, until: Math.min(from + step, last) });
      return ranges;
    },
    familiesOf: (numbers) => grouped(each(numbers)),
    product: (sku, channel) => product(sku, channel),
    async familyOf(sku) {
      const [first] = find.all(sku);
      if (first === undefined) return undefined;
      for await (const [family] of grouped(byFamily.all(first[2]))) return family;
      return undefined;
    },
    productById(id, channel) {
      const rows = findById.all(id);
      const scanned = { id, sku: rows[0]?.[1] ?? "", opinions: opinionsOf(rows) };
      return merged(scanned, opinionsOf(groupOf.all(id)), channel);
    },
    lastKnown(id) {
      const rows = findById.all(id);
      const scanned = { id, sku: rows[0]?.[1] ?? "", opinions: opinionsOf(rows, true) };
      return merged(scanned, opinionsOf(groupOf.all(id), true), undefined, false);
    },
  };
};
