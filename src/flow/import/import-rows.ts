import { itemsOf } from "../../core/catalogue/list-text.js";
import { assertNever } from "../../core/assert-never.js";
import { CLEARED, isUnread, RETRACTED } from "../../core/catalogue/record.js";
import { rowJoiner, type JoinedRecord } from "../../core/catalogue/row-joiner.js";
import type { RowReader, RowReading } from "../../core/catalogue/row-reader.js";
import { diagnostic, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import type { Sku } from "../../core/ids.js";
import type { TableRecord, TableStream } from "../../formats/table-stream.js";
import type { ImportCounts, ImportMode, RecordFate, RevisionWriter, ValueChange } from "../../store/store.js";
import type { RejectedRows } from "./rejected-rows.js";

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
}

/** What rows are read with and where they go. */
export interface RowsToImport {
  readonly table: TableStream;
  readonly reading: RowReading;
  readonly reader: RowReader;
  readonly writer: RevisionWriter;
  readonly mode: ImportMode;
  readonly rejects: RejectedRows;
  onFinding(finding: Diagnostic): void;
  /** Told after each batch. */
  onProgress(rows: number): void;
}

const SAMPLES = 5;
const PARTS_LIMIT = 100_000;

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

  constructor(private readonly work: RowsToImport) {
    this.joiner = rowJoiner(work.reading, work.reader.attributes);
  }

  async take(batch: readonly TableRecord[]): Promise<void> {
    const records: JoinedRecord[] = [];
    for (const record of batch) {
      this.counts.rows++;
      const fault = record.fault ?? raggedRow(record, this.work.table);
      const row = fault === undefined ? this.work.reader.read(record.row, record.cells) : undefined;
      if (row === undefined || row.kind === "rejected")
        await this.reject(record, fault ?? (row?.because as Diagnostic));
      else if (row.kind === "skipped") this.counts.skipped++;
      else {
        if (row.kind !== "product") this.counts.joined++;
        this.waiting.set(row.row, record);
        row.findings.forEach(this.work.onFinding);
        records.push(...this.joiner.push(row));
        if (row.kind === "further") this.waiting.delete(row.row);
      }
    }
    await this.put(records);
    this.work.onProgress(this.counts.rows);
  }

  async end(): Promise<ImportedRows> {
    await this.put(this.joiner.end());
    const { counts, parts, groupsNamed, changes, added } = this;
    return { counts, parts, groupsNamed, changes, added };
  }

  private async reject(record: TableRecord, because: Diagnostic): Promise<void> {
    this.counts.read++;
    this.counts.rejected++;
    this.work.onFinding(because);
    await this.work.rejects.add(record, because);
  }

  private async put(records: readonly JoinedRecord[]): Promise<void> {
    const fates = await this.work.writer.put(records);
    for (const [index, record] of records.entries()) {
      const fate = fates[index];
      if (fate !== undefined) await this.settle(record, fate);
    }
    for (const { row } of records) this.waiting.delete(row);
  }

  private async settle(record: JoinedRecord, fate: RecordFate): Promise<void> {
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
      case "reused":
        return this.refuse(
          record,
          raw,
          diagnostic("reused-sku", { sku: fate.sku, was: fate.was, now: fate.now }, where),
        );
      case "added":
      case "changed":
      case "unchanged":
        this.landed(record, fate);
        return;
      default:
        assertNever(fate);
    }
  }

  private async refuse(
    record: JoinedRecord,
    raw: TableRecord | undefined,
    because: Diagnostic,
  ): Promise<void> {
    const shown = raw ?? { row: record.row, cells: [] };
    if (record.kind === "product") return this.reject(shown, because);
    // A group's own row is no product's: it is told and kept aside, and does not count among those read.
    this.work.onFinding(because);
    await this.work.rejects.add(shown, because);
  }

  private landed(
    record: JoinedRecord,
    fate: Extract<RecordFate, { fate: "added" | "changed" | "unchanged" }>,
  ): void {
    const { onFinding, table } = this.work;
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
    if (record.kind === "group") return;
    this.counts.read++;
    this.counts[fate.fate]++;
    if (fate.known === true)
      onFinding(diagnostic("known-already", { sku: fate.sku }, { product: fate.sku, place }, "advice"));
    if (fate.fate === "added" && this.added.length < SAMPLES) this.added.push(fate.sku);
    if (fate.changes !== undefined && fate.changes.length > 0 && this.changes.length < SAMPLES)
      this.changes.push({ sku: fate.sku, changes: fate.changes });
    this.noteParts(record, fate.sku);
    this.noteGroup(record);
  }

  private noteParts(record: JoinedRecord, sku: Sku): void {
    const bundle = this.textOf(record, "bundle_of");
    if (bundle === "" || this.parts.length > PARTS_LIMIT) return;
    for (const part of itemsOf(bundle)) this.parts.push({ sku, part, row: record.row });
  }

  private noteGroup(record: JoinedRecord): void {
    if (this.work.reading.groups.layout !== "own-row") return;
    const group = this.textOf(record, "group");
    if (group !== "" && !this.groupsNamed.has(group)) this.groupsNamed.set(group, record.row);
  }

  private textOf(record: JoinedRecord, attribute: string): string {
    const at = this.work.reader.attributes.findIndex((one) => one.attribute === attribute);
    const text = record.texts[at] ?? "";
    return text === CLEARED || text === RETRACTED || isUnread(text) ? "" : text;
  }
}

/** Cells beyond the header may only be blank; a short row may have lost a delimiter, so nothing in it is trusted. */
const raggedRow = (
  { row, cells }: TableRecord,
  { header, file, headerGrows }: TableStream,
): Diagnostic | undefined => {
  if (headerGrows || cells.length === header.length) return undefined;
  if (cells.length > header.length && cells.slice(header.length).every((cell) => cell.trim() === ""))
    return undefined;
  return diagnostic(
    "ragged-row",
    { expected: header.length, actual: cells.length },
    { place: { file, row } },
  );
};
