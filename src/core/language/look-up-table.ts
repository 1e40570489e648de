import { isDecimal } from "../values/decimal.js";
import { readValue } from "../values/read.js";
import { shownText } from "../values/show.js";
import { fold } from "../values/text.js";
import { isMeasure, isMoney, type MaybeBlank, type Value } from "../values/value.js";
import type { ResultKind, Shape } from "./kind.js";
import { order } from "./operations.js";

/** The column of a table whose cells are limits: the first row whose limit holds a value is that value's band. */
export const LIMIT_COLUMN = "up_to";

export interface LookUpRow {
  readonly cells: readonly MaybeBlank[];
}

/** One of the user's own tables, its cells read as the kind that all of a column's cells have. */
export interface LookUpTable {
  readonly name: string;
  readonly columns: readonly string[];
  /** Where the limits stand; undefined: no band can be asked for. */
  readonly limitColumn: number | undefined;
  column(name: string): (Shape & { readonly index: number }) | undefined;
  /** The row whose first columns have these keys; case, accents and spaces do not matter. */
  row(keys: readonly string[]): LookUpRow | undefined;
  /** The first row whose limit holds the value and whose key columns, before the limit, have these keys or are blank. */
  band(value: Value, keys: readonly string[]): LookUpRow | undefined;
}

const columnKinds = ["decimal", "money", "measure", "date"] as const;
const kindOf = { decimal: "number", money: "money", measure: "measure", date: "date" } as const;

const readColumn = (
  cells: readonly string[],
): { readonly kind: ResultKind; readonly values: readonly MaybeBlank[] } => {
  const given = cells.filter((cell) => cell !== "");
  for (const kind of given.length === 0 ? [] : columnKinds) {
    const values = cells.map((cell): MaybeBlank => {
      const reading = cell === "" ? undefined : readValue(kind, cell, { decimalMark: "." });
      return reading !== undefined && "value" in reading ? reading.value : undefined;
    });
    if (values.every((value, index) => value !== undefined || cells[index] === ""))
      return { kind: kindOf[kind], values };
  }
  return { kind: "text", values: cells.map((cell) => (cell === "" ? undefined : cell)) };
};

/** The dimension or currency that all of a column's cells share. */
const commonShape = (values: readonly MaybeBlank[]): Pick<Shape, "currency" | "dimension"> => {
  const given = values.filter((value) => value !== undefined);
  const dimensions = new Set(given.map((value) => (isMeasure(value) ? value.unit.dimension : undefined)));
  const currencies = new Set(given.map((value) => (isMoney(value) ? value.currency : undefined)));
  const [[dimension], [currency]] = [[...dimensions], [...currencies]];
  return {
    dimension: dimensions.size === 1 ? dimension : undefined,
    currency: currencies.size === 1 ? currency : undefined,
  };
};

const keyOf = (keys: readonly string[]): string => keys.map(fold).join("\u0000");

/** A blank limit holds everything; a value of another kind than the limit is in no band. */
const within = (value: Value, limit: MaybeBlank): boolean =>
  limit === undefined || (order(value, limit) ?? 1) <= 0;

export const lookUpTable = (
  name: string,
  columns: readonly string[],
  rows: readonly (readonly string[])[],
): LookUpTable => {
  const read = columns.map((_, index) => readColumn(rows.map((cells) => cells[index] ?? "")));
  const shapes = read.map(({ values }) => commonShape(values));
  const all = rows.map((_, row): LookUpRow => ({ cells: read.map(({ values }) => values[row]) }));
  const at = new Map(columns.map((column, index) => [column, index]));
  const limitColumn = at.get(LIMIT_COLUMN);
  const indexes = new Map<number, Map<string, LookUpRow>>();
  const indexOf = (count: number): Map<string, LookUpRow> => {
    const known = indexes.get(count);
    if (known !== undefined) return known;
    const index = new Map<string, LookUpRow>();
    all.forEach((row, number) => {
      const key = keyOf(columns.slice(0, count).map((_, column) => rows[number]?.[column] ?? ""));
      if (!index.has(key)) index.set(key, row);
    });
    indexes.set(count, index);
    return index;
  };
  const bandsOf = new Map<string, readonly LookUpRow[]>();
  const candidates = (keys: readonly string[]): readonly LookUpRow[] => {
    // By the keys as they come: folding them costs more than the look-up.
    const key = keys.length === 1 ? (keys[0] ?? "") : keys.join("\u0000");
    const known = bandsOf.get(key);
    if (known !== undefined) return known;
    const wanted = keys.map(fold);
    const found = all.filter((_, number) =>
      wanted.every((one, column) => {
        const cell = fold(rows[number]?.[column] ?? "");
        return cell === "" || cell === one;
      }),
    );
    // As many lists as there are keys in the catalogue; a table asked with ever new ones is looked through each time.
    if (bandsOf.size < 10_000) bandsOf.set(key, found);
    return found;
  };
  return {
    name,
    columns,
    limitColumn,
    column(wanted) {
      const index = at.get(wanted);
      return index === undefined ? undefined : { index, ...shapes[index], kind: read[index]?.kind ?? "text" };
    },
    row: (keys) => indexOf(keys.length).get(keyOf(keys)),
    band: (value, keys) =>
      limitColumn === undefined
        ? undefined
        : candidates(keys).find(({ cells }) => within(value, cells[limitColumn])),
  };
};

/** A key as text: numbers in their shortest form, so that 5 finds a cell with 5. */
export const keyText = (value: Value): string => (isDecimal(value) ? value.toFixed() : shownText(value));
