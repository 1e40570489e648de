import { sampleOfTrees } from "../../core/catalogue/proposal/structure.js";
import type { FileSample } from "../../core/catalogue/proposal/source-proposal.js";
import type { TableStream } from "../../formats/table-stream.js";
import { REASON_COLUMN } from "./rejected-rows.js";

/** What the first rows or records of a file show. */
export function sampleOf(table: TableStream): FileSample {
  return table.trees === undefined
    ? {
        header: table.header.map((column, at) =>
          column === REASON_COLUMN || table.hidden?.has(at) === true ? "" : column,
        ),
        rows: table.sample.map(({ cells }) => cells),
      }
    : sampleOfTrees(table.trees);
}
