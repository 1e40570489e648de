import { basename } from "node:path";
import { causeCollector, type CauseCollector } from "../../core/diagnostics/causes.js";
import { proposeColumns, type ColumnProposal } from "../../core/catalogue/propose-columns.js";
import { rowReader, type RowReading } from "../../core/catalogue/row-reader.js";
import { diagnostic, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { placeText } from "../../core/diagnostics/place.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { sentence } from "../../core/diagnostics/wording.js";
import type { Surroundings } from "../../core/language/function.js";
import {
  openCsv,
  refuseRepeatedColumns,
  type TableRecord,
  type TableStream,
} from "../../formats/csv-reader.js";
import { csvLine } from "../../formats/csv-writer.js";
import type { Encoding } from "../../formats/text-stream.js";
import type { ImportCounts, ImportTransaction, IncomingRecord, Store } from "../../store/store.js";
import { addToManifest } from "../../workspace/edit-manifest.js";
import {
  loadSource,
  proposedSource,
  readingFor,
  saveProposedSource,
  sourceExists,
  sourceNameFor,
  type Source,
} from "../../workspace/source-files.js";
import { stageFiles, type StagedFile, type StagedFiles } from "../../workspace/staged-files.js";
import type { Workspace } from "../../workspace/workspace.js";

export interface ImportRequest {
  readonly path: string;
  /** The path as the person wrote it. */
  readonly shown: string;
  readonly source: string | undefined;
  readonly skuColumn: string | undefined;
  readonly encoding: Encoding | undefined;
  readonly at: string;
  readonly surroundings: Surroundings;
  /** Told of every finding as it comes. */
  onFinding(finding: Diagnostic): void;
}

export interface ImportResult {
  readonly table: TableStream;
  readonly source: Source;
  /** Set when there was no source file and one was written. */
  readonly proposed: readonly ColumnProposal[] | undefined;
  readonly counts: ImportCounts;
  readonly causes: CauseCollector;
  readonly rejectedFile: string | undefined;
}

/** read → type → match → store, in one transaction that lands whole or not at all. */
export const importTable = async (
  workspace: Workspace,
  store: Store,
  request: ImportRequest,
): Promise<ImportResult> => {
  const shown = basename(request.path);
  const { source, proposed, table } = await sourceAndTable(workspace, request, shown);
  const reading = readingFor(source, table, workspace.manifest, request.surroundings);
  const transaction = await store.beginImport({
    layer: source.settings.layer,
    source: source.name,
    file: shown,
    at: request.at,
    columns: reading.columns.map(({ attribute, column }) => ({ attribute, column })),
  });
  const rejects = rejectedRows(workspace, source.name, table.header);
  const causes = causeCollector();
  try {
    const onFinding = (finding: Diagnostic): void => {
      causes.add(finding);
      request.onFinding(finding);
    };
    const counts = await putRows(table, reading, transaction, rejects, onFinding);
    if (counts.read === 0)
      throw new Refusal([diagnostic("no-rows", { path: shown, columns: table.header.length })]);
    if (proposed !== undefined) await keepProposal(workspace, source);
    const rejectedFile = await rejects.publish();
    await transaction.commit(counts);
    return { table, source, proposed, counts, causes, rejectedFile };
  } catch (error) {
    await transaction.rollback();
    await rejects.discard();
    throw error;
  }
};

const sourceAndTable = async (
  workspace: Workspace,
  { path, source: named, skuColumn, encoding }: ImportRequest,
  shown: string,
): Promise<{
  readonly source: Source;
  readonly proposed: readonly ColumnProposal[] | undefined;
  readonly table: TableStream;
}> => {
  const name = named ?? sourceNameFor(path);
  if (named !== undefined || sourceExists(workspace, name)) {
    const source = await loadSource(workspace, name);
    const { settings } = source;
    const table = await openCsv(path, shown, {
      encoding: encoding ?? settings.encoding,
      delimiter: settings.delimiter,
    });
    refuseRepeatedColumns(table);
    return { source, proposed: undefined, table };
  }
  const table = await openCsv(path, shown, { encoding });
  refuseRepeatedColumns(table);
  const proposed = withSkuColumn(proposeColumns(table.header), skuColumn, table);
  return { source: await proposedSource(name, proposed, workspace.manifest), proposed, table };
};

const withSkuColumn = (
  proposals: readonly ColumnProposal[],
  column: string | undefined,
  { header, file }: TableStream,
): readonly ColumnProposal[] => {
  if (column !== undefined && !header.includes(column))
    throw new Refusal([
      diagnostic(
        "unknown-column",
        { column, nearest: header.filter((name) => name.toLowerCase() === column.toLowerCase()) },
        { place: { file, row: 1 } },
      ),
    ]);
  const chosen =
    column === undefined
      ? proposals
      : [
          { attribute: "sku", columns: [column], known: true },
          ...proposals.filter(({ attribute, columns }) => attribute !== "sku" && !columns.includes(column)),
        ];
  if (chosen.some(({ attribute }) => attribute === "sku")) return chosen;
  throw new Refusal([
    diagnostic("no-key-column", { key: "sku", columns: header.filter(Boolean) }, { place: { file, row: 1 } }),
  ]);
};

const keepProposal = async (workspace: Workspace, source: Source): Promise<void> => {
  await saveProposedSource(workspace, source);
  const { layer } = source.settings;
  if (!workspace.manifest.layers.includes(layer)) await addToManifest(workspace, "layers", layer);
};

const putRows = async (
  table: TableStream,
  reading: RowReading,
  transaction: ImportTransaction,
  rejects: RejectedRows,
  onFinding: (finding: Diagnostic) => void,
): Promise<ImportCounts> => {
  const read = rowReader(reading);
  const counts = { read: 0, added: 0, changed: 0, unchanged: 0, rejected: 0 };
  const reject = async (record: TableRecord, because: Diagnostic): Promise<void> => {
    counts.rejected++;
    onFinding(because);
    await rejects.add(record, because);
  };
  for await (const batch of table.batches) {
    const incoming: IncomingRecord[] = [];
    const byRow = new Map<number, TableRecord>();
    for (const record of batch) {
      counts.read++;
      const fault = record.fault ?? raggedRow(record, table);
      if (fault !== undefined) {
        await reject(record, fault);
        continue;
      }
      const row = read(record.row, record.cells);
      if (row.kind === "rejected") {
        await reject(record, row.because);
        continue;
      }
      row.findings.forEach(onFinding);
      byRow.set(record.row, record);
      incoming.push({ sku: row.sku, row: record.row, texts: row.texts });
    }
    const fates = await transaction.put(incoming);
    for (const [index, { sku, row }] of incoming.entries()) {
      const fate = fates[index] ?? "unchanged";
      const record = byRow.get(row);
      if (fate !== "repeated") counts[fate]++;
      else if (record !== undefined)
        await reject(
          record,
          diagnostic("repeated-key", { key: "sku", value: sku }, { place: { file: table.file, row } }),
        );
    }
  }
  return counts;
};

/** Cells beyond the header may only be blank; a short row may have lost a delimiter, so nothing in it is trusted. */
const raggedRow = ({ row, cells }: TableRecord, { header, file }: TableStream): Diagnostic | undefined => {
  if (cells.length === header.length) return undefined;
  if (cells.length > header.length && cells.slice(header.length).every((cell) => cell.trim() === ""))
    return undefined;
  return diagnostic(
    "ragged-row",
    { expected: header.length, actual: cells.length },
    { place: { file, row } },
  );
};

interface RejectedRows {
  add(record: TableRecord, because: Diagnostic): Promise<void>;
  /** The file with all rejected rows, or undefined when there are none. */
  publish(): Promise<string | undefined>;
  discard(): Promise<void>;
}

/** Rejected rows with their reasons, in a file of the same columns that can be corrected and imported again. */
const rejectedRows = (workspace: Workspace, source: string, header: readonly string[]): RejectedRows => {
  const name = `${source}.csv`;
  let staged: StagedFiles | undefined;
  let file: StagedFile | undefined;
  return {
    async add({ cells }, because) {
      if (file === undefined) {
        staged = await stageFiles(workspace.path("out", "rejected"));
        file = await staged.create(name);
        await file.write(csvLine([...header, "why rejected"]));
      }
      const where = because.place === undefined ? "" : `${placeText(because.place)}: `;
      const full = [
        ...cells.slice(0, header.length),
        ...new Array<string>(Math.max(0, header.length - cells.length)).fill(""),
      ];
      await file.write(csvLine([...full, where + sentence(because)]));
    },
    async publish() {
      if (staged === undefined || file === undefined) return undefined;
      await file.finish();
      await staged.publish();
      return `out/rejected/${name}`;
    },
    async discard() {
      await staged?.discard();
    },
  };
};
