/** The channel's own workbook, its columns found by label or code. */
import type { CategoryField } from "../core/channel/category-rules.js";
import type { ChannelBook, LayoutColumn, XlsxLayout } from "../core/channel/layout-definition.js";
import { columnLetter } from "../core/diagnostics/place.js";
import { fold } from "../core/values/text.js";
import { workbookFill } from "../formats/workbook-fill.js";
import type { Book } from "./xlsx.js";

/** A workbook of the channel's own, filled in place. */
export interface FilledBook extends Book {
  /** Columns that the template has and nobody fills, and fields that it has no column for. */
  readonly told: readonly string[];
}

/** Where a workbook's listings go. */
export type BookPlace = Pick<ChannelBook, "sheet" | "headerRow" | "firstRow" | "examples">;

/** Fills a template: its columns are found by label or code, in whatever order the channel has put them, or by their letter. */
export async function filledBook(
  layout: XlsxLayout,
  { bytes, file, place }: { readonly bytes: Buffer; readonly file: string; readonly place: BookPlace },
  rules: ReadonlyMap<string, CategoryField> | undefined,
  /** Columns that files of another purpose fill. */
  others: readonly XlsxLayout["cells"][number][] = [],
): Promise<FilledBook> {
  const fill = await workbookFill(bytes, file, place);
  const names = (cell: XlsxLayout["cells"][number]): readonly string[] =>
    "field" in cell ? [cell.field.label, cell.name, cell.field.code] : [cell.name];
  const byName = new Map<string, number[]>();
  const byLetter = new Map<string, number>();
  layout.cells.forEach((cell, index) => {
    if (cell.at !== undefined) byLetter.set(cell.at, index);
    else
      for (const name of new Set(names(cell).map(fold)))
        byName.set(name, [...(byName.get(name) ?? []), index]);
  });
  // Of headings that are the same, each takes the next column of that name.
  const taken = new Set<number>();
  const columns = fill.header.map((title, at) => {
    const known = byName.get(fold(title)) ?? [];
    const found =
      byLetter.get(columnLetter(at)) ??
      (title === ""
        ? undefined
        : (known.find((index) => !taken.has(index)) ?? (known.length === 1 ? known[0] : undefined)));
    if (found !== undefined) taken.add(found);
    return found;
  });
  const filledElsewhere = new Set(others.flatMap(names).map(fold));
  const unknown = fill.header.filter(
    (title, index) => title !== "" && columns[index] === undefined && !filledElsewhere.has(fold(title)),
  );
  const missing = layout.cells.filter(
    (cell, index): cell is LayoutColumn =>
      "field" in cell && rules?.get(cell.field.code)?.need === "required" && !columns.includes(index),
  );
  const rows: (readonly string[])[] = [];
  return {
    told: [
      ...(unknown.length === 0
        ? []
        : [`${file}: nobody fills ${unknown.map((title) => `"${title}"`).join(", ")}`]),
      ...(missing.length === 0
        ? []
        : [
            `${file} has no column for ${missing.map(({ field }) => `"${field.label}"`).join(", ")}, which the channel requires`,
          ]),
    ],
    get rows() {
      return rows.length;
    },
    add(own) {
      for (const cells of own)
        rows.push(columns.map((index) => (index === undefined ? "" : (cells[index] ?? ""))));
    },
    bytes: () => Promise.resolve(fill.bytes(rows)),
  };
}
