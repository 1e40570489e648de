/** Plain tables, as wide as the terminal at most. */
import type { Io } from "../io/io.js";
import { fitWidth, textWidth } from "./text-width.js";

/** A column, and how it gives way. */
export interface TableColumn {
  readonly title: string;
  readonly align?: "left" | "right";
  /** The first to give way where the terminal is narrow. */
  readonly flexible?: boolean;
}

const GAP = "  ";
/** So narrow may a column of each kind become, in the order in which they give way. */
const FLEXIBLE = 14;
const FIXED = 12;
const LEAST = 5;

/** Where a table is shown: a terminal cuts it to its width; a pipe or file has every cell whole, so that nothing is lost to who searches it. */
export type TableRoom = Pick<Io, "columns" | "isTerminal">;

/** A text of one line that gives way as a table's cells do. */
export const oneLine = (text: string, { columns, isTerminal }: TableRoom): string =>
  fitWidth(text, isTerminal ? columns : Infinity);

interface Sized {
  own: number;
  readonly least: number;
}

/** Takes what is too much from the widest first, down to what each can spare. */
function narrow(columns: readonly Sized[], tooMuch: number): number {
  let left = tooMuch;
  while (left > 0) {
    const widest = columns.reduce<Sized | undefined>(
      (best, one) => (one.own > one.least && one.own > (best?.own ?? 0) ? one : best),
      undefined,
    );
    if (widest === undefined) break;
    widest.own--;
    left--;
  }
  return left;
}

function widthsFor(
  columns: readonly TableColumn[],
  rows: readonly (readonly string[])[],
  room: number,
): readonly number[] {
  const needed = columns.map((_, index) =>
    rows.reduce((most, row) => Math.max(most, textWidth(row[index] ?? "")), 0),
  );
  const widths = columns.map(({ title }, index) => Math.max(textWidth(title), needed[index] ?? 0));
  const sizes = widths.map((own) => ({ own, least: own }));
  const among = (
    belongs: (column: TableColumn) => boolean,
    least: (index: number) => number,
  ): readonly Sized[] =>
    columns.flatMap((column, index) => {
      const size = sizes[index];
      if (size === undefined || !belongs(column)) return [];
      return [
        {
          get own() {
            return size.own;
          },
          set own(width) {
            size.own = width;
          },
          least: least(index),
        },
      ];
    });
  const isText = ({ align }: TableColumn): boolean => align !== "right";
  let left = widths.reduce((sum, own) => sum + own, 0) + GAP.length * (columns.length - 1) - room;
  left = narrow(
    among(
      ({ flexible }) => flexible === true,
      () => FLEXIBLE,
    ),
    left,
  );
  // A number's heading may be cut, the number itself never.
  left = narrow(
    among(
      (column) => !isText(column),
      (index) => needed[index] ?? 0,
    ),
    left,
  );
  left = narrow(
    among(isText, () => FIXED),
    left,
  );
  narrow(
    among(isText, () => LEAST),
    left,
  );
  return sizes.map(({ own }) => own);
}

/** A plain table as lines, on a terminal as wide as it is at most: flexible columns give way first, widest first. */
export function tableLines(
  columns: readonly TableColumn[],
  rows: readonly (readonly string[])[],
  { columns: room, isTerminal }: TableRoom,
): readonly string[] {
  const widths = widthsFor(columns, rows, isTerminal ? room : Infinity);
  const line = (cells: readonly string[]): string =>
    cells
      .map((cell, index) => {
        const own = widths[index] ?? 0;
        const fitted = fitWidth(cell, own);
        const padding = " ".repeat(Math.max(0, own - textWidth(fitted)));
        return columns[index]?.align === "right" ? padding + fitted : fitted + padding;
      })
      .join(GAP)
      .trimEnd();
  return [line(columns.map(({ title }) => title)), ...rows.map(line)];
}
