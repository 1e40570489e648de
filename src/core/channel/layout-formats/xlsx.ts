/** Workbooks (Office Open XML): written new, or the channel's own filled in place; one for all, or one a branch of its tree. */
import type { Diagnostic } from "../../diagnostics/diagnostic.js";
import type { ChannelBook, XlsxLayout } from "../layout-definition.js";
import { layoutSettings, type LayoutSettings } from "../layout-settings.js";
import type { LayoutFormat } from "./layout-format.js";
import { headerRowOf, tableSettings } from "./table-settings.js";

const bookKeys = ["file", "sheet", "header_row", "first_row", "examples"];

/** The channel's own workbooks, each with where its listings go. */
function booksOf(settings: LayoutSettings): Readonly<Record<string, ChannelBook>> {
  const raw = settings.raw("books");
  if (raw === undefined) return {};
  if (typeof raw !== "object" || raw === null || Array.isArray(raw)) {
    settings.wrong("books", "gives each branch's code, or *, its workbook");
    return {};
  }
  return Object.fromEntries(
    Object.entries(raw).flatMap(([branch, book]: [string, unknown]) => {
      const inner: Diagnostic[] = [];
      if (typeof book !== "object" || book === null) {
        settings.wrong(`books.${branch}`, `holds ${bookKeys.join(", ")}`);
        return [];
      }
      const own = layoutSettings(
        book as Readonly<Record<string, unknown>>,
        settings.place,
        inner,
        `settings.books.${branch}.`,
      );
      const headerRow = own.count("header_row", 1);
      const found: ChannelBook = {
        file: own.text("file", ""),
        sheet: own.text("sheet", "Sheet1"),
        headerRow,
        firstRow: own.count("first_row", headerRow + 1),
        examples: own.raw("examples") === undefined ? 0 : own.count("examples", 1),
      };
      if (!/^[^/\\.][^/\\]*(?:\/[^/\\.][^/\\]*)*\.xls[xm]$/i.test(found.file))
        own.wrong("file", "is a workbook in the definition's folder, such as published/items.xlsx");
      if (found.firstRow <= headerRow) own.wrong("first_row", "stands below header_row");
      own.end();
      settings.tell(inner);
      return [[branch, found] as const];
    }),
  );
}

/** The one sheet that all its files have; undefined where each book has its own. */
function sheetOf({ books, sheet }: XlsxLayout): string | undefined {
  const all = Object.values(books);
  if (all.length === 0) return sheet;
  return all.length === 1 ? all[0]?.sheet : undefined;
}

/** Workbooks. */
export const xlsx: LayoutFormat<XlsxLayout> = {
  build(parts, format) {
    const { common, settings } = parts;
    return {
      ...common,
      ...tableSettings(parts, "|"),
      format,
      sheet: settings.text("sheet", "Sheet1"),
      templates: settings.text("templates", ""),
      headerRow: settings.count("header_row", 1),
      books: booksOf(settings),
      byBranch: settings.yesNo("by_branch", false),
      rulesAsNotes: settings.yesNo("rules_as_notes", false),
      dropDowns: settings.yesNo("drop_downs", false),
    };
  },
  readBack(layout) {
    const [book] = Object.values(layout.books);
    const own = layout.templates === "" ? headerRowOf(layout) : layout.headerRow;
    return { format: "xlsx", sheet: sheetOf(layout), headerRow: Math.max(1, book?.headerRow ?? own) };
  },
  showsShop: false,
};
