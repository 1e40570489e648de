import { writeXlsxStream } from "hucre/xlsx";

/** What a workbook's cell can hold. */
export const CELL_LIMIT = 32_767;

const WIDTH = { least: 10, most: 48 };

/**
 * A workbook of one sheet in which every cell is a text: no spreadsheet shortens a barcode or makes a date of a size in
 * it. Rows are asked for one by one and bytes come as they are made, so that memory does not grow.
 */
export function textWorkbook(
  sheet: string,
  header: readonly string[],
  rows: AsyncIterable<readonly string[]>,
): AsyncIterable<Uint8Array> {
  const columns = header.map((title) => ({
    header: title,
    numFmt: "@",
    width: Math.min(WIDTH.most, Math.max(WIDTH.least, title.length + 2)),
  }));
  async function* cells(): AsyncGenerator<(string | null)[]> {
    for await (const row of rows) yield row.map((cell) => (cell === "" ? null : cell));
  }
  const stream = writeXlsxStream(cells(), { name: sheet, columns, freezePane: { rows: 1 } });
  return stream;
}
