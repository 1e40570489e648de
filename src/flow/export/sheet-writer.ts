/** Products as a sheet that imports back unchanged. */
import { itemsOf } from "../../core/catalogue/list-text.js";
import { joinList } from "../../core/catalogue/list-cell.js";
import type { Product } from "../../core/catalogue/product.js";
import { besideClearWord, CLEAR_WORD, COMPUTED_REVISION } from "../../core/catalogue/record.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { csvLine } from "../../formats/csv-writer.js";
import { FOR_CHANNEL } from "../../workspace/source-text.js";
import { wholeFile } from "../../workspace/landing/whole-file.js";

/** A product's cells, which import back unchanged: canonical texts, several values with bars between them. */
const sheetCells = (
  product: Product,
  columns: readonly string[],
  forChannel: string | undefined,
): readonly string[] =>
  columns.map((attribute) => {
    if (attribute === "sku") return product.sku;
    if (attribute === FOR_CHANNEL) return forChannel ?? "";
    const slot = product.attributes.slot(attribute);
    const text = slot === undefined ? undefined : product.text(slot);
    // What follows from a bundle's parts is not the bundle's own: written down, it would come back as an edit.
    if (text === undefined || slot === undefined || product.origin(slot)?.revision === COMPUTED_REVISION)
      return "";
    const cell = product.attributes.kinds[slot]?.list === true ? joinList(itemsOf(text), "|") : text;
    return besideClearWord(cell, CLEAR_WORD);
  });

async function* rowsOf(
  products: AsyncIterable<Product>,
  columns: readonly string[],
  forChannel: string | undefined,
  counted: () => void,
): AsyncGenerator<readonly string[]> {
  for await (const product of products) {
    counted();
    yield sheetCells(product, columns, forChannel);
  }
}

/** Writes products as a sheet and says how many they were. */
export type WriteSheet = (
  products: AsyncIterable<Product>,
  columns: readonly string[],
  /** The channel that the sheet is for, where it is for one alone. */
  forChannel: string | undefined,
) => Promise<number>;

/** CSV to standard output. */
export const csvOut =
  (out: (text: string) => void): WriteSheet =>
  async (products, columns, forChannel) => {
    let written = 0;
    const count = (): void => {
      written++;
    };
    out(csvLine(columns));
    for await (const row of rowsOf(products, columns, forChannel, count)) out(csvLine(row));
    return written;
  };

/** A CSV file in UTF-8 with a mark, so that spreadsheets read its letters. */
export const csvFile =
  (path: string, shown: string): WriteSheet =>
  async (products, columns, forChannel) => {
    let written = 0;
    const count = (): void => {
      written++;
    };
    await wholeFile(path, shown, async (file) => {
      await file.write(`\ufeff${csvLine(columns)}`);
      for await (const row of rowsOf(products, columns, forChannel, count)) await file.write(csvLine(row));
    });
    return written;
  };

/** An XLSX workbook with nothing but text cells. */
export const xlsxFile =
  (path: string, shown: string): WriteSheet =>
  async (products, columns, forChannel) => {
    const { CELL_LIMIT, textWorkbook } = await import("../../formats/xlsx-writer.js");
    let written = 0;
    const count = (): void => {
      written++;
    };
    async function* rows(): AsyncGenerator<readonly string[]> {
      for await (const row of rowsOf(products, columns, forChannel, count)) {
        const long = row.findIndex((cell) => cell.length > CELL_LIMIT);
        if (long >= 0)
          throw new Refusal([
            diagnostic("cell-too-long", {
              sku: row[0] ?? "",
              attribute: columns[long] ?? "",
              limit: CELL_LIMIT,
            }),
          ]);
        yield row;
      }
    }
    await wholeFile(path, shown, async (file) => {
      for await (const bytes of textWorkbook("catalogue", columns, rows())) await file.writeBytes(bytes);
    });
    return written;
  };
