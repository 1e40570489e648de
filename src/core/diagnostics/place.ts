/** Where a finding points: a text file with line and column, or a data file with row and column name. All count from 1. */
export interface Place {
  readonly file: string;
  readonly line?: number;
  readonly position?: number;
  readonly row?: number;
  readonly column?: string;
}

/** `sources/shop.yaml:4:9`, or `shop.csv, row 12, column "Price"`. */
export function placeText({ file, line, position, row, column }: Place): string {
  if (line !== undefined) return `${file}:${line}${position === undefined ? "" : `:${position}`}`;
  const parts = [file];
  if (row !== undefined) parts.push(`row ${row}`);
  if (column !== undefined) parts.push(`column "${column}"`);
  return parts.join(", ");
}

/** A column's name in a spreadsheet: 0 is A, 26 is AA. */
export const columnLetter = (index: number): string =>
  (index >= 26 ? columnLetter(Math.floor(index / 26) - 1) : "") + String.fromCharCode(65 + (index % 26));

/** The number of a column from 0, by its letters or a cell's reference: A and A7 are 0. */
export function columnNumber(reference: string): number {
  let column = 0;
  for (const letter of /^[A-Z]{1,3}/i.exec(reference)?.[0].toUpperCase() ?? "")
    column = column * 26 + letter.charCodeAt(0) - 64;
  return column - 1;
}
