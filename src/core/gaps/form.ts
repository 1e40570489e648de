/** What a cell of a form is to the person who fills it in. */
export type CellRole =
  /** Read by the program alone. */
  | "key"
  | "title"
  | "rule"
  /** Helps to decide; cannot be changed. */
  | "fixed"
  /** To be filled in. */
  | "open"
  /** What counts for every open cell below. */
  | "for-all"
  /** Nothing is wanted here. */
  | "idle"
  /** What stands there now, and is wrong. */
  | "now"
  | "proposal";

/** A cell of a form. */
export interface FormCell {
  readonly text: string;
  readonly role: CellRole;
  readonly note?: string;
  readonly link?: string;
}

/** Cells of one column that take one of some values. */
export interface FormChoice {
  readonly column: number;
  /** From 0. */
  readonly rows: readonly number[];
  readonly values: readonly string[];
  /** Whether nothing else is taken. */
  readonly isClosed: boolean;
}

/** A sheet of a form. */
export interface FormSheet {
  readonly name: string;
  readonly columns: readonly { readonly width: number; readonly isHidden?: boolean }[];
  readonly rows: readonly (readonly FormCell[])[];
  /** Heights in points by row, from 0; others are as high as one line. */
  readonly heights: ReadonlyMap<number, number>;
  /** From 0. */
  readonly hiddenRows: readonly number[];
  readonly frozen: { readonly rows: number; readonly columns: number };
  readonly choices: readonly FormChoice[];
}
