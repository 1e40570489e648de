import { sampleOfTrees } from "../../core/catalogue/proposal/structure.js";
import type { FileSample } from "../../core/catalogue/proposal/source-proposal.js";
import type { TableStream } from "../../formats/table-stream.js";
import { nextTable, repeatsHeader } from "./faulty-rows.js";
import { REASON_COLUMN } from "./rejected-rows.js";

/** The first rows that are the table's own: none of a table below it, and no heading that comes again. */
function rowsOf(table: TableStream): readonly (readonly string[])[] {
  let above = 0;
  const own: (readonly string[])[] = [];
  const next = nextTable(table);
  for (const record of table.sample) {
    if (next(record, above)) break;
    above = record.row;
    if (!repeatsHeader(record, table)) own.push(record.cells);
  }
  return own;
}

/** What the first rows or records of a file show. */
export function sampleOf(table: TableStream): FileSample {
  return table.trees === undefined
    ? {
        header: table.header.map((column, at) =>
          column === REASON_COLUMN || table.hidden?.has(at) === true ? "" : column,
        ),
        rows: rowsOf(table),
        ...(table.headings === undefined
          ? {}
          : { labels: table.headings.map(([above, own]) => (above === "" ? own : `${above} / ${own}`)) }),
      }
    : sampleOfTrees(table.trees);
}
