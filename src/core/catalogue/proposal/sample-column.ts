import { columnName, type ColumnName } from "./column-name.js";
import { columnShape, type ColumnShape } from "./column-shape.js";
import type { FileSample, KnownShares, ToldShares } from "./source-proposal.js";

/** One column of a sample: what its name and its values say. */
export interface SampleColumn {
  readonly index: number;
  readonly column: string;
  readonly name: ColumnName;
  readonly shape: ColumnShape;
  /** Shares of its values that the catalogue knows under an attribute. */
  readonly known: KnownShares;
  /** Shares of its values that are words for a colour or a material. */
  readonly told: ToldShares | undefined;
}

const LOOKED_AT = 400;

/** The columns of a sample, each with what its cells and the catalogue say. */
export function sampleColumns({ header, rows, labels, known, told }: FileSample): readonly SampleColumn[] {
  return header.flatMap((column, index) =>
    column === ""
      ? []
      : [
          {
            index,
            column,
            name: columnName(labels?.[index] ?? column),
            known: known?.[index] ?? {},
            told: told?.[index],
            shape: columnShape(rows.slice(0, LOOKED_AT).map((cells) => cells[index] ?? "")),
          },
        ],
  );
}
