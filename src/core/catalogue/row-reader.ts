/**
 * Reads one row by a source's rules: a product's, a group's, one that is passed over or rejected. Cells are `cell-
 * reader.ts`'s, pairs `pair-reader.ts`'s.
 */
import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import type { NameScope } from "../language/compiler.js";
import type { Run } from "../language/program.js";
import { beforeDate } from "../values/damage.js";
import { cellReader, cellValue, type CellDefaults, type ColumnReading, type Doubt } from "./cell-reader.js";
import { pairColumns, pairReader, type PairReading } from "./pair-reader.js";
import { CLEARED, isUnread, recordColumn, type RecordColumn } from "./record.js";
import { isDecimal } from "../values/decimal.js";
import { readValue } from "../values/read.js";
import { shownText } from "../values/show.js";
import { markedReader, type RowMarks } from "./row-marks.js";
import { MemoRoom } from "../text-memo.js";

/** Characters of cells that a file's reader may remember. */
const ROOM = 8_000_000;

/** How rows of a file belong together. */
export type GroupLayout =
  /** Each row stands for itself. */
  | { readonly layout: "rows" }
  /** A group's first row also carries what its members share; the rows below leave it blank. */
  | { readonly layout: "first-row"; readonly shared: ReadonlySet<string> }
  /** A group has a row of its own, for which the condition holds. */
  | { readonly layout: "own-row"; readonly when: Run };

/** What says the place of a row among those of its product. */
export interface RowOrder {
  readonly column: string;
  readonly run: Run;
}

/** How a source's rows are read. */
export interface RowReading extends CellDefaults {
  /** Those for single channels stand behind those for all, and hold no keys. */
  readonly columns: readonly ColumnReading[];
  /** Attributes by which a product is found, tried in order. */
  readonly keys: readonly string[];
  /** Rows for which it does not hold are passed over. */
  readonly take: Run | undefined;
  readonly groups: GroupLayout;
  /** Attributes to which a further row of the same product adds. */
  readonly furtherRowsAdd: ReadonlySet<string>;
  /** Where rows of one product may stand anywhere: by what they are ordered, where that is said. */
  readonly gathers?: { readonly orderBy: RowOrder | undefined } | undefined;
  /** Columns that say the language or the currency of their rows. */
  readonly marks?: RowMarks | undefined;
  readonly pairs: readonly PairReading[];
}

/** One row, read: a product's, a group's own, one that is passed over, or one that cannot be taken. */
export type ReadRow =
  | {
      readonly kind: "product" | "group" | "further";
      readonly row: number;
      /** The group that it belongs to, or is the head of; "" for none. */
      readonly group: string;
      readonly texts: readonly string[];
      readonly findings: readonly Diagnostic[];
      readonly doubts: readonly Doubt[];
      /** Its place among the rows of its product, where a column says it. */
      readonly order?: number | undefined;
    }
  | { readonly kind: "skipped"; readonly row: number }
  /** Its values are named by its group's own row, which has not come yet: it is to be read again then, or at the end. */
  | { readonly kind: "waiting"; readonly row: number; readonly group: string }
  | { readonly kind: "rejected"; readonly row: number; readonly because: Diagnostic };

/** Reads the rows of one file by its source's rules. */
export interface RowReader {
  /** What each text of a row is; pairs of names and values may add to it while rows are read. */
  readonly attributes: readonly RecordColumn[];
  read(row: number, cells: readonly string[], mayWait?: boolean): ReadRow;
  /** Takes a row that need not be read for the one above the next. */
  pass(row: number, cells: readonly string[]): void;
}

const textOr = (text = ""): string => (text === CLEARED || isUnread(text) ? "" : text);

const damagedKey = /^\d[.,]\d+e\+?\d+$/i;
const dayOfYear = /^\d{4}-/;

/** A spreadsheet's idea of a key is no key: `1.2E+05`, `10-Dec`. */
const isDamagedKey = (text: string): boolean =>
  damagedKey.test(text) || (!dayOfYear.test(text) && beforeDate(text).length > 0);

/** Reads rows into canonical texts; a value that cannot be read, or is impossible, is none, with a finding. */
export function rowReader(reading: RowReading): RowReader {
  const { columns, file, keys, groups } = reading;
  const attributes = columns.map(recordColumn);
  const room = new MemoRoom(ROOM);
  const readers = columns.map((column) => cellReader(column, reading, room));
  const record = pairColumns(attributes);
  const pairs = reading.pairs.length === 0 ? undefined : pairReader(reading, record);
  const marked =
    reading.marks === undefined ? undefined : markedReader(columns, reading.marks, reading, record);
  const orderOf = orderReader(reading);
  const keyAt = keys
    .map((key) => columns.findIndex(({ attribute }) => attribute === key))
    .filter((at) => at >= 0);
  const groupAt = columns.findIndex(({ attribute }) => attribute === "group");
  const skuAt = columns.findIndex(({ attribute }) => attribute === "sku");
  const rejected = (row: number, because: Diagnostic): ReadRow => ({ kind: "rejected", row, because });
  const isFurther = furtherRows(reading, keyAt, groupAt);
  return {
    attributes,
    pass(row, cells) {
      const notes = { findings: [], doubts: [] };
      isFurther.follow((at) => readers[at]?.(row, cells, notes) ?? "");
    },
    read(row, cells, mayWait = false) {
      const scope = { value: (slot: number) => cellValue(cells[slot]) };
      if (reading.take !== undefined && reading.take(scope) !== true) return { kind: "skipped", row };
      const findings: Diagnostic[] = [];
      const doubts: Doubt[] = [];
      const notes = { findings, doubts };
      const texts = readers.map((read, at) => (marked?.isMarked(at) === true ? "" : read(row, cells, notes)));
      const unmarked = marked?.read(row, cells, texts, notes);
      if (unmarked !== undefined) return rejected(row, unmarked);
      const isHead = groups.layout === "own-row" && groups.when(scope) === true;
      // A group's own row names the group by its key where it has no column for it.
      const named = (at: number): string => textOr(texts[at]);
      const group = named(groupAt) || (isHead ? named(skuAt) : "");
      const wait = mayWait && groups.layout === "own-row";
      if (pairs?.({ row, cells, texts, notes, group, isHead, mayWait: wait }) === false)
        return { kind: "waiting", row, group };
      if (isFurther.test(texts)) return { kind: "further", row, group, texts, findings, doubts };
      if (isHead) return { kind: "group", row, group, texts, findings, doubts };
      const given = keyAt
        .map((at) => texts[at] ?? "")
        .filter((text) => text !== "" && text !== CLEARED && !isUnread(text));
      const [key = ""] = given;
      const where = { place: { file, row } };
      const unreadKey = findings.find(
        ({ code, facts }) =>
          code === "unreadable-value" && keys.includes((facts as { attribute: string }).attribute),
      );
      if (given.length === 0 && unreadKey !== undefined)
        return rejected(row, { ...unreadKey, severity: "error" });
      if (given.length === 0 && doubts.every(({ attribute }) => !keys.includes(attribute)))
        return rejected(row, diagnostic("blank-key", { key: keys.join(" or ") }, where));
      if (given.length === 0) {
        const [doubt] = doubts.filter(({ attribute }) => keys.includes(attribute));
        return rejected(
          row,
          diagnostic("damaged-key", { key: doubt?.attribute ?? "", value: doubt?.written ?? "" }, where),
        );
      }
      if (keys[0] === "sku" && isDamagedKey(key))
        return rejected(row, diagnostic("damaged-key", { key: "sku", value: key }, where));
      const order = orderOf?.(row, scope, findings);
      return { kind: "product", row, group, texts, findings, doubts, order };
    },
  };
}

const sayingsOfOrder = { decimalMark: "." } as const;

/** Reads the place of a row among those of its product; one that is no number is told, and comes last. */
function orderReader({
  file,
  gathers,
}: RowReading): ((row: number, scope: NameScope, findings: Diagnostic[]) => number | undefined) | undefined {
  const orderBy = gathers?.orderBy;
  if (orderBy === undefined) return undefined;
  return (row, scope, findings) => {
    const value = orderBy.run(scope);
    const text = value === undefined ? "" : shownText(value);
    const found = text === "" ? undefined : readValue("decimal", text, sayingsOfOrder);
    if (found !== undefined && "value" in found && isDecimal(found.value)) return found.value.toNumber();
    const place = { file, row, column: orderBy.column };
    findings.push(diagnostic("no-place-in-order", { value: text }, { place }, "advice"));
    return undefined;
  };
}

/** A further row has no key of its own, or the key of the row above, and brings only what may be added. */
function furtherRows(
  { columns, furtherRowsAdd }: RowReading,
  keyAt: readonly number[],
  groupAt: number,
): { test(texts: readonly string[]): boolean; follow(textAt: (at: number) => string): void } {
  if (furtherRowsAdd.size === 0) return { test: () => false, follow: () => undefined };
  const own = new Set([...keyAt, groupAt]);
  const adds = columns.map(({ attribute }) => furtherRowsAdd.has(attribute));
  let above = "";
  const keyOf = (textAt: (at: number) => string): string => keyAt.map(textAt).join("\u0000");
  return {
    follow: (textAt) => void (above = keyOf(textAt)),
    test(texts) {
      const key = keyOf((at) => texts[at] ?? "");
      const isSame = key === above || key.replaceAll("\u0000", "") === "";
      const bringsOnly =
        texts.some((text, at) => text !== "" && adds[at]) &&
        texts.every((text, at) => text === "" || adds[at] || own.has(at));
      if (isSame && bringsOnly) return true;
      above = key;
      return false;
    },
  };
}
