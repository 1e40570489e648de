/** Rows of a channel's report, and which of ours each speaks of. */
import { basename } from "node:path";
import type { ChannelDefinition, ResultLayout } from "../../core/channel/definition.js";
import type { LayoutDefinition } from "../../core/channel/layout-definition.js";
import { columnPlace, readBack } from "../../core/channel/layout-formats/layout-formats.js";
import { recordFormat } from "../../core/channel/record-format.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { fold } from "../../core/values/text.js";
import { fileSource } from "../../formats/byte-source.js";
import { openTable } from "../../formats/open-table.js";
import type { TableStream } from "../../formats/table-stream.js";

/** What a report says of one row of a file. */
export interface ReportRow {
  readonly reference: string;
  /** The row of the file; undefined where the report does not say it. */
  readonly row: number | undefined;
  readonly isAccepted: boolean;
  readonly id: string;
  readonly code: string;
  readonly message: string;
  /** As the channel names it. */
  readonly field: string;
}

/** Where a report's records and their columns stand: `/hall/lot/number` is the column number of the record hall/lot. */
function placesIn(results: ResultLayout) {
  const { format, ref } = results;
  const records = recordFormat(format).isTree
    ? ref.split("/").filter(Boolean).slice(0, -1).join("/")
    : undefined;
  return {
    records,
    within: (path: string): string =>
      records === undefined ? path : path.replace(/^\//, "").slice(records.length + 1),
  };
}

function columnOf(table: TableStream, name: string): number {
  const found = table.column(name);
  if (found !== undefined) return found;
  throw new Refusal([
    diagnostic(
      "unknown-column",
      { column: name, nearest: [] },
      { place: { file: table.file, row: table.headerRow } },
    ),
  ]);
}

const MOST_MESSAGE = 1000;

/** Reads a channel's result report. @throws Refusal where it is not of the layout that the definition says */
export async function* reportRows(path: string, results: ResultLayout): AsyncGenerator<readonly ReportRow[]> {
  const { records, within } = placesIn(results);
  const source = await fileSource(path, basename(path));
  // A report's head may stand below a preface: it is looked for.
  const table = await openTable(source, {
    ...recordFormat(results.format).readAs,
    headerRow: undefined,
    records,
  });
  const [ref, state] = [columnOf(table, within(results.ref)), columnOf(table, within(results.state))];
  // A report without a fault has none of these, in a tree.
  const optional = (name: string | undefined): number | undefined =>
    name === undefined || name === "" ? undefined : table.column(within(name));
  const [code, message] = [optional(results.code), optional(results.message)];
  const [row, id, field] = [optional(results.row), optional(results.id), optional(results.field)];
  const accepted = new Set(results.accepted.map(fold));
  try {
    for await (const batch of table.batches)
      yield batch.map(({ cells, fault }): ReportRow => {
        if (fault !== undefined) throw new Refusal([fault]);
        const cell = (column: number | undefined): string =>
          column === undefined ? "" : (cells[column] ?? "").trim().slice(0, MOST_MESSAGE);
        const number = cell(row);
        return {
          reference: cell(ref),
          row: /^\d{1,9}$/.test(number) ? Number(number) : undefined,
          isAccepted: accepted.has(fold(cell(state))),
          id: cell(id),
          code: cell(code),
          message: cell(message),
          field: cell(field),
        };
      });
  } finally {
    await source.close();
  }
}

/** The field that a channel means by the name of a column, a label or a code; "" for none. */
export function fieldMeant(
  name: string,
  { fields }: ChannelDefinition,
  layout: LayoutDefinition | undefined,
): string {
  if (name === "") return "";
  const folded = fold(name);
  const column = layout?.columns.find((one) => fold(one.name) === folded);
  return (
    column?.field.code ??
    fields.find(({ code, label }) => fold(code) === folded || fold(label) === folded)?.code ??
    ""
  );
}

/** Rows of a file as it was sent, by their numbers: what stood in the column with our reference. */
export async function sentReferences(
  path: string,
  definition: ChannelDefinition,
  layout: LayoutDefinition | undefined,
): Promise<ReadonlyMap<number, string>> {
  const found = new Map<number, string>();
  const column = layout?.columns.find(({ field }) => field.code === definition.identifiedBy);
  const form = layout === undefined ? undefined : readBack(layout);
  if (layout === undefined || column === undefined || form === undefined) return found;
  const source = await fileSource(path, basename(path));
  try {
    const table = await openTable(source, form);
    const at = table.column(columnPlace(layout, column)) ?? table.column(column.field.label);
    if (at === undefined) return found;
    for await (const batch of table.batches)
      for (const { row, cells } of batch) {
        const reference = (cells[at] ?? "").trim();
        if (reference !== "") found.set(row, reference);
      }
  } finally {
    await source.close();
  }
  return found;
}
