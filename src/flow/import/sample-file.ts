import { beside } from "../../core/catalogue/proposal/known-values.js";
import { sampleOfTrees } from "../../core/catalogue/proposal/structure.js";
import type { FileSample } from "../../core/catalogue/proposal/source-proposal.js";
import type { TableStream } from "../../formats/table-stream.js";
import { REASON_COLUMN } from "./rejected-rows.js";

/** What the first rows or records of a file show, beside what the catalogue knows by attribute. */
export const sampleOf = (
  table: TableStream,
  known: Readonly<Record<string, readonly string[]>> | undefined,
): FileSample => {
  const sample: FileSample =
    table.trees === undefined
      ? {
          header: table.header.map((column, at) =>
            column === REASON_COLUMN || table.hidden?.has(at) === true ? "" : column,
          ),
          rows: table.sample.map(({ cells }) => cells),
        }
      : sampleOfTrees(table.trees);
  return known === undefined ? sample : { ...sample, known: beside(sample, known) };
};
