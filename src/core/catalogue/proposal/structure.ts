/**
 * Trees as tables, for a proposal: a column for each path that holds values, lists joined, name-and-value pairs as
 * pairs.
 */
import type { RecordNode } from "../../records/node.js";
import { recordPath } from "../../records/path.js";
import { listText } from "../list-text.js";
import type { FileSample, ProposedPair } from "./source-proposal.js";
import { LOOKED_AT, type FoundPath } from "./tree-paths.js";
import { Walk } from "./tree-walk.js";
import { aboveColumns, currencyAbove } from "./levels-above.js";

/** What trees show as a table: a column for each path, pairs that name attributes, and a currency that holds for all. */
export interface SampledTrees extends FileSample {
  readonly labels: readonly string[];
  readonly pairs: readonly ProposedPair[];
  readonly currency: string | undefined;
}

/** A table of more columns is no table: what stands in the first tells it. */
const COLUMNS_LOOKED_AT = 2000;

/** Records as a table that a proposal can look at. */
export function sampleOfTrees(trees: readonly RecordNode[], isOwnOnly = false): SampledTrees {
  const records = trees.slice(0, LOOKED_AT);
  const walk = new Walk("", undefined);
  walk.down(records, "", "");
  const names = new Set(records.map(({ name }) => name));
  // Records of an object that stand under their own numbers.
  const keyed: readonly FoundPath[] =
    names.size === records.length && records.length > 1 ? [{ path: "name()", label: "sku" }] : [];
  const above = isOwnOnly ? [] : aboveColumns(records);
  const byPath = new Map<string, FoundPath>();
  for (const one of [...keyed, ...walk.found, ...above])
    if (!byPath.has(one.path) && byPath.size < COLUMNS_LOOKED_AT) byPath.set(one.path, one);
  const found = [...byPath.values()];
  const paths = found.map(({ path }) => recordPath(path));
  const rows = records.map((record) =>
    paths.map((path) => {
      const values = path?.valuesIn(record).map((value) => value ?? "") ?? [];
      return values.some(Boolean) ? listText(values) : "";
    }),
  );
  return {
    header: found.map(({ path }) => path),
    labels: found.map(({ label }) => label),
    rows,
    pairs: walk.pairs,
    currency: currencyAbove(records),
  };
}
