/** Brings what is learned anew into a table that a person may have edited. */
import { ownOf } from "../own.js";

/** A row of a table, by its columns. */
export type RowCells = Readonly<Record<string, string>>;

const cellOf = (row: RowCells | undefined, column: string): string =>
  row === undefined ? "" : (ownOf(row, column) ?? "");

/** What becomes of a table. */
export interface MergedTable {
  /** Rows that are set: cells that changed in what was learned, and that nobody touched since. */
  readonly edits: readonly RowCells[];
  readonly gone: readonly RowCells[];
  /** Cells that a person changed and that were learned otherwise now, too. */
  readonly kept: readonly {
    readonly key: string;
    readonly column: string;
    readonly ours: string;
    readonly learned: string;
  }[];
}

/**
 * Brings what is learned anew into a table that a person may have edited: `before` is the table as it was learned,
 * `now` as it stands, `next` as it is learned. What a person changed, added or took away stays so.
 */
export function mergedTable(
  before: readonly RowCells[],
  now: readonly RowCells[],
  next: readonly RowCells[],
  keys: readonly string[],
): MergedTable {
  const keyOf = (row: RowCells): string => keys.map((key) => cellOf(row, key)).join("\u0000");
  const byKey = (rows: readonly RowCells[]): ReadonlyMap<string, RowCells> =>
    new Map(rows.map((row) => [keyOf(row), row]));
  const [was, is] = [byKey(before), byKey(now)];
  const wanted = byKey(next);
  const edits: RowCells[] = [];
  const kept: { key: string; column: string; ours: string; learned: string }[] = [];
  for (const [key, row] of wanted) {
    const [old, own] = [was.get(key), is.get(key)];
    if (own === undefined) {
      // A row that was taken away by a person does not come back.
      if (old === undefined) edits.push(row);
      continue;
    }
    const changed = new Map<string, string>();
    for (const column of new Set([...Object.keys(row), ...Object.keys(old ?? {})])) {
      const [learned, ours, first] = [cellOf(row, column), cellOf(own, column), cellOf(old, column)];
      if (learned === ours || learned === first) continue;
      if (ours === first) changed.set(column, learned);
      else kept.push({ key: key.replaceAll("\u0000", " "), column, ours, learned });
    }
    if (changed.size > 0)
      edits.push({
        ...Object.fromEntries(keys.map((one) => [one, cellOf(row, one)])),
        ...Object.fromEntries(changed),
      });
  }
  const gone = before.filter((row) => {
    const own = is.get(keyOf(row));
    if (wanted.has(keyOf(row)) || own === undefined) return false;
    // What a person wrote into a row keeps it.
    return Object.keys(row).every((column) => cellOf(row, column) === cellOf(own, column));
  });
  return {
    edits,
    gone: gone.map((row) => Object.fromEntries(keys.map((key) => [key, cellOf(row, key)]))),
    kept,
  };
}
