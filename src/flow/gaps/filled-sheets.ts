/** Finds the filled sheets in a file. */
import { isGapSheet, readGapSheet, type ReadGapSheet } from "../../core/gaps/read-sheet.js";
import { GAP_MARK } from "../../core/gaps/sheet-marks.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { fileSource, type ByteSource } from "../../formats/byte-source.js";
import { openCsv } from "../../formats/csv-reader.js";
import { GAP_TITLE } from "../../core/gaps/gap-grid.js";

/** A filled sheet with the name that its answers are said to come from. */
export interface FilledSheet extends ReadGapSheet {
  readonly file: string;
}

/** Its first bytes tell a CSV sheet; a workbook says it in its title, or in its first sheet where that is small. */
export async function isGapFile(source: ByteSource): Promise<boolean> {
  const head = await source.head();
  if (head.subarray(0, 2).toString("latin1") !== "PK") return head.subarray(0, 64).includes(GAP_MARK);
  const { path, file, size = Infinity } = source;
  // What comes through a pipe or out of an archive is read once: it is looked at by its own name.
  if (path === undefined) return false;
  const { workbookTitle, workbookSheets } = await import("../../formats/workbook-sheets.js");
  try {
    if ((await workbookTitle(path, file)) === GAP_TITLE) return true;
    if (size > SMALL) return false;
    const again = await fileSource(path, file);
    return (await workbookSheets(again)).some(({ rows }) => isGapSheet(rows));
  } catch (error) {
    // A damaged workbook is told by those who read it in earnest.
    if (error instanceof Refusal) return false;
    throw error;
  }
}

/** Bytes of a workbook that is looked into when its title was lost. */
const SMALL = 2 << 20;

/** Reads the filled sheets of a file. */
export async function filledSheets(source: ByteSource): Promise<readonly FilledSheet[]> {
  const head = await source.head();
  if (head.subarray(0, 2).toString("latin1") !== "PK") return csvSheets(source);
  const { workbookSheets } = await import("../../formats/workbook-sheets.js");
  return (await workbookSheets(source)).flatMap(({ name, rows }) => {
    const file = `${source.file}, sheet ${name}`;
    const read = readGapSheet(rows, file);
    return read === undefined ? [] : [{ ...read, file }];
  });
}

async function csvSheets(source: ByteSource): Promise<readonly FilledSheet[]> {
  const table = await openCsv(source, { headerRow: 1 });
  const cellsOf = (cells: readonly string[]) => cells.map((text) => ({ text, isDate: false }));
  const rows = [{ row: 1, cells: cellsOf(table.header) }];
  for await (const batch of table.batches)
    for (const { row, cells } of batch) rows.push({ row, cells: cellsOf(cells) });
  const read = readGapSheet(rows, source.file);
  return read === undefined ? [] : [{ ...read, file: source.file }];
}
