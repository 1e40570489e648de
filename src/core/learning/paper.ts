/** What a channel hands out, as far as it is read without understanding it: sheets of cells, trees, lines of text. */
export type Paper = SheetPaper | TreePaper;

/** A cell as whoever fills the sheet sees it. */
export interface PaperCell {
  readonly text: string;
  /** Its background and its letters' colour, six digits; "" where it has none of its own. */
  readonly fill: string;
  readonly ink: string;
  readonly isBold: boolean;
  /** The note that hangs on it. */
  readonly note: string;
}

/** A cell with nothing in it. */
export const blankCell: PaperCell = { text: "", fill: "", ink: "", isBold: false, note: "" };

/** Cells merged into one; all counted from 0, ends included. */
export interface Merged {
  readonly row: number;
  readonly column: number;
  readonly lastRow: number;
  readonly lastColumn: number;
}

/** What a sheet lets people enter in some of its cells. */
export interface SheetRule {
  /** Counted from 0, ends included. */
  readonly firstColumn: number;
  readonly lastColumn: number;
  readonly firstRow: number;
  readonly kind: "list" | "whole" | "decimal" | "date" | "length" | "other";
  readonly operator: string;
  /** Bounds as they are written; for a list what names its values. */
  readonly first: string;
  readonly second: string;
  readonly values: readonly string[];
  /** Lists that hang on the value of another column. */
  readonly hangs: Hanging | undefined;
  /** Whether another value is taken after a warning. */
  readonly isOpen: boolean;
  readonly message: string;
}

/** A drop-down whose list hangs on what stands in another column. */
export interface Hanging {
  /** From 0. */
  readonly column: number;
  readonly lists: readonly { readonly when: string; readonly values: readonly string[] }[];
}

/** A sheet, or a table of a file, with all that it shows. */
export interface SheetPaper {
  readonly paper: "sheet";
  readonly file: string;
  /** "" where the file is a table itself. */
  readonly sheet: string;
  readonly isHidden: boolean;
  readonly isProtected: boolean;
  readonly rows: readonly (readonly PaperCell[])[];
  readonly merges: readonly Merged[];
  readonly rules: readonly SheetRule[];
  /** Rows that stay when one scrolls. */
  readonly frozenRows: number;
  /** How the file is written, where it is a text. */
  readonly form: TextForm | undefined;
}

/** How a table of text was written. */
export interface TextForm {
  readonly separator: string;
  readonly encoding: "utf-8" | "utf-16le" | "windows-1252";
  readonly startsWithMark: boolean;
  readonly lineEnd: "\n" | "\r\n";
}

/** A piece of XML or JSON. */
export interface TreeNode {
  readonly name: string;
  readonly attributes: ReadonlyMap<string, string>;
  readonly children: readonly TreeNode[];
  readonly text: string;
  /** From 1; 0 where it is not known. */
  readonly line: number;
}

/** A document of XML or JSON. */
export interface TreePaper {
  readonly paper: "tree";
  readonly file: string;
  readonly format: "xml" | "json";
  readonly root: TreeNode;
  /** A JSON document as it stands. */
  readonly json: unknown;
}

/** A cell by row and column from 0; blank where there is none. */
export const cellAt = (sheet: SheetPaper, row: number, column: number): PaperCell =>
  sheet.rows[row]?.[column] ?? blankCell;

/** Its text. */
export const textAt = (sheet: SheetPaper, row: number, column: number): string =>
  cellAt(sheet, row, column).text.trim();

/** How people are told of a sheet. */
export const paperName = ({ file, sheet }: SheetPaper): string =>
  sheet === "" ? file : `${file}, sheet "${sheet}"`;
