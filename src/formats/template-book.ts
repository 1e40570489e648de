/** A workbook with all that it shows and hides, for learning. */
import type { Cell, DataValidation, Sheet, Workbook } from "hucre/xlsx";
import { offeredValues, cellRange, type CellRange, type ListSource } from "../core/learning/list-formula.js";
import { blankCell, type PaperCell, type SheetPaper, type SheetRule } from "../core/learning/paper.js";
import { addAll } from "../core/many.js";
import type { SheetPart } from "./workbook-parts.js";
import { cellText, damagedWorkbook, guardedWorkbook } from "./xlsx-reader.js";

/** What is told of a sheet stands in its first rows; lists are as long as they like. */
const ROWS_LOOKED_AT = 3000;
/** Rows of a list that hangs below: more is no list that a person chooses from. */
const LONGEST_LIST = 200_000;

/** A workbook with all that it shows. */
export interface TemplateBook {
  readonly sheets: readonly SheetPaper[];
  readonly hasMacros: boolean;
  /** Lists that are named by a formula beyond our reading, with where it stands. */
  readonly unread: readonly { readonly sheet: string; readonly column: number; readonly formula: string }[];
}

function colourOf(colour: { readonly rgb?: string; readonly theme?: number } | undefined): string {
  const rgb = colour?.rgb?.slice(-6).toUpperCase() ?? "";
  if (rgb !== "") return rgb;
  return colour?.theme === undefined ? "" : `theme ${colour.theme}`;
}

// White paper and black ink are what every cell has.
function fillOf(style: Cell["style"]): string {
  const fill = style?.fill;
  if (fill?.type !== "pattern" || fill.pattern === "none") return "";
  const colour = colourOf(fill.fgColor);
  return colour === "FFFFFF" ? "" : colour;
}

function inkOf(style: Cell["style"]): string {
  const ink = colourOf(style?.font?.color);
  return ink === "000000" || ink === "theme 1" ? "" : ink;
}

function paperCell(sheet: Sheet, row: number, column: number, value: Cell["value"]): PaperCell {
  const cell = sheet.cells?.get(`${row},${column}`);
  const text = cellText(value);
  if (cell === undefined) return text === "" ? blankCell : { ...blankCell, text };
  return {
    text,
    fill: fillOf(cell.style),
    ink: inkOf(cell.style),
    isBold: cell.style?.font?.bold === true,
    note: cell.comment?.text ?? "",
  };
}

const rowsOf = (sheet: Sheet): readonly (readonly PaperCell[])[] =>
  sheet.rows.map((values, row) =>
    Array.from(values, (value, column) => paperCell(sheet, row, column, value)),
  );

const kinds: Partial<Record<DataValidation["type"], SheetRule["kind"]>> = {
  list: "list",
  whole: "whole",
  decimal: "decimal",
  date: "date",
  textLength: "length",
};

/** Texts of ranges; what goes beyond the rows that were looked at is read from the sheet again, once. */
async function textsOfSheets(
  bytes: Buffer,
  sheets: readonly Sheet[],
  parts: readonly SheetPart[],
  wanted: ReadonlyMap<string, number>,
  guard: (path: string) => Promise<void>,
): Promise<ListSource["texts"]> {
  const { streamXlsxRows } = await import("hucre/xlsx");
  const columns = new Map<string, (readonly string[])[]>();
  const whole = async (at: number): Promise<(readonly string[])[]> => {
    const rows: (readonly string[])[] = [];
    await guard(parts[at]?.path ?? "");
    for await (const { index, values } of streamXlsxRows(bytes, { sheet: at })) {
      if (index >= LONGEST_LIST) break;
      rows[index] = Array.from(values, (value) => cellText(value));
    }
    return rows;
  };
  for (const [at, sheet] of sheets.entries()) {
    const isLong = sheet.rows.length >= ROWS_LOOKED_AT && (wanted.get(sheet.name) ?? 0) > ROWS_LOOKED_AT;
    columns.set(
      sheet.name,
      isLong ? await whole(at) : sheet.rows.map((row) => row.map((value) => cellText(value))),
    );
  }
  return (name, { row, lastRow, column, lastColumn }) => {
    const rows = columns.get(name) ?? [];
    const found: string[] = [];
    for (let at = row; at <= Math.min(lastRow, rows.length - 1); at++)
      for (let aside = column; aside <= lastColumn; aside++) {
        const text = rows[at]?.[aside]?.trim() ?? "";
        if (text !== "") found.push(text);
      }
    return found;
  };
}

/** How far down a workbook's formulas look into each sheet. */
function reachOf(book: Workbook): ReadonlyMap<string, number> {
  const reach = new Map<string, number>();
  const formulas = [
    ...(book.namedRanges ?? []).map(({ range }) => range),
    ...book.sheets.flatMap(({ dataValidations = [] }) =>
      dataValidations.map(({ formula1 = "" }) => formula1),
    ),
  ];
  const named =
    /(?:'((?:[^']|'')+)'|([^'!,()&"=]+))!(\$?[A-Z]{1,3}(?:\$?\d+)?(?::\$?[A-Z]{1,3}(?:\$?\d+)?)?)/gi;
  for (const formula of formulas)
    for (const [, quoted, bare = "", range = ""] of formula.matchAll(named)) {
      const sheet = quoted?.replaceAll("''", "'") ?? bare;
      const isOffset = /OFFSET/i.test(formula);
      const last = isOffset ? Infinity : (cellRange(range)?.lastRow ?? 0);
      reach.set(sheet, Math.max(reach.get(sheet) ?? 0, last));
    }
  return reach;
}

const ruleOf = (
  validation: DataValidation,
  range: CellRange,
  offered: ReturnType<typeof offeredValues>,
): SheetRule => ({
  firstColumn: range.column,
  lastColumn: range.lastColumn,
  firstRow: range.row,
  kind: kinds[validation.type] ?? "other",
  operator: validation.operator ?? "between",
  first: validation.formula1 ?? "",
  second: validation.formula2 ?? "",
  values: validation.values ?? offered?.values ?? [],
  hangs: offered?.hangs,
  isOpen: validation.errorStyle === "warning" || validation.errorStyle === "information",
  message: [validation.inputTitle, validation.inputMessage, validation.errorMessage]
    .filter(Boolean)
    .join(". "),
});

/** Validations of a sheet by the ranges of columns that they hold for. */
function rulesOf(
  sheet: Sheet,
  book: Workbook,
  texts: ListSource["texts"],
  unread: TemplateBook["unread"][number][],
): readonly SheetRule[] {
  const validations = sheet.dataValidations ?? [];
  const placed = validations.flatMap((validation) =>
    validation.range.split(/[ ,]+/).flatMap((text) => {
      const range = cellRange(text);
      return range === undefined ? [] : [{ validation, range }];
    }),
  );
  const source = (deep: number): ListSource => ({
    texts,
    named(name) {
      const known = book.namedRanges ?? [];
      const same = known.filter((one) => one.name.toLowerCase() === name.toLowerCase());
      return (same.find(({ scope }) => scope === sheet.name) ?? same[0])?.range;
    },
    choices(column) {
      const own = placed.find(({ range }) => range.column <= column && column <= range.lastColumn);
      return own === undefined || deep > 3 ? [] : listOf(own.validation, deep + 1);
    },
  });
  const offeredBy = (validation: DataValidation, deep: number): ReturnType<typeof offeredValues> =>
    offeredValues(validation.formula1 ?? "", sheet.name, source(deep));
  const listOf = (validation: DataValidation, deep: number): readonly string[] =>
    validation.values ?? offeredBy(validation, deep)?.values ?? [];
  return placed.map(({ validation, range }) => {
    const isNamed = validation.type === "list" && validation.values === undefined;
    const offered = isNamed ? offeredBy(validation, 0) : undefined;
    if (isNamed && offered === undefined)
      unread.push({ sheet: sheet.name, column: range.column, formula: validation.formula1 ?? "" });
    return ruleOf(validation, range, offered);
  });
}

/**
 * Reads a workbook with all that its sheets show and hide: colours, notes, merged cells, drop-downs with their lists.
 * @throws Refusal when it is damaged, protected by a password, or too large
 */
export async function templateBook(bytes: Buffer, file: string): Promise<TemplateBook> {
  const { sheets: parts, texts: strings } = await guardedWorkbook(bytes, file);
  const { guardSheet } = await import("./workbook-guard.js");
  const guard = async (path: string): Promise<void> => {
    await guardSheet(bytes, path, file, strings, 0);
  };
  for (const { path } of parts) await guard(path);
  try {
    const { readXlsx } = await import("hucre/xlsx");
    const book = await readXlsx(bytes, { readStyles: true, maxRows: ROWS_LOOKED_AT });
    const texts = await textsOfSheets(bytes, book.sheets, parts, reachOf(book), guard);
    const unread: TemplateBook["unread"][number][] = [];
    const sheets: SheetPaper[] = [];
    addAll(
      sheets,
      book.sheets.map((sheet): SheetPaper => ({
        paper: "sheet",
        file,
        sheet: sheet.name,
        isHidden: sheet.hidden === true || sheet.veryHidden === true,
        isProtected: sheet.protection !== undefined,
        rows: rowsOf(sheet),
        merges: (sheet.merges ?? []).map(({ startRow, startCol, endRow, endCol }) => ({
          row: startRow,
          column: startCol,
          lastRow: endRow,
          lastColumn: endCol,
        })),
        rules: rulesOf(sheet, book, texts, unread),
        frozenRows: sheet.freezePane?.rows ?? 0,
        form: undefined,
      })),
    );
    const { memberBytes } = await import("./zip-archive.js");
    const hasMacros = (await memberBytes(bytes, "xl/vbaProject.bin", file)) !== undefined;
    return { sheets, hasMacros, unread };
  } catch (error) {
    throw damagedWorkbook(file, error);
  }
}
