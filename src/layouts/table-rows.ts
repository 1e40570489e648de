import type {
  LayoutColumn,
  MarkColumn,
  TsvLayout,
  CsvLayout,
  XlsxLayout,
} from "../core/channel/layout-definition.js";
import { rowsOf, type FileFamily, type FileRow } from "../core/listing/shape/file-family.js";
import { cellTexts } from "./cell-text.js";

type TableLayout = CsvLayout | TsvLayout | XlsxLayout;

const fieldText = (row: FileRow, column: LayoutColumn, { style, joinedBy, escape }: TableLayout): string => {
  const value = row.value(column.field);
  const mark = column.joinedBy ?? joinedBy;
  const texts = cellTexts(value, { ...column, joinedBy: undefined }, style);
  // A list of one is read as a list, too: its mark is escaped like any other's.
  if (!column.field.list || column.item !== undefined || escape === "") return texts.join(mark);
  return texts
    .map((text) => text.replaceAll(escape, escape + escape).replaceAll(mark, escape + mark))
    .join(mark);
};

const markText = (row: FileRow, { says }: MarkColumn, { kinds }: TableLayout, action: string): string => {
  if (says === "action") return action;
  if (row.kind === "group") return kinds.group;
  return row.kind === "single" ? kinds.single : kinds.member;
};

/** A family's rows as cells. */
export const tableRows = (
  family: FileFamily,
  layout: TableLayout,
  action: string,
): readonly (readonly string[])[] =>
  rowsOf(family).map((row) =>
    layout.cells.map((cell) =>
      "field" in cell ? fieldText(row, cell, layout) : markText(row, cell, layout, action),
    ),
  );

/** The rows above the listings. */
export const headRows = ({ head, cells }: TableLayout): readonly (readonly string[])[] =>
  head.map((row) => {
    if (row === "codes") return cells.map(({ name }) => name);
    if (row === "labels") return cells.map((cell) => ("field" in cell ? cell.field.label : cell.name));
    return row;
  });
