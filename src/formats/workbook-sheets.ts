/** A small workbook whole, with the kinds of its cells. */
import type { CellValue } from "hucre/xlsx";
import { allBytes, type ByteSource } from "./byte-source.js";
import { cellText, damagedWorkbook, guardedWorkbook, WORKBOOK_LIMIT } from "./xlsx-reader.js";
import { memberBytes } from "./zip-archive.js";

/** A cell's text, and whether the spreadsheet took it for a date. */
export interface TypedCell {
  readonly text: string;
  readonly isDate: boolean;
}

/** A row with its cells' kinds. */
export interface TypedRow {
  /** From 1. */
  readonly row: number;
  readonly cells: readonly TypedCell[];
}

/** All sheets of a small workbook with their cells' kinds. */
export interface WorkbookSheets {
  /** The workbook's own title, as its properties say it. */
  readonly title: string;
  readonly sheets: readonly { readonly name: string; readonly rows: readonly TypedRow[] }[];
}

const typed = (value: CellValue): TypedCell => ({ text: cellText(value), isDate: value instanceof Date });

const titleTag = /<dc:title[^<>]*>([^<]*)<\/dc:title>/;

/** A workbook's title, without reading its sheets. */
export async function workbookTitle(path: string, file: string): Promise<string> {
  const core = await memberBytes(path, "docProps/core.xml", file);
  return titleTag.exec(core?.toString("utf8") ?? "")?.[1] ?? "";
}

/**
 * Reads all sheets into memory.
 * @throws Refusal when the workbook is damaged, protected by a password, or too large
 */
export async function workbookSheets(source: ByteSource): Promise<WorkbookSheets["sheets"]> {
  const bytes = await allBytes(source, WORKBOOK_LIMIT);
  const guarded = await guardedWorkbook(bytes, source.file);
  const { guardSheet } = await import("./workbook-guard.js");
  const { streamXlsxRows } = await import("hucre/xlsx");
  const sheets: { name: string; rows: TypedRow[] }[] = [];
  for (const [sheet, { name, path }] of guarded.sheets.entries()) {
    const rows: TypedRow[] = [];
    await guardSheet(bytes, path, source.file, guarded.texts, 0);
    try {
      for await (const { index, values } of streamXlsxRows(bytes, { sheet }))
        rows.push({ row: index + 1, cells: Array.from(values, (value) => typed(value)) });
    } catch (error) {
      throw damagedWorkbook(source.file, error);
    }
    sheets.push({ name, rows });
  }
  return sheets;
}
