import type { CsvLayout } from "../core/channel/layout-definition.js";
import { unparted, type FileFacts, type LayoutWriter } from "./layout.js";
import { headRows, tableRows } from "./table-rows.js";

const looksLikeFormula = /^[=+@\t\r]|^-(?![\d.,]+$)/;

function guarded(text: string, formulas: CsvLayout["formulas"]): string {
  if (formulas === "keep" || !looksLikeFormula.test(text)) return text;
  return formulas === "apostrophe" ? `'${text}` : ` ${text}`;
}

// Controls say nothing in a cell, and readers stumble over them; tab and line ends stay.
// eslint-disable-next-line no-control-regex
const controls = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f]/g;

/** CSV (RFC 4180) with the channel's separator, quoting and line ends. */
export function csvWriter(layout: CsvLayout, { action }: FileFacts): LayoutWriter {
  const { separator, quote, lineEnd, startsWithMark, formulas } = layout;
  const needsQuotes = (text: string): boolean =>
    quote === "always" || text.includes(separator) || /["\n\r]/.test(text) || /^\s|\s$/.test(text);
  const cell = (written: string): string => {
    const text = guarded(written.replace(controls, ""), formulas);
    return needsQuotes(text) ? `"${text.replaceAll('"', '""')}"` : text;
  };
  const line = (cells: readonly string[]): string => cells.map(cell).join(separator) + lineEnd;
  const rows = tableRows(layout, action);
  return {
    head: () => (startsWithMark ? "\ufeff" : "") + headRows(layout).map(line).join(""),
    family: (family) => rows(family).map(line).join(""),
    apart: unparted,
    tail: () => "",
  };
}
