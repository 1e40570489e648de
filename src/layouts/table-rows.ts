/** Families as rows of cells, and the rows above them. */
import type {
  LayoutColumn,
  MarkColumn,
  TsvLayout,
  CsvLayout,
  XlsxLayout,
} from "../core/channel/layout-definition.js";
import { rowsOf, type FileFamily, type FileRow } from "../core/listing/shape/file-family.js";
import type { MaybeBlank } from "../core/values/value.js";
import { cellTexts } from "./cell-text.js";

type TableLayout = CsvLayout | TsvLayout | XlsxLayout;

type CellWriter = (row: FileRow) => string;

function fieldWriter(column: LayoutColumn, { style, joinedBy, escape }: TableLayout): CellWriter {
  const { field, item } = column;
  const mark = column.joinedBy ?? joinedBy;
  const alone = { ...column, joinedBy: undefined };
  const write = (value: MaybeBlank): string => {
    const texts = cellTexts(value, alone, style);
    // A list of one is read as a list, too: its mark is escaped like any other's.
    if (!field.list || item !== undefined || escape === "") return texts.join(mark);
    return texts
      .map((text) => text.replaceAll(escape, escape + escape).replaceAll(mark, escape + mark))
      .join(mark);
  };
  // Prices and weights that repeat are the same objects: their texts are made once.
  const known = new WeakMap<object, string>();
  return (row) => {
    const value = row.value(field);
    if (value === undefined) return "";
    if (typeof value === "string") return field.list ? write(value) : value;
    if (typeof value !== "object") return write(value);
    const text = known.get(value);
    if (text !== undefined) return text;
    const written = write(value);
    known.set(value, written);
    return written;
  };
}

function markWriter({ says }: MarkColumn, { kinds }: TableLayout, action: string): CellWriter {
  if (says === "action") return () => action;
  if (says === "nothing") return () => "";
  return ({ kind }) => {
    if (kind === "group") return kinds.group;
    return kind === "single" ? kinds.single : kinds.member;
  };
}

/** Writes a family's rows as cells. */
export function tableRows(
  layout: TableLayout,
  action: string,
): (family: FileFamily) => readonly (readonly string[])[] {
  const writers = layout.cells.map((cell) =>
    "field" in cell ? fieldWriter(cell, layout) : markWriter(cell, layout, action),
  );
  return (family) => rowsOf(family).map((row) => writers.map((write) => write(row)));
}

/** The rows above the listings. */
export function headRows({ head, cells }: TableLayout): readonly (readonly string[])[] {
  return head.map((row) => {
    if (row === "codes") return cells.map(({ name }) => name);
    if (row === "labels") return cells.map((cell) => ("field" in cell ? cell.field.label : cell.name));
    return row;
  });
}
