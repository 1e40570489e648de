/** The user's own tables, for expressions: found by a key, or by the first limit that holds. */
import { isDecimal } from "../values/decimal.js";
import { readValue } from "../values/read.js";
import { shownText } from "../values/show.js";
import { termKey } from "../values/text.js";
import { isMeasure, isMoney, type MaybeBlank, type Value } from "../values/value.js";
import type { ResultKind, Shape } from "./kind.js";
import { order } from "./operations.js";

/** The column of a table whose cells are limits: the first row whose limit holds a value is that value's band. */
export const LIMIT_COLUMN = "up_to";

/** A row that was found. */
export interface LookUpRow {
  readonly cells: readonly MaybeBlank[];
}

/** One of the user's own tables, its cells read as the kind that all of a column's cells have; codes are texts as written. */
export interface LookUpTable {
  readonly name: string;
  readonly columns: readonly string[];
  /** Where the limits stand; undefined: no band can be asked for. */
  readonly limitColumn: number | undefined;
  column(name: string): (Shape & { readonly index: number }) | undefined;
  /** The row whose first columns have these keys; where none has them exactly, case, accents and spaces do not matter. */
  row(keys: readonly string[]): LookUpRow | undefined;
  /** The first row whose limit holds the value and whose key columns, before the limit, have these keys or are blank. */
  band(value: Value, keys: readonly string[]): LookUpRow | undefined;
}

const columnKinds = ["decimal", "money", "measure", "date"] as const;
const kindOf = { decimal: "number", money: "money", measure: "measure", date: "date" } as const;

// A code: its zeros and digits are its own, and as a number it would lose them.
const isCode = (cell: string): boolean => /^0\d/.test(cell) || /^\d{16,}$/.test(cell);

function readColumn(cells: readonly string[]): {
  readonly kind: ResultKind;
  readonly values: readonly MaybeBlank[];
} {
  const given = cells.filter((cell) => cell !== "");
  for (const kind of given.length === 0 || given.some(isCode) ? [] : columnKinds) {
    const values = cells.map((cell): MaybeBlank => {
      const reading = cell === "" ? undefined : readValue(kind, cell, { decimalMark: "." });
      return reading !== undefined && "value" in reading ? reading.value : undefined;
    });
    if (values.every((value, index) => value !== undefined || cells[index] === ""))
      return { kind: kindOf[kind], values };
  }
  return { kind: "text", values: cells.map((cell) => (cell === "" ? undefined : cell)) };
}

/** The dimension or currency that all of a column's cells share. */
function commonShape(values: readonly MaybeBlank[]): Pick<Shape, "currency" | "dimension"> {
  const given = values.filter((value) => value !== undefined);
  const dimensions = new Set(given.map((value) => (isMeasure(value) ? value.unit.dimension : undefined)));
  const currencies = new Set(given.map((value) => (isMoney(value) ? value.currency : undefined)));
  const [[dimension], [currency]] = [[...dimensions], [...currencies]];
  return {
    dimension: dimensions.size === 1 ? dimension : undefined,
    currency: currencies.size === 1 ? currency : undefined,
  };
}

const exactKey = (keys: readonly string[]): string => keys.join("\u0000");
const looseKey = (keys: readonly string[]): string => keys.map(termKey).join("\u0000");

/** A blank limit holds everything; a value of another kind than the limit is in no band. */
const within = (value: Value, limit: MaybeBlank): boolean =>
  limit === undefined || (order(value, limit) ?? 1) <= 0;

/** Makes a table ready to be looked into. */
export function lookUpTable(
  name: string,
  columns: readonly string[],
  rows: readonly (readonly string[])[],
): LookUpTable {
  const read = columns.map((_, index) => readColumn(rows.map((cells) => cells[index] ?? "")));
  const shapes = read.map(({ values }) => commonShape(values));
  const all = rows.map((_, row): LookUpRow => ({ cells: read.map(({ values }) => values[row]) }));
  const at = new Map(columns.map((column, index) => [column, index]));
  const limitColumn = at.get(LIMIT_COLUMN);
  const indexes = new Map<number, Readonly<Record<"exact" | "loose", ReadonlyMap<string, LookUpRow>>>>();
  const indexOf = (count: number) => {
    const known = indexes.get(count);
    if (known !== undefined) return known;
    const [exact, loose] = [new Map<string, LookUpRow>(), new Map<string, LookUpRow>()];
    all.forEach((row, number) => {
      const keys = columns.slice(0, count).map((_, column) => rows[number]?.[column] ?? "");
      if (!exact.has(exactKey(keys))) exact.set(exactKey(keys), row);
      if (!loose.has(looseKey(keys))) loose.set(looseKey(keys), row);
    });
    const index = { exact, loose };
    indexes.set(count, index);
    return index;
  };
  const bandsOf = new Map<string, readonly LookUpRow[]>();
  const candidates = (keys: readonly string[]): readonly LookUpRow[] => {
    // By the keys as they come: folding them costs more than the look-up.
    const key = keys.length === 1 ? (keys[0] ?? "") : `${keys.length}\u0001${keys.join("\u0000")}`;
    const known = bandsOf.get(key);
    if (known !== undefined) return known;
    const having = (form: (text: string) => string): readonly LookUpRow[] => {
      const wanted = keys.map(form);
      return all.filter((_, number) =>
        wanted.every((one, column) => {
          const cell = form(rows[number]?.[column] ?? "");
          return cell === "" || cell === one;
        }),
      );
    };
    const isNamed = (form: (text: string) => string): boolean => {
      const wanted = keys.map(form);
      return rows.some((cells) =>
        wanted.every((one, column) => one === "" || form(cells[column] ?? "") === one),
      );
    };
    const found = having(isNamed((text) => text) ? (text) => text : termKey);
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
    row(keys) {
      const { exact, loose } = indexOf(keys.length);
      return exact.get(exactKey(keys)) ?? loose.get(looseKey(keys));
    },
    band: (value, keys) =>
      limitColumn === undefined
        ? undefined
        : candidates(keys).find(({ cells }) => within(value, cells[limitColumn])),
  };
}

/** A key as text: numbers in their shortest form, so that 5 finds a cell with 5. */
export const keyText = (value: Value): string => (isDecimal(value) ? value.toFixed() : shownText(value));
