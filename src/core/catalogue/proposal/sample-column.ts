import { columnName, type ColumnName } from "./column-name.js";
import { columnShape, type ColumnShape } from "./column-shape.js";
import type { FileSample, KnownShares, ToldShares } from "./source-proposal.js";

/** One column of a sample: what its name and its values say. */
export interface SampleColumn {
  readonly index: number;
  readonly column: string;
  /** Its name as it is read: with what stands above it, parted by ` / `. */
  readonly label: string;
  readonly name: ColumnName;
  readonly shape: ColumnShape;
  /** Its cells in the rows that were looked at. */
  readonly cells: readonly string[];
  /** Shares of its values that the catalogue knows under an attribute. */
  readonly known: KnownShares;
  /** Shares of its values that are words for a colour or a material. */
  readonly told: ToldShares | undefined;
}

const LOOKED_AT = 400;

/** The columns of a sample, each with what its cells and the catalogue say. */
export function sampleColumns({ header, rows, labels, known, told }: FileSample): readonly SampleColumn[] {
  const looked = rows.slice(0, LOOKED_AT);
  return header.flatMap((column, index) => {
    if (column === "") return [];
    const cells = looked.map((row) => row[index] ?? "");
    const label = labels?.[index] ?? column;
    const name = columnName(label);
    const of = { known: known?.[index] ?? {}, told: told?.[index], shape: columnShape(cells) };
    return [{ index, column, label, name, cells, ...of }];
  });
}
