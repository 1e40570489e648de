/** Rows of a channel's export, by the layout's columns. */
import { basename } from "node:path";
import { groupFieldOf } from "../../core/channel/group-model.js";
import type { ChannelDefinition } from "../../core/channel/definition.js";
import type { LiveLayout } from "../../core/channel/exchange-definition.js";
import type { LayoutDefinition } from "../../core/channel/layout-definition.js";
import { columnPlace, readBack } from "../../core/channel/layout-formats/layout-formats.js";
import { recordFormat, type ReadAs } from "../../core/channel/record-format.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { fileSource } from "../../formats/byte-source.js";
import { openTable } from "../../formats/open-table.js";

/** One listing of a channel's export: cells by the layout's column names, as they came. */
export interface LiveRow {
  readonly row: number;
  readonly isGroup: boolean;
  /** By what the channel calls it; for a group's own row the group's reference. */
  readonly reference: string;
  readonly id: string;
  readonly cells: Readonly<Record<string, string>>;
}

/** The layout whose columns an export has. */
export function liveLayoutOf({ layouts, exchange }: ChannelDefinition): LayoutDefinition {
  const name = exchange?.live?.layout ?? exchange?.send.layout;
  const found = layouts.find((one) => one.name === name) ?? layouts[0];
  if (found === undefined) throw new Error("a definition has a layout");
  return found;
}

/** An export's rows are like those of the files: where both are of one format, its separator is theirs. */
function readAs({ format, records }: LiveLayout, layout: LayoutDefinition): ReadAs {
  const own = recordFormat(format).readAs;
  const ours = layout.format === format ? readBack(layout) : undefined;
  return {
    ...own,
    delimiter: own.delimiter ?? ours?.delimiter,
    records: records === "" ? undefined : records.split("/").filter(Boolean).join("/"),
  };
}

/**
 * Reads a channel's export of live listings.
 * @throws Refusal where the column with our reference is not there, or the file is not whole
 */
export async function* liveRows(
  path: string,
  definition: ChannelDefinition,
  live: LiveLayout,
): AsyncGenerator<readonly LiveRow[]> {
  const layout = liveLayoutOf(definition);
  const groupField = groupFieldOf(definition.groups);
  const source = await fileSource(path, basename(path));
  try {
    const table = await openTable(source, readAs(live, layout));
    const columns = layout.columns.flatMap((column) => {
      const at = table.column(columnPlace(layout, column));
      return at === undefined ? [] : [{ ...column, at }];
    });
    const place = (code: string | undefined): number | undefined =>
      columns.find(({ field }) => field.code === code)?.at;
    const [ref, group] = [place(definition.identifiedBy), place(groupField)];
    if (ref === undefined)
      throw new Refusal([
        diagnostic(
          "unknown-column",
          {
            column: layout.columns.find(({ field }) => field.code === definition.identifiedBy)?.name ?? "",
            nearest: [],
          },
          { place: { file: table.file, row: table.headerRow } },
        ),
      ]);
    const optional = (name: string): number | undefined => (name === "" ? undefined : table.column(name));
    const [id, kind] = [optional(live.id), optional(live.kind)];
    for await (const batch of table.batches)
      yield batch.flatMap(({ row, cells, fault }): readonly LiveRow[] => {
        if (fault !== undefined) throw new Refusal([fault]);
        const cell = (at: number | undefined): string => (at === undefined ? "" : (cells[at] ?? ""));
        const isGroup = kind !== undefined && cell(kind) === live.groupKind;
        const reference = (isGroup ? cell(ref) || cell(group) : cell(ref)).trim();
        if (reference === "") return [];
        const own = new Map<string, string>();
        for (const { name, at } of columns) if (cell(at) !== "") own.set(name, cell(at));
        return [{ row, isGroup, reference, id: cell(id).trim(), cells: Object.fromEntries(own) }];
      });
  } finally {
    await source.close();
  }
}
