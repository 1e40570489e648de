/** Puts a file's records into the store in batches, and accounts for every row. */
import { apart } from "../../core/apart.js";
import { itemsOf } from "../../core/catalogue/list-text.js";
import { assertNever } from "../../core/assert-never.js";
import { CLEARED, isUnread, RETRACTED } from "../../core/catalogue/record.js";
import { TextPicker } from "../../core/catalogue/stored-texts.js";
import { diagnostic, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import type { Sku } from "../../core/ids.js";
import type { TableRecord } from "../../formats/table-stream.js";
import type { Place } from "../../core/diagnostics/place.js";
import type {
  ImportCounts,
  ImportMode,
  PlannedColumn,
  RecordFate,
  RevisionWriter,
  ValueChange,
} from "../../store/store.js";
import type { ChannelFate, ChannelRevisions } from "./channel-layers.js";
import type { KnownRows } from "./known-rows.js";
import type { AgainRecord, Incoming, ReadBatch, ReadRecord } from "./read-rows.js";
import type { RejectedRows } from "./rejected-rows.js";

/** What became of all rows of a file: rows = read + joined + skipped, read = added + changed + unchanged + rejected. */
export interface RowCounts extends ImportCounts {
  readonly rows: number;
  /** Rows that belong to another row's product, or are a group's own. */
  readonly joined: number;
  /** Rows that the source does not take. */
  readonly skipped: number;
}

/** A product that changed, with what. */
export interface ChangeSample {
  readonly sku: Sku;
  /** The channel that alone sees it; undefined where all do. */
  readonly channel?: string;
  readonly changes: readonly ValueChange[];
}

/** A bundle's part, to be looked for when all rows are in. */
export interface NamedPart {
  readonly sku: Sku;
  /** As written: `2 x BC-1401`. */
  readonly part: string;
  readonly row: number;
}

/** What became of a file's rows. */
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

/** What was read of a file, and where it goes. */
export interface RowsToImport {
  readonly file: string;
  readonly batches: AsyncIterable<ReadBatch>;
  /** What each text of a record is; it may grow while batches come. */
  readonly attributes: readonly PlannedColumn[];
  /** Whether groups have rows of their own. */
  readonly hasGroupRows: boolean;
  readonly writer: RevisionWriter;
  /** Where it goes for single channels. */
  readonly channels: ChannelRevisions;
  readonly mode: ImportMode;
  readonly rejects: RejectedRows;
  /** Keeps what rows are known by; undefined where rows depend on each other. */
  readonly known: Pick<KnownRows, "note"> | undefined;
  onFinding(finding: Diagnostic): void;
  /** Told after each batch. */
  onProgress(rows: number): void;
}

const SAMPLES = 5;
const PARTS_LIMIT = 100_000;

/** Puts all rows that were read into a revision, batch by batch. */
export async function importRows(work: RowsToImport): Promise<ImportedRows> {
  const run = new ImportRun(work);
  for await (const batch of work.batches) await run.take(batch);
  return run.end();
}

type Landed = Extract<RecordFate, { fate: "added" | "changed" | "unchanged" }>;

type Refused = Exclude<RecordFate, Landed | { fate: "again" | "removed" }>;

const taken: ReadonlySet<RecordFate["fate"]> = new Set(["added", "changed", "unchanged", "again", "removed"]);

const none: readonly ChannelFate[] = [];

/** Whether single channels hear of a record: its product is there, and the source's mode lets it speak of it. */
const goesOn = (fate: RecordFate): boolean =>
  fate.fate === "again" ||
  fate.fate === "added" ||
  ((fate.fate === "changed" || fate.fate === "unchanged") && fate.known !== true);

const isRefused = (fate: RecordFate): fate is Refused => !taken.has(fate.fate);

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
  private readonly parts: NamedPart[] = [];
  private readonly groupsNamed = new Map<string, number>();
  private readonly changes: ChangeSample[] = [];
  private readonly added: Sku[] = [];
  private readonly nameless: { readonly sku: Sku; readonly row: number }[] = [];
  private readonly groupsAdded: { readonly group: string; readonly row: number }[] = [];
  /** Where attributes stand among a record's texts; pairs of names and values may bring more while rows are read. */
  private readonly places = new Map<string, number>();
  private readonly picker = new TextPicker();

  constructor(private readonly work: RowsToImport) {}

  async take(batch: ReadBatch): Promise<void> {
    const { rows, joined, skipped, told } = batch;
    this.counts.rows += rows;
    this.counts.joined += joined;
    this.counts.skipped += skipped;
    for (const { finding, rejected } of told)
      if (rejected === undefined) this.work.onFinding(finding);
      else await this.reject(rejected, finding);
    await this.put(batch);
    this.work.onProgress(this.counts.rows);
  }

  end(): ImportedRows {
    const { counts, parts, groupsNamed, changes, added, nameless, groupsAdded } = this;
    return { counts, parts, groupsNamed, changes, added, nameless, groupsAdded };
  }

  private async reject(record: TableRecord, because: Diagnostic): Promise<void> {
    this.counts.read++;
    this.counts.rejected++;
    this.work.onFinding(because);
    await this.work.rejects.add(record, because);
  }

  private async put({ records, rowsAt }: ReadBatch): Promise<void> {
    const fates = await this.work.writer.put(records);
    const refused = fates.flatMap((fate, at) => (isRefused(fate) ? [at] : []));
    // Few rows are, so that those alone are asked for.
    const shown = refused.length === 0 ? [] : await rowsAt(refused);
    const rowOf = new Map(refused.map((at, index) => [at, shown[index]]));
    const besideOf = await this.putBeside(records, fates);
    for (const [at, record] of records.entries()) {
      const fate = fates[at];
      if (fate === undefined) continue;
      if (isRefused(fate)) await this.refuse(record, fate, rowOf.get(at));
      else if (record.kind === "again") this.cameAgain(record);
      else if (fate.fate === "removed") this.staysOut(record, fate);
      else if (fate.fate !== "again") this.landed(record, fate, besideOf.get(at) ?? none);
    }
  }

  /** What of the records goes to single channels; what the file's own layer did not take goes to none. */
  private async putBeside(
    records: readonly Incoming[],
    fates: readonly RecordFate[],
  ): Promise<ReadonlyMap<number, readonly ChannelFate[]>> {
    const { channels } = this.work;
    if (channels.isNone) return new Map();
    const taken = fates.flatMap((fate, at) => (goesOn(fate) ? [at] : []));
    const found = await channels.put(taken.flatMap((at) => records[at] ?? []));
    return new Map(taken.map((at, index) => [at, found[index] ?? none]));
  }

  private refusalOf(record: Incoming, fate: Refused): Diagnostic {
    const where = { place: { file: this.work.file, row: record.row } };
    switch (fate.fate) {
      case "repeated": {
        if (record.kind !== "group")
          return diagnostic("repeated-key", { key: fate.key, value: fate.value }, where);
        return diagnostic("repeated-key", { key: "group", value: this.textOf(record, "group") }, where);
      }
      case "unmatched": {
        const adds = this.work.mode !== "update";
        return diagnostic("unmatched-key", { key: fate.key, value: fate.value, adds }, where);
      }
      case "ambiguous": {
        const { key, value, skus, butForZeros = false } = fate;
        return diagnostic("ambiguous-key", { key, value, skus, butForZeros }, where);
      }
      case "disagree": {
        const [one, other] = fate.keys;
        return diagnostic("keys-disagree", { ...one, other }, where);
      }
      case "bare":
        return diagnostic("bare-row", { sku: fate.sku }, where);
      case "reused":
        return diagnostic("reused-sku", { sku: fate.sku, was: fate.was, now: fate.now }, where);
      default:
        return assertNever(fate);
    }
  }

  private cameAgain({ product, hash }: AgainRecord): void {
    this.counts.read++;
    this.counts.unchanged++;
    this.work.known?.note(hash, product);
  }

  /** A row of a product that a person took out: it changes nothing, and the file is not wrong. */
  private staysOut({ row }: Incoming, { sku, revision }: Extract<RecordFate, { fate: "removed" }>): void {
    this.counts.read++;
    this.counts.unchanged++;
    const place = { file: this.work.file, row };
    this.work.onFinding(diagnostic("removed-before", { sku, revision }, { product: sku, place }, "advice"));
  }

  private async refuse(record: Incoming, fate: Refused, row: TableRecord | undefined): Promise<void> {
    const because = this.refusalOf(record, fate);
    const shown = row ?? { row: record.row, cells: [] };
    if (record.kind !== "group") return this.reject(shown, because);
    // A group's own row is no product's: it is told and kept aside, and does not count among those read.
    this.work.onFinding(because);
    await this.work.rejects.add(shown, because);
  }

  private landed(record: ReadRecord, fate: Landed, beside: readonly ChannelFate[]): void {
    let isSilent = record.hash !== undefined;
    const onFinding = (finding: Diagnostic): void => {
      isSilent = false;
      this.work.onFinding(finding);
    };
    const place = { file: this.work.file, row: record.row };
    this.tellDamage(fate, place, onFinding);
    for (const { fate: own } of beside) this.tellDamage(own, place, onFinding);
    if (fate.sameGtin !== undefined) {
      const facts = { gtin: this.textOf(record, "gtin"), others: fate.sameGtin };
      onFinding(diagnostic("same-gtin", facts, { product: fate.sku, place }, "warning"));
    }
    for (const apart of fate.keysApart ?? [])
      onFinding(diagnostic("key-not-written", apart, { product: fate.sku, place }, "advice"));
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
    this.noteChanges(fate);
    for (const { channel, fate: own } of beside) this.noteChanges(own, channel);
    this.noteParts(record, fate.sku);
    this.noteGroup(record);
    const isSettled = beside.every(({ fate: own }) => "settled" in own);
    if (isSilent && isSettled && fate.settled !== undefined && record.hash !== undefined)
      this.work.known?.note(record.hash, fate.settled);
  }

  /** Tells the damaged values of a record, and numbers that a spreadsheet took the zeros from. */
  private tellDamage(fate: RecordFate, place: Place, onFinding: (finding: Diagnostic) => void): void {
    if (isRefused(fate) || !("sku" in fate) || fate.fate === "removed") return;
    for (const { doubt, proved } of fate.doubts ?? []) {
      const { attribute, written: value, damage, candidates, column } = doubt;
      const about = { product: fate.sku, place: { ...place, column } };
      if (proved !== undefined)
        onFinding(diagnostic("repaired-value", { attribute, value, now: proved, damage }, about, "advice"));
      else onFinding(diagnostic("damaged-value", { attribute, value, damage, candidates }, about, "warning"));
    }
    const mended = fate.keyMended === undefined ? [] : [fate.keyMended];
    for (const { key, value, now } of [...mended, ...(fate.zerosKept ?? [])]) {
      const facts = { attribute: key, value, now, damage: "leading-zeros" } as const;
      onFinding(diagnostic("repaired-value", facts, { product: fate.sku, place }, "advice"));
    }
  }

  private noteChanges(fate: RecordFate, channel?: string): void {
    const changes = "changes" in fate ? (fate.changes ?? []) : [];
    if (changes.length === 0 || this.changes.length >= SAMPLES || !("sku" in fate)) return;
    this.changes.push(
      channel === undefined ? { sku: fate.sku, changes } : { sku: fate.sku, channel, changes },
    );
  }

  private noteParts(record: ReadRecord, sku: Sku): void {
    const bundle = this.textOf(record, "bundle_of");
    if (bundle === "" || this.parts.length > PARTS_LIMIT) return;
    for (const part of itemsOf(bundle)) this.parts.push({ sku, part: apart(part), row: record.row });
  }

  private noteGroup(record: ReadRecord): void {
    if (!this.work.hasGroupRows) return;
    const group = this.textOf(record, "group");
    if (group !== "" && !this.groupsNamed.has(group)) this.groupsNamed.set(apart(group), record.row);
  }

  private textOf(record: ReadRecord, attribute: string): string {
    const text = this.picker.at(record, this.placeOf(attribute)) ?? "";
    return text === CLEARED || text === RETRACTED || isUnread(text) ? "" : text;
  }

  private placeOf(attribute: string): number {
    const known = this.places.get(attribute);
    if (known !== undefined) return known;
    const at = this.work.attributes.findIndex(
      (one) => one.attribute === attribute && one.channel === undefined,
    );
    if (at >= 0) this.places.set(attribute, at);
    return at;
  }
}
