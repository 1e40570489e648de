/**
 * Which source reads a file: the one named, the one whose pattern fits, a sheet of ours, or a proposal. Opens the file
 * as that says.
 */
import { dirname } from "node:path";
import { beside } from "../../core/catalogue/proposal/known-values.js";
import { hasUnknownColumn, toldBy } from "../../core/catalogue/proposal/told-values.js";
import { goodsKnownFor } from "../known-goods.js";
import { withChannelColumns } from "../../core/catalogue/proposal/channel-columns.js";
import { proposeSource } from "../../core/catalogue/proposal/propose.js";
import type {
  FileSample,
  ProposedAttribute,
  SourceProposal,
} from "../../core/catalogue/proposal/source-proposal.js";
import { isAttributeName, isOurs as isVocabulary } from "../../core/catalogue/vocabulary.js";
import type { AttributeKind } from "../../core/values/attribute-kind.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { nearest } from "../../core/values/nearest.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { ByteSource } from "../../formats/byte-source.js";
import { openTable } from "../../formats/open-table.js";
import type { TableOptions } from "../../formats/kinds/file-kind.js";
import { kindOf } from "../../formats/kinds/kinds.js";
import type { TableStream } from "../../formats/table-stream.js";
import type { Store } from "../../store/store.js";
import {
  loadSource,
  sourceForFile,
  sourceFromText,
  sourceNameFor,
  withoutCounter,
  type Source,
} from "../../workspace/source-files.js";
import { ownKinds, withKinds } from "../../workspace/own-kinds.js";
import { marksIn, type TiedSource } from "../../workspace/source-reading.js";
import { FOR_CHANNEL, proposedSourceText, sheetSourceText } from "../../workspace/source-text.js";
import type { Workspace } from "../../workspace/workspace.js";
import { chooseRecords } from "../../core/catalogue/proposal/choose-records.js";
import { knownValues } from "./known-values.js";
import { REJECTED_FOLDER } from "./rejected-rows.js";
import { sampleOf } from "./sample-file.js";

/** A file opened as a table, with the source that reads it. */
export interface ChosenSource {
  readonly table: TableStream;
  readonly source: Source;
  /** By what the file was opened. */
  readonly options: TableOptions;
  readonly from:
    | { readonly kind: "file" }
    /** The file's columns are the catalogue's own attributes: what differs becomes edits. */
    | { readonly kind: "sheet" }
    | {
        readonly kind: "proposal";
        readonly proposal: SourceProposal;
        /** The source that another proposal for the same file comes to. */
        remade(proposal: SourceProposal): Promise<Source>;
      };
}

/** A file with the source that reads it, and how its columns are tied. */
export interface ChosenFile extends ChosenSource {
  readonly file: ByteSource;
  readonly tied: TiedSource;
  /** Kinds of the shop's own attributes that come with a proposal. */
  readonly kinds: Readonly<Record<string, AttributeKind>>;
}

/** What a person says of how a file is read. */
export interface SourceWishes {
  /** `--source`: the source's name, whether or not its file exists yet. */
  readonly source: string | undefined;
  /** `--sku-column`: the column with the SKU, for a proposal. */
  readonly skuColumn: string | undefined;
  /** What the command line states of the file; it outweighs the source. */
  readonly stated: TableOptions;
}

const optionsOf = ({ settings }: Source, stated: TableOptions): TableOptions => ({
  format: stated.format ?? settings.format,
  encoding: stated.encoding ?? settings.encoding,
  delimiter: stated.delimiter ?? settings.delimiter,
  sheet: stated.sheet ?? settings.sheet,
  headerRow: stated.headerRow ?? settings.header_row,
  records: stated.records ?? settings.records,
});

/** Rejected rows come back as the plain CSV that we wrote, whatever the rows came in. */
const isOurs = (file: ByteSource, workspace: Workspace): boolean =>
  file.path !== undefined && dirname(file.path) === workspace.path(...REJECTED_FOLDER);

/** What a person says of a file's form and the file has no use for: nobody is to believe that it was followed. */
function refuseIdle({ file, format }: TableStream, stated: TableOptions): void {
  const isBook = kindOf(format).isWorkbook === true;
  const idle = [
    stated.sheet !== undefined && !isBook ? `--sheet does nothing here: ${file} is no workbook` : "",
    stated.encoding !== undefined && isBook
      ? `--encoding does nothing here: ${file} is a workbook, which says itself how its letters are written`
      : "",
    stated.format !== undefined && stated.format !== format
      ? `--format ${stated.format} does nothing here: ${file} is ${format}`
      : "",
  ].filter((reason) => reason !== "");
  if (idle.length > 0) throw new Refusal(idle.map((reason) => diagnostic("unknown-option", { reason })));
}

/** Finds or proposes the source for a file, and opens the file as it says. */
export async function chooseSource(
  workspace: Workspace,
  store: Store,
  file: ByteSource,
  wishes: SourceWishes,
): Promise<ChosenSource> {
  const named = wishes.source;
  const known =
    named === undefined
      ? await sourceForFile(workspace, file.file)
      : await loadSource(workspace, named).catch((error: unknown) => {
          // A name that is new is the name of the source to be proposed; any other fault is told.
          if (error instanceof Refusal && error.findings.every(({ code }) => code === "unknown-source"))
            return undefined;
          throw error;
        });
  if (known !== undefined) {
    const options = isOurs(file, workspace) ? { headerRow: 1 } : optionsOf(known, wishes.stated);
    const table = await openTable(file, options);
    refuseIdle(table, wishes.stated);
    if (wishes.skuColumn !== undefined)
      throw new Refusal([
        diagnostic("unknown-option", {
          reason: `--sku-column does nothing here: sources/${known.name}.yaml reads ${file.file}, and says itself which column holds the SKU`,
        }),
      ]);
    return { table, source: known, options, from: { kind: "file" } };
  }
  const options = { ...wishes.stated, chooseRecords };
  const table = await openTable(file, options);
  refuseIdle(table, wishes.stated);
  if (table.sample.length === 0)
    throw new Refusal([diagnostic("no-rows", { path: file.file, columns: table.header.length })]);
  if (named === undefined && wishes.skuColumn === undefined && isSheet(table) && !(await store.isEmpty()))
    return {
      table,
      options,
      source: await sourceFromText("edits", sheetSourceText(table.header, sheetChannel(table, workspace))),
      from: { kind: "sheet" },
    };
  const sample = sampleOf(table);
  const shares = (await store.isEmpty()) ? undefined : beside(sample, await knownValues(store, sample));
  const told = hasUnknownColumn(sample) ? toldBy(sample, await goodsKnownFor(workspace)) : undefined;
  const full = {
    ...sample,
    ...(shares === undefined ? {} : { known: shares }),
    ...(told === undefined ? {} : { told }),
  };
  const proposal = proposalFor(full, table, workspace, wishes.skuColumn);
  const name = named ?? withoutCounter(sourceNameFor(file.file));
  const { currency } = workspace.manifest;
  const remade = async (one: SourceProposal): Promise<Source> => {
    const { kindOf } = withKinds(workspace, kindsIn(one, workspace));
    const { records, sheet } = table;
    const whole = { ...one, records, sheet };
    const first = await sourceFromText(name, proposedSourceText(name, name, currency, whole));
    return sourceFromText(
      name,
      proposedSourceText(name, name, currency, whole, marksIn(first, table, kindOf)),
    );
  };
  return { table, options, source: await remade(proposal), from: { kind: "proposal", proposal, remade } };
}

/** The kinds that a proposal's values show for attributes of the shop's own that nobody has declared. */
export function kindsIn(
  { attributes, channels = [] }: SourceProposal,
  { manifest }: Workspace,
): Readonly<Record<string, AttributeKind>> {
  const declared = manifest.attributes ?? {};
  return ownKinds(
    Object.fromEntries(
      [...attributes, ...channels.flatMap((one) => one.attributes)].flatMap(({ attribute, ownKind }) =>
        ownKind === undefined || isVocabulary(attribute) || Object.hasOwn(declared, attribute)
          ? []
          : [[attribute, ownKind] as const],
      ),
    ),
  );
}

/** The channel that a sheet's words are for: all its rows name the same one, or none. */
function sheetChannel({ header, sample, file }: TableStream, workspace: Workspace): string | undefined {
  const column = header.indexOf(FOR_CHANNEL);
  const named = column < 0 ? [] : sample.map(({ cells }) => (cells[column] ?? "").trim());
  const [channel] = named;
  if (channel === undefined) return undefined;
  const place = {
    file,
    row: sample[named.findIndex((one) => one !== channel)]?.row ?? 2,
    column: FOR_CHANNEL,
  };
  if (named.some((one) => one !== channel) || channel === "")
    throw new Refusal([
      diagnostic(
        "wrong-cell",
        {
          column: FOR_CHANNEL,
          value: named.find((one) => one !== channel) ?? "",
          expected: "the same channel in each row",
        },
        { place },
      ),
    ]);
  if (workspace.channelsInUse.includes(channel)) return channel;
  throw new Refusal([
    diagnostic("channel-not-in-use", { channel, inUse: workspace.channelsInUse }, { place }),
  ]);
}

const isSheet = ({ header, format }: TableStream): boolean =>
  kindOf(format).isSheet === true &&
  header.includes("sku") &&
  header.every((column) => column === "" || isAttributeName(column));

function proposalFor(
  sample: FileSample,
  table: TableStream,
  { manifest, channelsInUse }: Workspace,
  skuColumn: string | undefined,
): SourceProposal {
  const propose = (own: FileSample): SourceProposal =>
    proposeSource(own, manifest.language, manifest.currency);
  return withSku(withChannelColumns(sample, channelsInUse, propose), skuColumn, table);
}

/** The person's own word on which column holds the SKU goes before any guess. */
function withSku(proposal: SourceProposal, column: string | undefined, table: TableStream): SourceProposal {
  if (column === undefined) return proposal;
  if (!table.header.includes(column))
    throw new Refusal([
      diagnostic(
        "unknown-column",
        { column, nearest: nearest(column, table.header) },
        { place: { file: table.file, row: table.headerRow } },
      ),
    ]);
  const sku: ProposedAttribute = {
    attribute: "sku",
    expression: /^[\p{L}_][\p{L}\p{N}_]*$/u.test(column) ? column : `\`${column}\``,
    columns: [column],
    confidence: 1,
    samples: table.sample.slice(0, 3).map(({ cells }) => cells[table.header.indexOf(column)] ?? ""),
    known: true,
  };
  const others = proposal.attributes.filter(
    ({ attribute, columns }) => attribute !== "sku" && !columns.includes(column),
  );
  return { ...proposal, attributes: [sku, ...others], keys: ["sku"], nearKeys: [], mode: "both" };
}
