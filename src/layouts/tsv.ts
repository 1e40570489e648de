import type { TsvLayout } from "../core/channel/layout-definition.js";
import { unparted, type FileFacts, type LayoutWriter } from "./layout.js";
import { headRows, tableRows } from "./table-rows.js";

/** TSV has no quoting: a tab or line end inside a value becomes a space (IANA text/tab-separated-values). */
const cell = (text: string): string => (/[\t\n\r]/.test(text) ? text.replace(/\s*[\t\n\r]+\s*/g, " ") : text);

const line = (cells: readonly string[]): string => `${cells.map(cell).join("\t")}\n`;

/** A header row of column names, then a row a listing. */
export function tsvWriter(layout: TsvLayout, { action }: FileFacts): LayoutWriter {
  const rows = tableRows(layout, action);
  return {
    head: () => headRows(layout).map(line).join(""),
    family: (family) => rows(family).map(line).join(""),
    apart: unparted,
    tail: () => "",
  };
}
