/** A sheet that explains columns, read cell by cell. */
import { explains, type Explains } from "./headings.js";
import { textAt, type SheetPaper } from "./paper.js";

/** A row that explains a column of the template, cell by cell. */
export interface GuideRow {
  readonly sheet: SheetPaper;
  /** From 0. */
  readonly row: number;
  /** What further columns of rules say: a guide may have a type and a format beside each other. */
  further(): readonly { readonly text: string; readonly column: number }[];
  cell(
    what: Explains,
  ): { readonly text: string; readonly column: number; readonly heading: string } | undefined;
}

/** A sheet that explains columns. */
export interface GuideSheet {
  readonly sheet: SheetPaper;
  readonly rows: readonly GuideRow[];
  readonly needs: readonly string[];
}

const ROWS_LOOKED_AT = 25;

const telling: readonly Explains[] = [
  "meaning",
  "values",
  "need",
  "kind",
  "length",
  "example",
  "items",
  "max",
];

/** Finds the heading of a sheet that explains columns: what names them, and at least one thing said of them. */
function headingOf(sheet: SheetPaper):
  | {
      readonly row: number;
      readonly columns: ReadonlyMap<Explains, number>;
      readonly further: readonly number[];
    }
  | undefined {
  let best: { row: number; columns: Map<Explains, number>; further: number[]; score: number } | undefined;
  for (let row = 0; row < Math.min(ROWS_LOOKED_AT, sheet.rows.length); row++) {
    const columns = new Map<Explains, number>();
    const further: number[] = [];
    let [filled, unknown] = [0, 0];
    (sheet.rows[row] ?? []).forEach((_, column) => {
      const text = textAt(sheet, row, column);
      if (text === "") return;
      filled++;
      const what = explains(text);
      if (what === undefined) unknown++;
      else if (!columns.has(what)) columns.set(what, column);
      // "Field" and "Column" beside each other: the second is what people read.
      else if (what === "code" && !columns.has("label")) columns.set("label", column);
      else if (what === "label" && !columns.has("code")) columns.set("code", column);
      else if (what === "kind" || what === "meaning" || what === "values") further.push(column);
    });
    const names = columns.has("code") || columns.has("label");
    const score = telling.filter((what) => columns.has(what)).length;
    if (!names || score === 0 || filled < 2 || filled > 20 || unknown > filled / 2) continue;
    if (best === undefined || score > best.score) best = { row, columns, further, score };
  }
  return best;
}

/** Reads a sheet that explains columns; undefined where it is none. */
export function guideSheet(sheet: SheetPaper): GuideSheet | undefined {
  const heading = headingOf(sheet);
  if (heading === undefined) return undefined;
  const { columns, further } = heading;
  const rows: GuideRow[] = [];
  for (let row = heading.row + 1; row < sheet.rows.length; row++) {
    const named = [columns.get("code"), columns.get("label")].some(
      (column) => column !== undefined && textAt(sheet, row, column) !== "",
    );
    if (!named) continue;
    rows.push({
      sheet,
      row,
      further: () =>
        further
          .map((column) => ({ text: textAt(sheet, row, column), column }))
          .filter(({ text }) => text !== ""),
      cell(what) {
        const column = columns.get(what);
        if (column === undefined) return undefined;
        return { text: textAt(sheet, row, column), column, heading: textAt(sheet, heading.row, column) };
      },
    });
  }
  if (rows.length < 2) return undefined;
  const need = columns.get("need");
  return { sheet, rows, needs: need === undefined ? [] : rows.map(({ row }) => textAt(sheet, row, need)) };
}
