/** Batches of records as plain data between threads. */
import type { Doubt } from "../../core/catalogue/cell-reader.js";
import { TEXT_SEPARATOR } from "../../core/catalogue/record.js";
import type { RowHash } from "../../core/catalogue/row-hash.js";
import { DividedLater } from "../../core/catalogue/stored-texts.js";
import type { TableRecord } from "../../formats/table-stream.js";
import type { PlannedColumn } from "../../store/store.js";
import type { Incoming, ReadBatch, ReadRecord, ToldOfRow } from "./read-rows.js";

/** A batch as plain data, which goes from thread to thread at little cost. */
export interface PackedBatch extends Omit<ReadBatch, "records" | "rowsAt"> {
  readonly kinds: Uint8Array<ArrayBuffer>;
  /** Of each record the number of its row, and by what that is known again; 0 where it is not. */
  readonly numbers: Float64Array<ArrayBuffer>;
  /** The texts of all records as one. */
  readonly texts: string;
  /** Few records have any; each with its place. */
  readonly doubts: readonly (readonly [at: number, doubts: readonly Doubt[]])[];
  /** All attributes, where rows brought new ones or further columns for them; none where nothing changed. */
  readonly attributes: readonly PlannedColumn[];
}

const kinds = ["product", "group", "again"] as const;
const NUMBERS = 4;
/** Between the texts of two records; cleaned cells cannot hold it. */
const BETWEEN = "\u0000";

/** A row as it was written, and nothing else. */
export const plainRow = ({ row, cells, whole }: TableRecord): TableRecord => ({
  row,
  cells: whole?.() ?? cells,
});

const plainTold = ({ finding, rejected }: ToldOfRow): ToldOfRow =>
  rejected === undefined ? { finding } : { finding, rejected: plainRow(rejected) };

/** A batch as plain data. */
export function packed(batch: ReadBatch, attributes: readonly PlannedColumn[]): PackedBatch {
  const { rows, joined, skipped, told, records } = batch;
  const kindOf = new Uint8Array(records.length);
  const numbers = new Float64Array(records.length * NUMBERS);
  const texts: string[] = [];
  const doubts: (readonly [number, readonly Doubt[]])[] = [];
  for (const [at, record] of records.entries()) {
    const { kind, row, hash } = record;
    kindOf[at] = kinds.indexOf(kind);
    numbers.set([row, hash?.first ?? 0, hash?.second ?? 0], at * NUMBERS);
    if (kind === "again") {
      numbers[at * NUMBERS + 3] = record.product;
      continue;
    }
    texts.push(record.texts.join(TEXT_SEPARATOR));
    if (record.doubts.length > 0) doubts.push([at, record.doubts]);
  }
  return {
    rows,
    joined,
    skipped,
    told: told.map(plainTold),
    kinds: kindOf,
    numbers,
    texts: texts.join(BETWEEN),
    doubts,
    attributes,
  };
}

class StoredRecord extends DividedLater implements ReadRecord {
  constructor(
    stored: string,
    readonly kind: ReadRecord["kind"],
    readonly row: number,
    readonly doubts: readonly Doubt[],
    readonly hash: RowHash | undefined,
  ) {
    super(stored);
  }
}

/** The same as it was. */
export function unpacked(batch: PackedBatch, rowsAt: ReadBatch["rowsAt"]): ReadBatch {
  const { rows, joined, skipped, told, numbers } = batch;
  const doubts = new Map(batch.doubts);
  const texts = batch.texts.split(BETWEEN);
  let next = 0;
  const records: Incoming[] = [];
  for (const [at, code] of batch.kinds.entries()) {
    const place = at * NUMBERS;
    const [row, first] = [numbers[place] ?? 0, numbers[place + 1] ?? 0];
    const [second, product] = [numbers[place + 2] ?? 0, numbers[place + 3] ?? 0];
    const kind = kinds[code] ?? "product";
    const hash = { first, second };
    if (kind === "again") records.push({ kind, row, hash, product });
    else {
      const mark = first === 0 ? undefined : hash;
      const stored = texts[next++] ?? "";
      records.push(new StoredRecord(stored, kind, row, doubts.get(at) ?? [], mark));
    }
  }
  return { rows, joined, skipped, told, records, rowsAt };
}

/** What of a batch is handed over rather than copied. */
export function memoryOfPacked({ kinds: kindOf, numbers }: PackedBatch): readonly ArrayBuffer[] {
  return [kindOf.buffer, numbers.buffer];
}
