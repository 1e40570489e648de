/**
 * Opinions merged: one product of what is said of it and of its group, and a family of all members, with what a channel's
 * own layers add merged only when that channel asks.
 */
import type { AttributeIndex } from "../../core/catalogue/attribute-index.js";
import { withParts } from "../../core/catalogue/bundle.js";
import type { Family } from "../../core/catalogue/family.js";
import { merge } from "../../core/catalogue/merge.js";
import type { Product } from "../../core/catalogue/product.js";
import { asSku } from "../../core/ids.js";
import { byHeight, type Opinion, type OpinionReader, type ScanRow } from "./scan-rows.js";

const FAMILIES_PER_BATCH = 100;

/** A product's opinions before they are merged. */
export interface Scanned {
  readonly sku: string;
  readonly opinions: readonly Opinion[];
}

/** Merges what holds for a channel, or for all; undefined when nothing is said of the product itself. */
export type MergeProduct = (
  product: Scanned,
  ofGroup: readonly Opinion[],
  channel: string | undefined,
  /** Whether what a bundle's parts say of it is worked out, too. */
  withBundle?: boolean,
) => Product | undefined;

/** Begins to merge; `partOf` finds a bundle's part. */
export const merging =
  (attributes: AttributeIndex, partOf: (sku: string) => Product | undefined): MergeProduct =>
  ({ sku, opinions }, ofGroup, channel, withBundle = true) => {
    if (opinions.length === 0) return undefined;
    const all = ofGroup.length === 0 ? [...opinions] : [...ofGroup, ...opinions];
    const seen = all.filter((opinion) => opinion.channel === undefined || opinion.channel === channel);
    const result = merge(asSku(sku), attributes, seen.length > 1 ? seen.sort(byHeight) : seen);
    if (!result.exists) return undefined;
    return withBundle ? withParts(result, partOf) : result;
  };

/** A family's rows as they come: its members, and what is said of their group. */
interface FamilyRows {
  readonly number: number;
  readonly members: readonly Scanned[];
  readonly ofGroup: readonly Opinion[];
}

function familyOf(
  { number, members, ofGroup }: FamilyRows,
  merged: MergeProduct,
  attributes: AttributeIndex,
): Family | undefined {
  const base = members.flatMap((member) => merged(member, ofGroup, undefined) ?? []);
  if (base.length === 0) return undefined;
  const onChannels = new Map<string, readonly Product[]>();
  const isScoped = [...ofGroup, ...members.flatMap(({ opinions }) => opinions)].some(
    (opinion) => opinion.channel !== undefined,
  );
  return {
    number,
    group: base[0]?.group,
    get record() {
      const own = ofGroup.filter(({ channel }) => channel === undefined);
      return own.length === 0 ? undefined : merge(asSku(""), attributes, own.sort(byHeight));
    },
    members: base,
    membersOn(channel) {
      if (!isScoped) return base;
      // Asked for by one stage after the other, and merged once.
      const known = onChannels.get(channel);
      if (known !== undefined) return known;
      const own = members.flatMap((member) => merged(member, ofGroup, channel) ?? []);
      onChannels.set(channel, own);
      return own;
    },
  };
}

/** Rows of one family after the other; a family and a product begin where the number changes. */
function* familyRows(rows: Iterable<ScanRow>, read: OpinionReader): Generator<FamilyRows> {
  let [number, product] = [-1, -1];
  let members: { sku: string; opinions: Opinion[] }[] = [];
  let ofGroup: Opinion[] = [];
  for (const row of rows) {
    if (row[2] !== number) {
      if (members.length > 0) yield { number, members, ofGroup };
      [number, members, ofGroup] = [row[2], [], []];
    }
    const opinion = read.of(row);
    if (opinion === undefined) continue;
    if (opinion.ofGroup) {
      ofGroup.push(opinion);
      continue;
    }
    if (row[0] !== product || members.length === 0) {
      product = row[0];
      members.push({ sku: row[1], opinions: [] });
    }
    members.at(-1)?.opinions.push(opinion);
  }
  if (members.length > 0) yield { number, members, ofGroup };
}

/** Families of rows that come in catalogue order, in batches. */
export async function* mergedFamilies(
  rows: Iterable<ScanRow>,
  read: OpinionReader,
  merged: MergeProduct,
  attributes: AttributeIndex,
): AsyncGenerator<readonly Family[]> {
  let batch: Family[] = [];
  for (const one of familyRows(rows, read)) {
    const family = familyOf(one, merged, attributes);
    if (family === undefined) continue;
    batch.push(family);
    if (batch.length < FAMILIES_PER_BATCH) continue;
    yield batch;
    batch = [];
  }
  if (batch.length > 0) yield batch;
}
