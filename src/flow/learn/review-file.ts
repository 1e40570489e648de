import {
  REVIEW_SHEET,
  REVIEW_TITLE,
  reviewColumns,
  reviewSheet,
  type ReviewRow,
} from "../../core/learning/review.js";
import { fileSource } from "../../formats/byte-source.js";

/** The review as a workbook that a person fills in. */
export async function reviewWorkbook(rows: readonly ReviewRow[]): Promise<Uint8Array> {
  const { formWorkbook } = await import("../../formats/form-workbook.js");
  return formWorkbook(REVIEW_TITLE, [reviewSheet(rows)]);
}

/** The rows of a review that came back; undefined where the file is none. */
export async function reviewAnswers(
  path: string,
  file: string,
): Promise<readonly Readonly<Record<string, string>>[] | undefined> {
  if (!/\.xlsx$/i.test(file)) return undefined;
  const { workbookTitle, workbookSheets } = await import("../../formats/workbook-sheets.js");
  // What is no workbook is told when it is read as what it should be.
  const title = await workbookTitle(path, file).catch(() => "");
  if (title !== REVIEW_TITLE) return undefined;
  const sheets = await workbookSheets(await fileSource(path, file));
  const rows = sheets.find(({ name }) => name === REVIEW_SHEET)?.rows ?? [];
  return rows
    .slice(1)
    .map(({ cells }) =>
      Object.fromEntries(reviewColumns.map((column, at) => [column, (cells[at]?.text ?? "").trim()])),
    );
}
