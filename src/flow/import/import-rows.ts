import { apart } from "../../core/apart.js";
import { addAll } from "../../core/many.js";
import { itemsOf } from "../../core/catalogue/list-text.js";
import { assertNever } from "../../core/assert-never.js";
import { CLEARED, isUnread, RETRACTED } from "../../core/catalogue/record.js";
import { rowJoiner, type JoinedRecord } from "../../core/catalogue/row-joiner.js";
import type { RowReader, RowReading } from "../../core/catalogue/row-reader.js";
import { diagnostic, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import type { Sku } from "../../core/ids.js";
import type { TableRecord, TableStream } from "../../formats/table-stream.js";
import type { ImportCounts, ImportMode, RecordFate, RevisionWriter, ValueChange } from "../../store/store.js";
import {
  anotherTable,
  beginsAnother,
  raggedRow,
  repeatsHeader,
  totalRow,
  usualWidth,
} from "./faulty-rows.js";
import type { KnownRow, KnownRows } from "./known-rows.js";
import { stillRejected, type RejectedRows } from "./rejected-rows.js";

/** What became of all rows of a file: rows = read + joined + skipped, read = added + changed + unchanged + rejected. */
export interface RowCounts extends ImportCounts {
  readonly rows: number;
  /** Rows that belong to another row's product, or are a group's own. */
  readonly joined: number;
  /** Rows that the source does not take. */
  readonly skipped: number;
}

export interface ChangeSample {
  readonly sku: Sku;
  readonly changes: readonly ValueChange[];
}

/** A bundle's part, to be looked for when all rows are in. */
export interface NamedPart {
  readonly sku: Sku;
  /** As written: `2 x BC-1401`. */
  readonly part: string;
  readonly row: number;
}

export interface ImportedRows {
  readonly counts: RowCounts;
  readonly parts: readonly NamedPart[];
  /** Groups that members name, with the first row that does; only where groups have rows of their own. */
  readonly groupsNamed: ReadonlyMap<string, number>;
  readonly changes: readonly ChangeSample[];
  readonly added: readonly Sku[];
  /** Products that were added by rows without a name, to be looked at when all rows are in. */
  readonly nameless: readonly { readonly sku: Sku; readonly row: number }[];
  /** Groups that a row of their own added. */
  readonly groupsAdded: readonly { readonly group: string; readonly row: number }[];
}

/** What rows are read with and where they go. */
export interface RowsToImport {
  readonly table: TableStream;
  readonly reading: RowReading;
  readonly reader: RowReader;
  readonly writer: RevisionWriter;
  readonly mode: ImportMode;
  readonly rejects: RejectedRows;
  /** Rows that need not be read again; undefined where rows depend on each other. */
  readonly known: KnownRows | undefined;
  onFinding(finding: Diagnostic): void;
  /** Told after each batch. */
  onProgress(rows: number): void;
}

/** A row that is known needs no look: it comes as it did before. */
type Incoming = JoinedRecord | (KnownRow & { readonly kind: "again"; readonly row: number });

const SAMPLES = 5;
const PARTS_LIMIT = 100_000;
const HELD_LIMIT = 100_000;

/** Reads all rows of a table and puts them into a revision, batch by batch. */
export const importRows = async (work: RowsToImport): Promise<ImportedRows> => {
  const run = new ImportRun(work);
  for await (const batch of work.table.batches) await run.take(batch);
  return run.end();
};

class ImportRun {
  private readonly counts = {
    rows: 0,
    read: 0,
    joined: 0,
    skipped: 0,
    added: 0,
    changed: 0,
    unchanged: 0,
    rejected: 0,
  };
  private readonly joiner;
  private readonly waiting = new Map<number, TableRecord>();
  private readonly parts: NamedPart[] = [];
  private readonly groupsNamed = new Map<string, number>();
  private readonly changes: ChangeSample[] = [];
  private readonly added: Sku[] = [];
  private readonly nameless: { readonly sku: Sku; readonly row: number }[] = [];
  private readonly groupsAdded: { readonly group: string; readonly row: number }[] = [];
  /** Rows that wait for the row that names what their group varies by. */
  private readonly held = new Map<string, TableRecord[]>();
  private heldAbove: TableRecord[] | undefined;
  private heldRows = 0;
  private rowAbove = 0;
  /** A row that passes unless the one below it is news. */
  private passing: { readonly record: TableRecord; readonly known: KnownRow } | undefined;
  /** The product of the row above, where that is a known one. */
  private productAbove: number | undefined;
  /** The last row that passed, where none was read since. */
  private lastPassed: TableRecord | undefined;
  /** Whether the row above has to be read. */
  private isBelowNews = false;
  /** The row in which another table begins. */
  private anotherFrom: number | undefined;
  /** How many cells each row has; undefined where the format has none of its own. */
  private readonly rowWidth: number | undefined;
  private readonly skuColumns: readonly number[];

  constructor(private readonly work: RowsToImport) {
    const { reading, reader, table } = work;
    this.joiner = rowJoiner(reading, reader.attributes);
    this.rowWidth = table.headerGrows ? undefined : usualWidth(table);
    this.skuColumns = reading.columns.flatMap(({ attribute, from }) =>
      reading.keys.includes(attribute) && from.kind === "column" ? [from.index] : [],
    );
  }

  async take(batch: readonly TableRecord[]): Promise<void> {
    const records: Incoming[] = [];
    for (const record of batch) {
      this.counts.rows++;
      if (this.work.known !== undefined && (await this.passes(record, records))) continue;
      if (this.work.table.headerRow > 0 && repeatsHeader(record, this.work.table)) {
        this.counts.skipped++;
        continue;
      }
      const fault = record.fault ?? this.faultOf(record);
      if (fault === undefined) await this.read(record, records, this.heldRows < HELD_LIMIT);
      else await this.reject(record, fault);
    }
    await this.put(records);
    this.work.onProgress(this.counts.rows);
  }

  async end(): Promise<ImportedRows> {
    const late: Incoming[] = [];
    this.pass(late);
    for (const rows of this.held.values()) for (const record of rows) await this.read(record, late, false);
    await this.put([...late, ...this.joiner.end()]);
    const { counts, parts, groupsNamed, changes, added, nameless, groupsAdded } = this;
    return { counts, parts, groupsNamed, changes, added, nameless, groupsAdded };
  }

  /**
   * Lets a row pass that came just so before. Rows that add to another, or are added to, stand beside each other: so it
   * passes where those above and below it do too.
   */
  private async passes(record: TableRecord, records: Incoming[]): Promise<boolean> {
    const isOpen = record.fault === undefined && this.anotherFrom === undefined;
    const known = isOpen ? this.work.known?.find(record.cells) : undefined;
    const above = this.passing;
    const isOfOneAbove = known !== undefined && known.product === this.productAbove;
    this.productAbove = known?.product;
    if (known === undefined || isOfOneAbove || this.isBelowNews) {
      this.passing = undefined;
      if (above !== undefined) await this.readPassing(above.record, records);
      this.isBelowNews = known === undefined;
      return false;
    }
    this.pass(records);
    this.passing = { record, known };
    this.rowAbove = record.row;
    return true;
  }

  /** Reads a row that would have passed. */
  private async readPassing(record: TableRecord, records: Incoming[]): Promise<void> {
    const { lastPassed } = this;
    if (lastPassed !== undefined) this.work.reader.pass(lastPassed.row, lastPassed.cells);
    await this.read(record, records, false);
  }

  /** What waits for what comes behind it comes first. */
  private pass(records: Incoming[]): void {
    const { passing } = this;
    this.passing = undefined;
    if (passing === undefined) return;
    addAll(records, this.joiner.end());
    this.lastPassed = passing.record;
    this.waiting.set(passing.record.row, passing.record);
    records.push({ kind: "again", row: passing.record.row, ...passing.known });
  }

  /** Reads one row; its own group's row may let others be read that came before it. */
  private async read(record: TableRecord, records: Incoming[], mayWait: boolean): Promise<void> {
    this.lastPassed = undefined;
    const row = this.work.reader.read(record.row, record.cells, mayWait);
    switch (row.kind) {
      case "rejected":
        return this.reject(record, row.because);
      case "skipped":
        this.counts.skipped++;
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
        if (row.kind !== "product") this.counts.joined++;
        this.waiting.set(row.row, record);
        row.findings.forEach(this.work.onFinding);
        addAll(records, this.joiner.push(row));
        if (row.kind === "further") this.waiting.delete(row.row);
        const held = row.kind === "group" ? this.held.get(row.group) : undefined;
        if (held === undefined) return;
        this.held.delete(row.group);
        this.heldRows -= held.length;
        for (const one of held) await this.read(one, records, false);
      }
    }
  }

  private faultOf(record: TableRecord): Diagnostic | undefined {
    const { table } = this.work;
    const above = this.rowAbove;
    this.rowAbove = record.row;
    if (
      this.anotherFrom === undefined &&
      above > 0 &&
      this.rowWidth !== undefined &&
      beginsAnother(record, above, table)
    )
      this.anotherFrom = record.row;
    if (this.anotherFrom !== undefined) return anotherTable(record.row, this.anotherFrom, table.file);
    return (
      stillRejected(record, table) ??
      (this.rowWidth === undefined ? undefined : raggedRow(record, table, this.rowWidth)) ??
      totalRow(record, table, this.skuColumns)
    );
  }

  private async reject(record: TableRecord, because: Diagnostic): Promise<void> {
    this.counts.read++;
    this.counts.rejected++;
    this.work.onFinding(because);
    await this.work.rejects.add(record, because);
  }

  private async put(records: readonly Incoming[]): Promise<void> {
    const fates = await this.work.writer.put(records);
    for (const [index, record] of records.entries()) {
      const fate = fates[index];
      if (fate !== undefined) await this.settle(record, fate);
    }
    for (const { row } of records) this.waiting.delete(row);
  }

  private async settle(record: Incoming, fate: RecordFate): Promise<void> {
    const raw = this.waiting.get(record.row);
    const where = { place: { file: this.work.table.file, row: record.row } };
    switch (fate.fate) {
      case "repeated": {
        const key = record.kind === "group" ? "group" : fate.key;
        const value = record.kind === "group" ? this.textOf(record, "group") : fate.value;
        return this.refuse(record, raw, diagnostic("repeated-key", { key, value }, where));
      }
      case "unmatched": {
        const adds = this.work.mode !== "update";
        return this.refuse(
          record,
          raw,
          diagnostic("unmatched-key", { key: fate.key, value: fate.value, adds }, where),
        );
      }
      case "ambiguous":
        return this.refuse(
          record,
          raw,
          diagnostic("ambiguous-key", { key: fate.key, value: fate.value, skus: fate.skus }, where),
        );
      case "bare":
        return this.refuse(record, raw, diagnostic("bare-row", { sku: fate.sku }, where));
      case "reused":
        return this.refuse(
          record,
          raw,
          diagnostic("reused-sku", { sku: fate.sku, was: fate.was, now: fate.now }, where),
        );
      case "again":
        if (record.kind === "again") this.cameAgain(record);
        return;
      case "added":
      case "changed":
      case "unchanged":
        if (record.kind !== "again") this.landed(record, fate, raw);
        return;
      default:
        assertNever(fate);
    }
  }

  private cameAgain(record: KnownRow): void {
    this.counts.read++;
    this.counts.unchanged++;
    this.work.known?.noteAgain(record);
  }

  private async refuse(record: Incoming, raw: TableRecord | undefined, because: Diagnostic): Promise<void> {
    const shown = raw ?? { row: record.row, cells: [] };
    if (record.kind !== "group") return this.reject(shown, because);
    // A group's own row is no product's: it is told and kept aside, and does not count among those read.
    this.work.onFinding(because);
    await this.work.rejects.add(shown, because);
  }

  private landed(
    record: JoinedRecord,
    fate: Extract<RecordFate, { fate: "added" | "changed" | "unchanged" }>,
    raw: TableRecord | undefined,
  ): void {
    const { table } = this.work;
    let isSilent = record.findings.length === 0;
    const onFinding = (finding: Diagnostic): void => {
      isSilent = false;
      this.work.onFinding(finding);
    };
    const place = { file: table.file, row: record.row };
    for (const { doubt, proved } of fate.doubts ?? []) {
      const { attribute, written: value, damage, candidates, column } = doubt;
      const about = { product: fate.sku, place: { ...place, column } };
      if (proved !== undefined)
        onFinding(diagnostic("repaired-value", { attribute, value, now: proved, damage }, about, "advice"));
      else onFinding(diagnostic("damaged-value", { attribute, value, damage, candidates }, about, "warning"));
    }
    if (fate.sameGtin !== undefined) {
      const facts = { gtin: this.textOf(record, "gtin"), others: fate.sameGtin };
      onFinding(diagnostic("same-gtin", facts, { product: fate.sku, place }, "warning"));
    }
    for (const apart of fate.keysApart ?? [])
      onFinding(diagnostic("key-not-written", apart, { product: fate.sku, place }, "advice"));
    if (fate.keyMended !== undefined) {
      const { key, value, now } = fate.keyMended;
      const facts = { attribute: key, value, now, damage: "leading-zeros" } as const;
      onFinding(diagnostic("repaired-value", facts, { product: fate.sku, place }, "advice"));
    }
    if (record.kind === "group") {
      if (fate.fate === "added" && this.groupsAdded.length < PARTS_LIMIT)
        this.groupsAdded.push({ group: apart(this.textOf(record, "group")), row: record.row });
      return;
    }
    if (fate.fate === "added" && this.textOf(record, "name") === "" && this.nameless.length < PARTS_LIMIT)
      this.nameless.push({ sku: fate.sku, row: record.row });
    this.counts.read++;
    this.counts[fate.fate]++;
    if (fate.known === true)
      onFinding(diagnostic("known-already", { sku: fate.sku }, { product: fate.sku, place }, "advice"));
    if (fate.fate === "added" && this.added.length < SAMPLES) this.added.push(fate.sku);
    if (fate.changes !== undefined && fate.changes.length > 0 && this.changes.length < SAMPLES)
      this.changes.push({ sku: fate.sku, changes: fate.changes });
    this.noteParts(record, fate.sku);
    this.noteGroup(record);
    // What rows below added is not in the row's own cells; a bundle's parts are looked for each time.
    const isAlone = record.hasFurther !== true && this.textOf(record, "bundle_of") === "";
    if (isAlone && isSilent && fate.settled !== undefined && raw !== undefined)
      this.work.known?.note(raw.cells, fate.settled);
  }

  private noteParts(record: JoinedRecord, sku: Sku): void {
    const bundle = this.textOf(record, "bundle_of");
    if (bundle === "" || this.parts.length > PARTS_LIMIT) return;
    for (const part of itemsOf(bundle)) this.parts.push({ sku, part: apart(part), row: record.row });
  }

  private noteGroup(record: JoinedRecord): void {
    if (this.work.reading.groups.layout !== "own-row") return;
    const group = this.textOf(record, "group");
    if (group !== "" && !this.groupsNamed.has(group)) this.groupsNamed.set(apart(group), record.row);
  }

  private textOf(record: JoinedRecord, attribute: string): string {
    const at = this.work.reader.attributes.findIndex((one) => one.attribute === attribute);
    const text = record.texts[at] ?? "";
    return text === CLEARED || text === RETRACTED || isUnread(text) ? "" : text;
  }
}
