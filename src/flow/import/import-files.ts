/**
 * An import: files are opened, their sources chosen, their rows read and put, one transaction for all; what is told
 * comes back by file.
 */
import { readPart } from "../../core/catalogue/bundle.js";
import { textOf } from "../../core/catalogue/product.js";
import { familyFindings } from "../../core/catalogue/family-findings.js";
import type { SourceProposal } from "../../core/catalogue/proposal/source-proposal.js";
import { causeCollector, type CauseCollector } from "../../core/diagnostics/causes.js";
import { diagnostic, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { nearest } from "../../core/values/nearest.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { Surroundings } from "../../core/language/function.js";
import type { ByteSource } from "../../formats/byte-source.js";
import type { TableStream } from "../../formats/table-stream.js";
import type { CatalogueTransaction, RevisionPlan, Store } from "../../store/store.js";
import { withKinds } from "../../workspace/own-kinds.js";
import { rulesOf } from "../../workspace/source-rules.js";
import { readingFor } from "../../workspace/source-reading.js";
import type { Source } from "../../workspace/source-files.js";
import type { Workspace } from "../../workspace/workspace.js";
import type { OpenCatalogue, WritableCatalogue } from "../open-catalogue.js";
import { placeIn } from "../value-place.js";
import {
  chooseSource,
  kindsIn,
  type ChosenFile,
  type ChosenSource,
  type SourceWishes,
} from "./choose-source.js";
import { ChannelRevisions, type ChannelResult } from "./channel-layers.js";
import { originOf } from "./file-mark.js";
import { decidedBy, keepChannelLayers, keepProposal } from "./kept-sources.js";
import { knownRows } from "./known-rows.js";
import { importRows, type ImportedRows } from "./import-rows.js";
import { previewRecords, type PreviewedRecord } from "./preview-records.js";
import { rowsOfFile } from "./rows-of-file.js";
import { rejectedFiles, type RejectedFiles } from "./rejected-rows.js";

/** What is to be imported, and how. */
export interface ImportRequest extends SourceWishes {
  readonly files: readonly IncomingFile[];
  readonly at: string;
  readonly surroundings: Surroundings;
  /** Whether what the layer said before and this delivery does not say again is taken back. */
  readonly replace: boolean;
  /** Whether products that a replaced layer no longer has lose what it said of them. */
  readonly dropVanished: boolean;
  readonly dryRun: boolean;
  /** Threads at work at once; as many as there are cores where it is undefined. */
  readonly workers: number | undefined;
  /** Whether proposals are only written down, and nothing is imported. */
  readonly onlyPropose: boolean;
  /** Shows a proposal, and gives it back as a person wants it; undefined where it is not to be used. */
  review(open: OpenProposal): Promise<SourceProposal | undefined>;
  /** Told of every finding as it comes. */
  onFinding(finding: Diagnostic): void;
  /** Told how many bytes and rows of a file were read. */
  onProgress(file: ByteSource, bytes: number, rows: number): void;
}

/** A file to be read, and the source that reads it, where that is known. */
export interface IncomingFile {
  readonly file: ByteSource;
  readonly source?: string;
}

/** A proposal that is looked at before it is used. */
export interface OpenProposal {
  readonly proposal: SourceProposal;
  readonly source: Source;
  readonly table: TableStream;
  /** The source that another proposal comes to. */
  remade(proposal: SourceProposal): Promise<Source>;
  /** What the first records become by a source. */
  preview(source: Source): readonly PreviewedRecord[];
}

/** What became of one file. */
export interface FileResult extends ImportedRows {
  readonly file: string;
  readonly columns: number;
  readonly source: Source;
  readonly kinds: ChosenFile["kinds"];
  readonly from: ChosenSource["from"];
  readonly told: readonly string[];
  /** The revision that it became; undefined when nothing changed. */
  readonly revision: number | undefined;
  /** What it said to single channels. */
  readonly channels: readonly ChannelResult[];
  readonly vanished: number;
  readonly replaced: boolean;
  readonly rejectedFile: string | undefined;
  /** What was found in its rows. */
  readonly causes: CauseCollector;
  /** To be called once it has landed: keeps what is known of its rows. */
  keep(): Promise<void>;
}

/** What became of it. */
export interface ImportResult {
  readonly files: readonly FileResult[];
  /** What showed when all rows were in. */
  readonly beyond: CauseCollector;
  /** Where nothing was to be imported: the sources that the files would be read by. */
  readonly proposed: readonly { readonly source: Source; readonly file: string; readonly isNew: boolean }[];
  readonly causes: CauseCollector;
}

/** Writes the proposed sources down, and imports nothing. */
export async function proposeSources(
  open: WritableCatalogue,
  chosen: readonly ChosenFile[],
): Promise<ImportResult> {
  for (const { from, source, kinds } of chosen)
    if (from.kind === "proposal") await keepProposal(open, source, kinds);
  await open.landing.land();
  const proposed = chosen.map(({ source, from, table }) => ({
    source,
    file: table.file,
    isNew: from.kind === "proposal",
  }));
  return { files: [], causes: causeCollector(), beyond: causeCollector(), proposed };
}

/** open → tie → read → match & type → store, file after file, as a part of one act. */
export async function importFiles(
  open: WritableCatalogue,
  transaction: CatalogueTransaction,
  chosen: readonly ChosenFile[],
  request: ImportRequest,
): Promise<ImportResult> {
  const { workspace, store } = open;
  const causes = causeCollector();
  const beyond = causeCollector();
  const telling =
    (own: CauseCollector) =>
    (finding: Diagnostic): void => {
      causes.add(finding);
      own.add(finding);
      request.onFinding(finding);
    };
  const rejects = rejectedFiles(open);
  const files: FileResult[] = [];
  for (const one of chosen) {
    const turn = files.filter(({ source }) => source.name === one.source.name).length;
    const own = causeCollector();
    const running = { workspace, store, request, transaction, rejects, onFinding: telling(own) };
    files.push({ ...(await importOne(one, running, turn)), causes: own });
  }
  await lookOver(store, transaction, files, telling(beyond));
  if (!request.dryRun) {
    for (const { from, source, kinds } of files)
      if (from.kind === "proposal") await keepProposal(open, source, kinds);
      else await keepChannelLayers(open, source);
    await rejects.finish();
  }
  return { files, causes, beyond, proposed: [] };
}

/** Chooses sources, and lets a person confirm proposals: they may take their time, so nothing is locked for it. */
export async function chooseFiles(
  { workspace, store }: OpenCatalogue,
  request: ImportRequest,
): Promise<readonly ChosenFile[]> {
  const chosen: ChosenFile[] = [];
  for (const incoming of request.files) {
    const source = incoming.source ?? request.source;
    chosen.push(await choose(workspace, store, incoming.file, { ...request, source }));
  }
  return chosen;
}

async function choose(
  workspace: Workspace,
  store: Store,
  file: ByteSource,
  request: ImportRequest,
): Promise<ChosenFile> {
  const found = await chooseSource(workspace, store, file, request);
  const { table, from } = found;
  const agreed = from.kind === "proposal" ? await reviewed(workspace, found, from, request) : undefined;
  const source = agreed?.source ?? found.source;
  const kinds = agreed === undefined ? {} : kindsIn(agreed.proposal, workspace);
  const tied = readingFor(source, table, withKinds(workspace, kinds), request.surroundings);
  return { ...found, source, file, tied, kinds };
}

/** The source that a person agrees to; a proposal without a key is shown as far as it goes. */
async function reviewed(
  workspace: Workspace,
  { table, source }: ChosenSource,
  { proposal, remade }: Extract<ChosenSource["from"], { kind: "proposal" }>,
  request: ImportRequest,
): Promise<{ readonly source: Source; readonly proposal: SourceProposal }> {
  const agreed = await request.review({
    proposal,
    source,
    table,
    remade,
    preview: (one) =>
      previewRecords(one, table, withKinds(workspace, kindsIn(proposal, workspace)), request.surroundings),
  });
  if (agreed === undefined) throw new Refusal([diagnostic("proposal-open", { source: source.name })]);
  if (agreed.keys.length === 0 && !request.onlyPropose)
    throw new Refusal([
      diagnostic(
        "no-key-column",
        { key: "sku", columns: table.header.filter(Boolean), near: agreed.nearKeys },
        { place: { file: table.file, row: table.headerRow } },
      ),
    ]);
  return { proposal: agreed, source: agreed === proposal ? source : await remade(agreed) };
}

interface Running {
  readonly workspace: Workspace;
  readonly store: Store;
  readonly request: ImportRequest;
  readonly transaction: CatalogueTransaction;
  readonly rejects: RejectedFiles;
  onFinding(finding: Diagnostic): void;
}

async function importOne(
  chosen: ChosenFile,
  { workspace, store, request, transaction, rejects, onFinding }: Running,
  turn: number,
): Promise<Omit<FileResult, "causes">> {
  const { file, table, source, from, tied } = chosen;
  const { settings } = source;
  const mode = settings.mode ?? "both";
  const replaced = request.replace || settings.replaces === true;
  const cameFrom = await originOf(workspace, file.path);
  const today = request.surroundings.today.iso;
  const known = await knownRows(
    { workspace, store },
    { table, source, from },
    tied.reading,
    { replaced, today },
    turn,
  );
  const { surroundings, workers } = request;
  const { kindOf } = withKinds(workspace, chosen.kinds);
  const read = rowsOfFile(chosen, {
    workspace,
    surroundings,
    workers,
    known: known?.before,
    isKept: known !== undefined,
  });
  const plan: RevisionPlan = {
    kind: "import",
    layer: settings.layer,
    source: source.name,
    file: table.file,
    at: request.at,
    columns: read.attributes,
    keys: tied.reading.keys,
    mode,
    compare: from.kind === "sheet" ? "merged" : "layer",
    replace: replaced,
    writesKeys: settings.write_keys ?? false,
    refusesBare: from.kind !== "sheet",
    tellChanges: request.dryRun,
    ...(from.kind === "sheet" ? {} : { rules: rulesOf(source, kindOf) }),
    ...(cameFrom === undefined ? {} : { cameFrom }),
    ...(from.kind === "proposal" ? { decided: [decidedBy(workspace, source)] } : {}),
  };
  const writer = await transaction.revision(plan);
  const channels = await ChannelRevisions.begin(source, plan, { workspace, store, transaction });
  const rejected = rejects.of(source.name, table.header);
  const rows = await importRows({
    file: table.file,
    batches: read.batches,
    attributes: read.attributes,
    hasGroupRows: tied.reading.groups.layout === "own-row",
    writer,
    channels,
    mode,
    rejects: rejected,
    known,
    onFinding,
    onProgress: (count) => request.onProgress(file, read.bytesRead(), count),
  });
  if (rows.counts.rows === 0)
    throw new Refusal([diagnostic("no-rows", { path: table.file, columns: table.header.length })]);
  for (const column of table.unseen())
    onFinding(
      diagnostic(
        "column-never-seen",
        {
          column,
          nearest: nearest(
            column,
            table.header.filter((name) => name !== column),
          ),
        },
        { place: { file: table.file } },
        "warning",
      ),
    );
  const { layer } = settings;
  const vanished = replaced
    ? await writer.vanished(request.dropVanished, (sku) =>
        onFinding(
          diagnostic("vanished", { layer, dropped: request.dropVanished }, { product: sku }, "advice"),
        ),
      )
    : 0;
  if (replaced) await channels.vanished(request.dropVanished);
  for (const former of [writer.formerRules() ?? [], channels.formerRules()].flat()) {
    const facts = { source: source.name, revision: former };
    onFinding(diagnostic("rules-changed", facts, { place: { file: table.file } }, "advice"));
  }
  const revision = await writer.finish(rows.counts);
  const toChannels = await channels.finish();
  const keep = (await known?.end()) ?? (() => Promise.resolve());
  return {
    ...rows,
    file: table.file,
    columns: table.header.filter(Boolean).length,
    source,
    kinds: chosen.kinds,
    from,
    told: [...read.told(), ...tied.told],
    revision,
    channels: toChannels,
    vanished,
    replaced,
    rejectedFile: rejected.name(),
    keep,
  };
}

/** What shows only when all rows are in: groups, twins, parts. */
async function lookOver(
  store: Store,
  transaction: CatalogueTransaction,
  files: readonly FileResult[],
  onFinding: (finding: Diagnostic) => void,
): Promise<void> {
  for await (const families of transaction.touchedFamilies())
    for (const family of families) familyFindings(family, placeIn(store)).forEach(onFinding);
  for (const [sku, other] of await transaction.skuTwins())
    onFinding(diagnostic("sku-twin", { sku, other }, { product: sku }, "warning"));
  for (const { file, parts, groupsNamed, nameless, groupsAdded } of files) {
    for (const { sku, row } of nameless) {
      const product = await store.product(sku);
      if (product !== undefined && textOf(product, "name") === undefined)
        onFinding(diagnostic("no-name", { sku }, { product: sku, place: { file, row } }, "warning"));
    }
    for (const { group, row } of groupsAdded)
      if ((await store.groupMembers(group)).length === 0)
        onFinding(diagnostic("empty-group", { group }, { place: { file, row } }, "warning"));
    for (const { sku, part, row } of parts)
      if (!(await transaction.isKnown(part.trim())) && !(await transaction.isKnown(readPart(part).sku))) {
        const facts = { part: readPart(part).sku };
        onFinding(diagnostic("missing-part", facts, { product: sku, place: { file, row } }, "warning"));
      }
    for (const [group, row] of groupsNamed)
      if (!(await transaction.hasGroupRecord(group)))
        onFinding(diagnostic("group-without-record", { group }, { place: { file, row } }, "warning"));
  }
}
