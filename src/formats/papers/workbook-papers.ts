/** A workbook as papers, a sheet each, with all that it shows. */
import { isZip } from "../kinds/xlsx.js";
import { templateBook } from "../template-book.js";
import type { PaperKind } from "./paper-kind.js";

/** Workbooks (Office Open XML). */
export const workbookPapers: PaperKind = {
  holds: ({ bytes }) => isZip(bytes),
  async read({ bytes, file }) {
    const book = await templateBook(bytes, file);
    return {
      papers: book.sheets,
      told: [
        ...(book.hasMacros
          ? [`${file} holds macros: none is run, and they stay in the filled workbook`]
          : []),
        ...book.sheets
          .filter(({ isProtected, isHidden }) => isProtected && !isHidden)
          .map(
            ({ sheet }) =>
              `${file}, sheet "${sheet}" is protected: it is filled all the same, and stays protected`,
          ),
        ...book.unread
          .slice(0, 5)
          .map(
            ({ sheet, formula }) =>
              `${file}, sheet "${sheet}": the list "${formula.slice(0, 60)}" could not be worked out`,
          ),
      ],
    };
  },
};
