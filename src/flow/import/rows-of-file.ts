/** A file's rows, read by this thread or by one beside it. */
import { availableParallelism } from "node:os";
import { createHash } from "node:crypto";
import type { KeptRows } from "../../core/catalogue/row-table.js";
import { recordColumn } from "../../core/catalogue/record.js";
import { rowReader } from "../../core/catalogue/row-reader.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import type { Surroundings } from "../../core/language/function.js";
import type { TableOptions } from "../../formats/kinds/file-kind.js";
import { kindOf } from "../../formats/kinds/kinds.js";
import type { TableRecord, TableStream } from "../../formats/table-stream.js";
import type { PlannedColumn } from "../../store/store.js";
import type { Workspace } from "../../workspace/workspace.js";
import { WorkerThread } from "../parts/worker-thread.js";
import type { ChosenFile } from "./choose-source.js";
import { unpacked, type PackedBatch } from "./packed-batch.js";
import { readRows, type ReadBatch } from "./read-rows.js";

/** A file's rows, read by this thread or by another. */
export interface RowsOfFile {
  /** What each text of a record is; it may grow while batches come. */
  readonly attributes: readonly PlannedColumn[];
  readonly batches: AsyncGenerator<ReadBatch>;
  /** How the file was read, in words, once it is. */
  told(): readonly string[];
  /** Bytes of the file that were read so far. */
  bytesRead(): number;
}

/** What a worker reads, as data: it opens the file itself. */
export interface ReadingRecipe {
  readonly work: "read";
  /** The workspace's folder. */
  readonly root: string;
  /** The day of the run, ISO 8601. */
  readonly today: string;
  /** Whether expressions may look things up in the user's tables. */
  readonly hasTables: boolean;
  readonly path: string;
  readonly file: string;
  readonly options: TableOptions;
  readonly source: { readonly name: string; readonly text: string };
  readonly known: KeptRows | undefined;
  readonly isKept: boolean;
  /** Kinds of the shop's own attributes that come with a proposal. */
  readonly kinds: ChosenFile["kinds"];
}

/** Asks a worker for the next batch. */
export const NEXT = "next";

/** Asks a worker for the rows, as they stand in the file, that some records of a batch begin in. */
export interface AskedRows {
  readonly batch: number;
  readonly records: readonly number[];
}

/** What a worker says of a batch; behind the last one, of none. */
export interface SaidBatch {
  readonly batch?: PackedBatch;
  readonly number?: number;
  readonly told: readonly string[];
  readonly bytes: number;
}

// A worker has to open the workspace and the file first: smaller files are read before it would be.
const WORTH_IT = 6 << 20;

/** So many batches a worker may be ahead of what is in the catalogue. */
export const AHEAD = 3;

/** What a file begins with: all that was found out about it was found there. */
export function beginningOf({ header, sample }: TableStream): string {
  return createHash("sha256")
    .update(JSON.stringify([header, sample.map(({ row, cells }) => [row, cells])]))
    .digest("hex");
}

/** How a file's rows are read. */
export interface RowsWanted {
  readonly workspace: Workspace;
  readonly surroundings: Surroundings;
  /** Threads that a person wants; as many as there are cores where it is undefined. */
  readonly workers: number | undefined;
  readonly known: KeptRows | undefined;
  readonly isKept: boolean;
}

/** Rows are read beside the thread that writes, where a second one is to be had and the file is worth it. */
export function rowsOfFile(chosen: ChosenFile, wanted: RowsWanted): RowsOfFile {
  const { file, table } = chosen;
  const threads = wanted.workers ?? ((file.size ?? 0) < WORTH_IT ? 1 : availableParallelism());
  const canBeShared = kindOf(table.format).canBeShared === true && file.path !== undefined;
  return threads > 1 && canBeShared ? rowsBeside(chosen, file.path, wanted) : rowsHere(chosen, wanted);
}

function rowsHere({ file, table, tied }: ChosenFile, { known, isKept }: RowsWanted): RowsOfFile {
  const reader = rowReader(tied.reading);
  return {
    attributes: reader.attributes,
    batches: readRows({ table, reading: tied.reading, reader, known, isKept }),
    told: () => table.told(),
    bytesRead: () => file.bytesRead(),
  };
}

function rowsBeside(
  { file, table, tied, options, source, kinds }: ChosenFile,
  path: string,
  { workspace, surroundings, known, isKept }: RowsWanted,
): RowsOfFile {
  const attributes: PlannedColumn[] = tied.reading.columns.map(recordColumn);
  let told: readonly string[] = [];
  let bytes = 0;
  const recipe: ReadingRecipe = {
    work: "read",
    root: workspace.root,
    today: surroundings.today.iso,
    path,
    file: file.file,
    known,
    isKept,
    kinds,
    hasTables: surroundings.tables !== undefined,
    options: { ...options, chooseRecords: undefined },
    source: { name: source.name, text: source.yaml.text },
  };
  async function* batches(): AsyncGenerator<ReadBatch> {
    await table.batches.return(undefined);
    const thread = new WorkerThread({
      recipe,
      memory: known === undefined ? [] : [known.firsts.buffer, known.seconds.buffer, known.products.buffer],
      seen: beginningOf(table),
      otherwise: diagnostic("file-changed", { path: file.file }),
    });
    const next = (): Promise<SaidBatch> => {
      const said = thread.ask(NEXT) as Promise<SaidBatch>;
      // Whoever takes it is told; nobody takes those that were asked for in vain.
      said.catch(() => undefined);
      return said;
    };
    try {
      const coming = Array.from({ length: AHEAD }, next);
      for (let said = await coming.shift(); said?.batch !== undefined; said = await coming.shift()) {
        coming.push(next());
        ({ told, bytes } = said);
        for (const [at, column] of said.batch.attributes.entries()) {
          const known = attributes[at];
          // The plan has the column already; what it is called may be more by now.
          if (known === undefined) attributes.push(column);
          else Object.assign(known, column);
        }
        const { batch, number: batchNumber = 0 } = said;
        yield unpacked(
          batch,
          (records) =>
            thread.ask({ batch: batchNumber, records } satisfies AskedRows) as Promise<
              readonly TableRecord[]
            >,
        );
      }
    } finally {
      await thread.end();
    }
  }
  return {
    attributes,
    batches: batches(),
    told: () => told,
    bytesRead: () => bytes,
  };
}
