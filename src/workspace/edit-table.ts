/** Changes rows of a decision table and nothing else of it. */
import { ownOf } from "../core/own.js";
import { lineAsItIs, neutral } from "../formats/csv-writer.js";
import { ownForm, rawRecords, tableBytes, tableText } from "../formats/table-form.js";
import type { Landing } from "./landing/landing.js";

/** A row to be written: cells by column; columns that it does not name stay as they are. */
export type TableEdit = Readonly<Record<string, string>>;

/** Rows to be set, and how they are known. */
export interface TableEdits {
  readonly columns: readonly string[];
  /** The columns by which a row is known. */
  readonly keys: readonly string[];
  readonly edits: readonly TableEdit[];
  /** Rows that go, where they are still as written here. */
  readonly gone?: readonly TableEdit[];
}

/**
 * Sets rows of a small decision table: a row with the same key is changed in its place, others are added at the end.
 * Comments, order, and columns of the person's own stay, and so does the form that their spreadsheet gave it.
 */
export const editTable = (landing: Landing, path: string, edits: TableEdits): Promise<void> =>
  landing.edit(path, (before) => editedTable(before, edits));

/** A table's bytes with rows set in them; without any, a table of our own form. */
export function editedTable(
  before: Buffer | undefined,
  { columns, keys, edits, gone = [] }: TableEdits,
): Buffer {
  const { text, form } =
    before === undefined || before.length === 0 ? { text: "", form: ownForm } : tableText(before);
  const [head, ...rest] = rawRecords(text, form.delimiter);
  const header = (head?.cells ?? columns).map((name) => name.trim());
  const added = columns.filter((column) => !header.includes(column));
  const all = [...header, ...added];
  const newLine = (cells: readonly string[]): string => lineAsItIs(cells, form.delimiter, form.lineEnd);
  const at = new Map(header.map((column, index) => [column, index]));
  const keyOf = (cell: (column: string) => string): string =>
    keys.map((key) => cell(key).trim()).join("\u0000");
  const waiting = new Map(edits.map((edit) => [keyOf((column) => ownOf(edit, column) ?? ""), edit]));
  const changed = rest.map((record): string => {
    const { cells, lineEnd } = record;
    const cell = (column: string): string => cells[at.get(column) ?? -1] ?? "";
    if (record.text.trim() === "" || (cells[0] ?? "").trimStart().startsWith("#")) return record.text;
    if (gone.some((row) => Object.entries(row).every(([column, value]) => cell(column).trim() === value)))
      return "";
    const key = keyOf(cell);
    const edit = waiting.get(key);
    if (edit === undefined) return record.text;
    waiting.delete(key);
    const values = all.map((column, index) => {
      const value = ownOf(edit, column);
      return value === undefined ? (cells[index] ?? "") : neutral(value);
    });
    return lineAsItIs(values, form.delimiter, lineEnd);
  });
  const lines = [
    head === undefined || added.length > 0 ? newLine(all) : head.text,
    ...changed.filter((line) => line !== ""),
  ];
  const last = lines.at(-1) ?? "";
  if (!/[\r\n]$/.test(last)) lines[lines.length - 1] = last + form.lineEnd;
  const appended = [...waiting.values()].map((edit) =>
    newLine(all.map((column) => neutral(ownOf(edit, column) ?? ""))),
  );
  return tableBytes([...lines, ...appended].join(""), form);
}
