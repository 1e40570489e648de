import { fitWidth, textWidth } from "./text-width.js";

export interface TableColumn {
  readonly title: string;
  readonly align?: "left" | "right";
  /** May be cut to fit the terminal; others never are. */
  readonly flexible?: boolean;
}

const GAP = "  ";

/** A plain table as lines, as wide as the terminal at most: flexible columns give way, widest first. */
export const tableLines = (
  columns: readonly TableColumn[],
  rows: readonly (readonly string[])[],
  width: number,
): readonly string[] => {
  const widths = columns.map(({ title }, index) =>
    Math.max(textWidth(title), ...rows.map((row) => textWidth(row[index] ?? ""))),
  );
  const total = (): number => widths.reduce((sum, own) => sum + own, 0) + GAP.length * (columns.length - 1);
  while (total() > width) {
    const [widest] = columns
      .map(({ flexible }, index) => ({ index, own: flexible === true ? (widths[index] ?? 0) : 0 }))
      .sort((a, b) => b.own - a.own);
    if (widest === undefined || widest.own <= 8) break;
    widths[widest.index] = widest.own - 1;
  }
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
};
