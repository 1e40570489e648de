import { columnName, type ColumnName } from "./column-name.js";
import { columnShape, type ColumnShape } from "./column-shape.js";
import type { FileSample } from "./source-proposal.js";

/** One column of a sample: what its name and its values say. */
export interface SampleColumn {
  readonly index: number;
  readonly column: string;
  readonly name: ColumnName;
  readonly shape: ColumnShape;
}

const LOOKED_AT = 400;

export const sampleColumns = ({ header, rows }: FileSample): readonly SampleColumn[] =>
  header.flatMap((column, index) =>
    column === ""
      ? []
      : [
          {
            index,
            column,
            name: columnName(column),
            shape: columnShape(rows.slice(0, LOOKED_AT).map((cells) => cells[index] ?? "")),
          },
        ],
  );
