import {
  blankCell,
  type PaperCell,
  type SheetPaper,
  type SheetRule,
  type TreeNode,
  type TreePaper,
} from "../../src/core/learning/paper.js";

/** A cell as a text, or with what else it shows. */
export type CellWish = string | Partial<PaperCell>;

const cellOf = (wish: CellWish): PaperCell =>
  typeof wish === "string" ? { ...blankCell, text: wish } : { ...blankCell, ...wish };

/** A sheet of cells; a table of its own where it has no name. */
export const sheetOf = (
  rows: readonly (readonly CellWish[])[],
  more: Partial<SheetPaper> = {},
): SheetPaper => ({
  paper: "sheet",
  file: "channel.xlsx",
  sheet: "Goods",
  isHidden: false,
  isProtected: false,
  rows: rows.map((row) => row.map(cellOf)),
  merges: [],
  rules: [],
  frozenRows: 0,
  form: undefined,
  ...more,
});

export const tableOf = (rows: readonly (readonly string[])[], file = "table.csv"): SheetPaper =>
  sheetOf(rows, {
    file,
    sheet: "",
    form: { separator: ",", encoding: "utf-8", startsWithMark: false, lineEnd: "\n" },
  });

/** A drop-down in one column, from a row on; both from 0. */
export const dropDown = (column: number, firstRow: number, values: readonly string[]): SheetRule => ({
  firstColumn: column,
  lastColumn: column,
  firstRow,
  kind: "list",
  operator: "between",
  first: "",
  second: "",
  values,
  hangs: undefined,
  isOpen: false,
  message: "",
});

export const node = (
  name: string,
  attributes: Readonly<Record<string, string>>,
  children: readonly TreeNode[] = [],
  text = "",
): TreeNode => ({ name, attributes: new Map(Object.entries(attributes)), children, text, line: 1 });

export const treeOf = (root: TreeNode, file = "channel.xml"): TreePaper => ({
  paper: "tree",
  file,
  format: "xml",
  root,
  json: undefined,
});
