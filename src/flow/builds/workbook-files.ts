/** Joins rows into workbooks: one a branch, the channel's own filled in place, split where they grow too long. */
import { ownOf } from "../../core/own.js";
import { diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import { isThere } from "../../formats/is-there.js";
import { addAll } from "../../core/many.js";
import { join } from "node:path";
import type { Category } from "../../core/channel/category-tree.js";
import type { XlsxLayout } from "../../core/channel/layout-definition.js";
import type { ChannelSetup } from "../../core/listing/channel-setup.js";
import { smallFile } from "../../formats/small-file.js";
import { xlsxBook, type Book } from "../../layouts/xlsx.js";
import { filledBook, type BookPlace } from "../../layouts/xlsx-filled.js";
import type { StagedFiles } from "../../workspace/landing/open-folders.js";
import { branchRules, describe, slug, type BranchRules } from "./branch-rules.js";
import { partName, type BuiltFile, type LayoutFiles } from "./built-files.js";
import type { RowsPiece } from "./layout-pieces.js";

const namedFor = (file: string, branch: Category | undefined): string =>
  branch === undefined ? file : file.replace(/(\.[^.]*)?$/, `-${slug(branch.name)}$1`);

/** The channel's own workbook for a branch: that of the workspace, or the one that came with the definition. */
async function templateFor(
  { templates, books, sheet, headerRow }: XlsxLayout,
  branch: Category | undefined,
  folders: readonly string[],
): Promise<{ readonly bytes: Buffer; readonly file: string; readonly place: BookPlace } | undefined> {
  const book = ownOf(books, branch?.code ?? "*") ?? ownOf(books, "*");
  const none = templates === "" || branch === undefined;
  const file = book?.file ?? (none ? undefined : `${templates}/${slug(branch.name)}.xlsx`);
  if (file === undefined) return undefined;
  const place = book ?? { sheet, headerRow, firstRow: headerRow + 1, examples: 0 };
  for (const folder of folders) {
    if (isThere(join(folder, file), file))
      return { bytes: await smallFile(join(folder, file), file), file, place };
  }
  if (book === undefined) return undefined;
  throw new Refusal([diagnostic("missing-file", { path: file, what: "the channel's workbook" })]);
}

interface OpenWorkbook {
  readonly branch: Category | undefined;
  /** Where the branch's cells stand among the layout's. */
  readonly columns: readonly number[];
  readonly books: Book[];
}

/** Workbooks: one for each branch of the channel's tree where the layout says so, each split where it grows too long. */
export function workbookFiles(
  layout: XlsxLayout,
  { definition }: ChannelSetup,
  staged: StagedFiles,
  folders: readonly string[],
): LayoutFiles<RowsPiece> {
  const mostRows = layout.fileLimits?.rows ?? definition.fileLimits.rows ?? Infinity;
  const open = new Map<string, OpenWorkbook>();
  const told: string[] = [];
  /** The cells that a branch has. */
  const cellsOf = (rules: BranchRules | undefined): XlsxLayout["cells"] =>
    layout.cells.filter((cell) => rules === undefined || !("field" in cell) || rules.has(cell.field.code));
  const bookFor = async (branch: Category | undefined): Promise<Book> => {
    const rules = branch === undefined ? undefined : branchRules(definition, branch);
    const own = { ...layout, cells: cellsOf(rules) };
    const template = await templateFor(layout, branch, folders);
    if (template !== undefined) {
      const whole = definition.layouts.find(({ name }) => name === layout.name);
      const others =
        whole?.format === "xlsx" ? whole.cells.filter((cell) => !layout.cells.includes(cell)) : [];
      const filled = await filledBook(own, template, rules, others);
      addAll(told, filled.told);
      return filled;
    }
    return xlsxBook(own, { ruleOf: ({ field }) => rules?.get(field.code), describe });
  };
  const openFor = async (code: string): Promise<OpenWorkbook> => {
    const known = open.get(code);
    if (known !== undefined) return known;
    const branch = code === "" ? undefined : definition.tree.find(code);
    const own = new Set(cellsOf(branch === undefined ? undefined : branchRules(definition, branch)));
    const columns = layout.cells.flatMap((cell, at) => (own.has(cell) ? [at] : []));
    const opened = { branch, columns, books: [await bookFor(branch)] };
    open.set(code, opened);
    return opened;
  };
  return {
    told: () => told,
    async join({ families }) {
      for (const { branch: code = "", rows } of families) {
        const own = await openFor(code);
        let book = own.books.at(-1);
        if (book === undefined || (book.rows > 0 && book.rows + rows.length > mostRows)) {
          book = await bookFor(own.branch);
          own.books.push(book);
        }
        book.add(rows.map((cells) => own.columns.map((at) => cells[at] ?? "")));
      }
    },
    async finish() {
      const built: BuiltFile[] = [];
      const sorted = [...open.values()].sort((a, b) =>
        (a.branch?.path ?? "") < (b.branch?.path ?? "") ? -1 : 1,
      );
      for (const { branch, books } of sorted)
        for (const [index, book] of books.entries()) {
          const file = await staged.create(partName(namedFor(layout.file, branch), index + 1));
          await file.writeBytes(await book.bytes());
          built.push(await file.finish());
        }
      return built;
    },
  };
}
