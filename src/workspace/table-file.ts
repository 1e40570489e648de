import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { TableRow } from "../core/channel/definition-source.js";
import { cleanText } from "../core/values/text.js";
import { fileSource } from "../formats/byte-source.js";
import { openCsv } from "../formats/csv-reader.js";
import { refuseRepeatedColumns } from "../formats/table-stream.js";

/** A decision or definition table as rows of named cells. Lines whose first cell starts with # are comments. */
export async function readTable(
  path: string,
  file: string,
  required: readonly string[],
): Promise<readonly TableRow[]> {
  const table = await openCsv(await fileSource(path, file), { headerRow: 1 });
  refuseRepeatedColumns(table);
  const { header } = table;
  const missing = required.filter((column) => !header.includes(column));
  if (missing.length > 0)
    throw new Refusal(
      missing.map((column) => diagnostic("missing-column", { column }, { place: { file, row: 1 } })),
    );
  const at = new Map(header.map((column, index) => [column, index]));
  const rows: TableRow[] = [];
  for await (const batch of table.batches)
    for (const { row, cells, fault } of batch) {
      if (fault !== undefined) throw new Refusal([fault]);
      if (cells[0]?.trimStart().startsWith("#") === true) continue;
      rows.push({
        cell: (column) => cleanText(cells[at.get(column) ?? -1] ?? ""),
        place: (column) => ({ file, row, ...(column === undefined ? {} : { column }) }),
      });
    }
  return rows;
}
