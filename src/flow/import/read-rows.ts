/** Reads rows into records, without a look at the catalogue: what may run in another thread. */
import { addAll } from "../../core/many.js";
import { hashRow, type RowHash } from "../../core/catalogue/row-hash.js";
import { rowJoiner, type JoinedRecord } from "../../core/catalogue/row-joiner.js";
import { rowGatherer, type RowGatherer } from "../../core/catalogue/row-gatherer.js";
import type { ReadRow, RowReader, RowReading } from "../../core/catalogue/row-reader.js";
import { RowTable, type KeptRows } from "../../core/catalogue/row-table.js";
import { diagnostic, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import type { TableRecord, TableStream } from "../../formats/table-stream.js";
import type { IncomingRecord, RecordAgain } from "../../store/store.js";
import { anotherTable, nextTable, raggedRow, repeatsHeader, totalRow, usualWidth } from "./faulty-rows.js";
import { cellsAsCame, stillRejected } from "./rejected-rows.js";

/** A record, read. */
export interface ReadRecord extends IncomingRecord {
  /** By what its row is known again, where that says all of it and nothing was told; undefined where it is not. */
  readonly hash: RowHash | undefined;
}

/** A row that came just so before: it needs no look. */
export interface AgainRecord extends RecordAgain {
  readonly hash: RowHash;
}

/** A record, or that it came before. */
export type Incoming = ReadRecord | AgainRecord;

/** What is told of rows as they are read: a finding, or that a row cannot be taken. */
export interface ToldOfRow {
  readonly finding: Diagnostic;
  readonly rejected?: TableRecord;
}

/** What came of some rows. It is told first; then come the records, in the order of their rows. */
export interface ReadBatch {
  readonly rows: number;
  /** Rows that belong to another row's product, or are a group's own. */
  readonly joined: number;
  /** Rows that the source does not take. */
  readonly skipped: number;
  readonly told: readonly ToldOfRow[];
  readonly records: readonly Incoming[];
  /** The rows, as they stand in the file, that some of the records begin in. */
  rowsAt(records: readonly number[]): Promise<readonly TableRecord[]>;
}

/** What reading rows needs. */
export interface RowsToRead {
  readonly table: TableStream;
  readonly reading: RowReading;
  readonly reader: RowReader;
  /** Rows that need not be read again. */
  readonly known: KeptRows | undefined;
  /** Whether rows are to be known again. */
  readonly isKept: boolean;
}

const HELD_LIMIT = 100_000;
const GATHERED_BATCH = 10_000;

/** Reads all rows of a table, batch by batch, without a look at the catalogue. */
export async function* readRows(work: RowsToRead): AsyncGenerator<ReadBatch> {
  const run = new ReadingRun(work);
  for await (const batch of work.table.batches) yield run.take(batch);
  yield run.end();
  yield* run.gathered();
}

class ReadingRun {
  private rows = 0;
  private joined = 0;
  private skipped = 0;
  private told: ToldOfRow[] = [];
  private records: Incoming[] = [];
  /** The row of each record. */
  private begins: TableRecord[] = [];
  private readonly joiner;
  /** Rows of products that stand anywhere; undefined where rows of one stand beside each other. */
  private readonly gatherer: RowGatherer<TableRecord> | undefined;
  /** Where the keys stand among a row's texts. */
  private readonly keysAt: readonly number[];
  /** Rows that wait for the row that names what their group varies by. */
  private readonly held = new Map<string, TableRecord[]>();
  private heldAbove: TableRecord[] | undefined;
  private heldRows = 0;
  private rowAbove = 0;
  /** A row that passes unless the one below it is news. */
  private passing: { readonly record: TableRecord; readonly again: AgainRecord } | undefined;
  /** The product of the row above, where that is a known one. */
  private productAbove: number | undefined;
  /** The last row that passed, where none was read since. */
  private lastPassed: TableRecord | undefined;
  /** Whether the row above has to be read. */
  private isBelowNews = false;
  /** Whether a row is the header of another table. */
  private readonly beginsNext: ReturnType<typeof nextTable>;
  /** The row in which another table begins. */
  private anotherFrom: number | undefined;
  /** How many cells each row has; undefined where the format has none of its own. */
  private readonly rowWidth: number | undefined;
  private readonly skuColumns: readonly number[];
  private readonly bundleAt: number;
  private readonly known: RowTable | undefined;

  constructor(private readonly work: RowsToRead) {
    const { reading, reader, table } = work;
    this.known = work.known === undefined ? undefined : new RowTable(work.known);
    this.joiner = rowJoiner<TableRecord>(reading, reader.attributes);
    const { gathers, furtherRowsAdd, kindOf } = reading;
    this.gatherer =
      gathers === undefined ? undefined : rowGatherer<TableRecord>(furtherRowsAdd, reader.attributes, kindOf);
    this.keysAt = reading.keys
      .map((key) => reading.columns.findIndex(({ attribute }) => attribute === key))
      .filter((at) => at >= 0);
    this.beginsNext = nextTable(table);
    this.rowWidth = table.headerGrows ? undefined : usualWidth(table);
    this.skuColumns = reading.columns.flatMap(({ attribute, from }) =>
      reading.keys.includes(attribute) && from.kind === "column" ? [from.index] : [],
    );
    this.bundleAt = reader.attributes.findIndex(({ attribute }) => attribute === "bundle_of");
  }

  take(batch: readonly TableRecord[]): ReadBatch {
    for (const record of batch) {
      this.rows++;
      if (this.known !== undefined && this.passes(record)) continue;
      if (this.work.table.headerRow > 0 && repeatsHeader(record, this.work.table)) {
        this.skipped++;
        continue;
      }
      const fault = record.fault ?? this.faultOf(record);
      if (fault === undefined) this.read(record, this.heldRows < HELD_LIMIT);
      else this.told.push({ finding: fault, rejected: record });
    }
    return this.batch();
  }

  end(): ReadBatch {
    this.pass();
    for (const rows of this.held.values()) for (const record of rows) this.read(record, false);
    this.add(this.joiner.end());
    return this.batch();
  }

  /** What was gathered, in batches. */
  *gathered(): Generator<ReadBatch> {
    const all = this.gatherer?.end() ?? [];
    for (let from = 0; from < all.length; from += GATHERED_BATCH) {
      const some = all.slice(from, from + GATHERED_BATCH);
      addAll(
        this.told,
        some.flatMap(({ findings }) => findings.map((finding) => ({ finding }))),
      );
      this.add(some);
      yield this.batch();
    }
  }

  private batch(): ReadBatch {
    const { rows, joined, skipped, told, records, begins } = this;
    this.rows = this.joined = this.skipped = 0;
    [this.told, this.records, this.begins] = [[], [], []];
    const rowsAt: ReadBatch["rowsAt"] = (places) => Promise.resolve(places.flatMap((at) => begins[at] ?? []));
    return { rows, joined, skipped, told, records, rowsAt };
  }

  private add(joined: readonly JoinedRecord<TableRecord>[]): void {
    for (const record of joined) {
      const { kind, row, texts, doubts, findings, from } = record;
      const isPlain = kind === "product" && findings.length === 0 && doubts.length === 0;
      const hash = this.work.isKept && isPlain ? this.hashOf(record) : undefined;
      this.records.push({ kind, row, texts, doubts, hash });
      this.begins.push(from);
    }
  }

  /** What rows below added is not in the row's own cells; a bundle's parts are looked for each time. */
  private hashOf({ hasFurther, texts, from }: JoinedRecord<TableRecord>): RowHash | undefined {
    if (hasFurther === true || (texts[this.bundleAt] ?? "") !== "") return undefined;
    const hash = { first: 0, second: 0 };
    hashRow(from.cells, hash);
    return hash;
  }

  /**
   * Lets a row pass that came just so before. Rows that add to another, or are added to, stand beside each other: so it
   * passes where those above and below it do too.
   */
  private passes(record: TableRecord): boolean {
    const isOpen = record.fault === undefined && this.anotherFrom === undefined;
    const known = isOpen ? this.known?.find(record.cells) : undefined;
    const above = this.passing;
    const isOfOneAbove = known !== undefined && known.product === this.productAbove;
    this.productAbove = known?.product;
    if (known === undefined || isOfOneAbove || this.isBelowNews) {
      this.passing = undefined;
      if (above !== undefined) this.readPassing(above.record);
      this.isBelowNews = known === undefined;
      return false;
    }
    this.pass();
    this.passing = { record, again: { kind: "again", row: record.row, ...known } };
    this.rowAbove = record.row;
    return true;
  }

  /** Reads a row that would have passed. */
  private readPassing(record: TableRecord): void {
    const { lastPassed } = this;
    if (lastPassed !== undefined) this.work.reader.pass(lastPassed.row, lastPassed.cells);
    this.read(record, false);
  }

  /** What waits for what comes behind it comes first. */
  private pass(): void {
    const { passing } = this;
    this.passing = undefined;
    if (passing === undefined) return;
    this.add(this.joiner.end());
    this.lastPassed = passing.record;
    this.records.push(passing.again);
    this.begins.push(passing.record);
  }

  /** Reads one row; its own group's row may let others be read that came before it. */
  private read(record: TableRecord, mayWait: boolean): void {
    this.lastPassed = undefined;
    const row = this.work.reader.read(record.row, cellsAsCame(record, this.work.table), mayWait);
    switch (row.kind) {
      case "rejected":
        this.told.push({ finding: row.because, rejected: record });
        return;
      case "skipped":
        this.skipped++;
        return;
      case "waiting": {
        const held = this.held.get(row.group) ?? [];
        held.push(record);
        this.held.set(row.group, held);
        this.heldRows++;
        this.heldAbove = held;
        return;
      }
      case "product":
      case "group":
      case "further": {
        // What a row below one that waits adds is for that one.
        if (row.kind === "further" && this.heldAbove !== undefined && mayWait) {
          this.heldAbove.push(record);
          this.heldRows++;
          return;
        }
        this.heldAbove = undefined;
        if (row.kind === "product" && this.gatherer !== undefined) {
          this.gather(row, record, this.gatherer);
          return;
        }
        if (row.kind !== "product") this.joined++;
        addAll(
          this.told,
          row.findings.map((finding) => ({ finding })),
        );
        this.add(this.joiner.push(row, record));
        const held = row.kind === "group" ? this.held.get(row.group) : undefined;
        if (held === undefined) return;
        this.held.delete(row.group);
        this.heldRows -= held.length;
        for (const one of held) this.read(one, false);
      }
    }
  }

  /** Rows of one product count once; one that says otherwise than an earlier one is not taken. */
  private gather(
    row: Extract<ReadRow, { texts: unknown }>,
    record: TableRecord,
    gatherer: RowGatherer<TableRecord>,
  ): void {
    const at = this.keysAt.find((one) => (row.texts[one] ?? "") !== "") ?? 0;
    const key = this.work.reading.keys[this.keysAt.indexOf(at)] ?? "sku";
    const value = row.texts[at] ?? "";
    const isFirst = gatherer.count;
    if (!gatherer.push(row, `${key}\u0000${value}`, record)) {
      this.told.push({ finding: this.notGathered(row, key, value), rejected: record });
    } else if (gatherer.count === isFirst) this.joined++;
  }

  /** Why a further row adds nothing: it cannot be read, says nothing, or says what an earlier one said or otherwise. */
  private notGathered(
    { row, texts, findings }: Extract<ReadRow, { texts: unknown }>,
    key: string,
    value: string,
  ): Diagnostic {
    const unread = findings.find(({ code }) => code === "unreadable-value");
    if (unread !== undefined) return { ...unread, severity: "error" };
    const place = { file: this.work.table.file, row };
    const isBare = texts.every((text, at) => text === "" || this.keysAt.includes(at));
    return isBare
      ? diagnostic("says-nothing", { key }, { place })
      : diagnostic("repeated-key", { key, value }, { place });
  }

  private faultOf(record: TableRecord): Diagnostic | undefined {
    const { table } = this.work;
    const above = this.rowAbove;
    this.rowAbove = record.row;
    if (this.anotherFrom === undefined && this.rowWidth !== undefined && this.beginsNext(record, above))
      this.anotherFrom = record.row;
    if (this.anotherFrom !== undefined) return anotherTable(record.row, this.anotherFrom, table.file);
    return (
      stillRejected(record, table) ??
      (this.rowWidth === undefined ? undefined : raggedRow(record, table, this.rowWidth)) ??
      totalRow(record, table, this.skuColumns)
    );
  }
}
