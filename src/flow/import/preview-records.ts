/** What the first rows of a file become by a source, so that a person sees whether it reads them right. */
import { rowReader } from "../../core/catalogue/row-reader.js";
import { isUnread } from "../../core/catalogue/record.js";
import type { Surroundings } from "../../core/language/function.js";
import type { TableStream } from "../../formats/table-stream.js";
import type { PlannedColumn } from "../../store/store.js";
import type { Source } from "../../workspace/source-files.js";
import { readingFor } from "../../workspace/source-reading.js";
import type { Workspace } from "../../workspace/workspace.js";

/** What one of a file's first rows would become. */
export interface PreviewedRecord {
  readonly row: number;
  readonly kind: "product" | "group";
  readonly values: readonly { readonly attribute: string; readonly text: string }[];
}

const SHOWN = 3;

const shownName = (column: PlannedColumn | undefined): string =>
  column?.channel === undefined ? (column?.attribute ?? "") : `${column.attribute} for ${column.channel}`;

/** What the first records of a file become by a source. */
export function previewRecords(
  source: Source,
  table: TableStream,
  workspace: Workspace,
  surroundings: Surroundings,
): readonly PreviewedRecord[] {
  const reader = rowReader(readingFor(source, table, workspace, surroundings).reading);
  const found: PreviewedRecord[] = [];
  for (const { row, cells, fault } of table.sample) {
    if (found.length === SHOWN) break;
    if (fault !== undefined) continue;
    const read = reader.read(row, cells);
    if (read.kind !== "product" && read.kind !== "group") continue;
    const values = read.texts.flatMap((text, at) =>
      text === "" || isUnread(text) ? [] : [{ attribute: shownName(reader.attributes[at]), text }],
    );
    found.push({ row, kind: read.kind, values });
  }
  return found;
}
