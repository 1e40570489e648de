/** Workbooks written new, one sheet, with notes and drop-downs. */
import { addAll, greatest } from "../core/many.js";
import type { CellStyle, DataValidation, WriteSheet } from "hucre/xlsx";
import type { CategoryField } from "../core/channel/category-rules.js";
import type { LayoutColumn, XlsxLayout } from "../core/channel/layout-definition.js";
import { columnLetter } from "../core/diagnostics/place.js";
import { headRows } from "./table-rows.js";

/** A workbook being filled; it is small enough to be held, since the channel bounds its rows. */
export interface Book {
  readonly rows: number;
  /** Adds a family's rows, as cells in the layout's order. */
  add(rows: readonly (readonly string[])[]): void;
  bytes(): Promise<Uint8Array>;
}

/** What a workbook's header says of its columns. */
export interface BookRules {
  /** The rule of a column's field in the branch; undefined where it has none there. */
  ruleOf(column: LayoutColumn): CategoryField | undefined;
  /** The rule in words, for the header's note. */
  describe(rule: CategoryField): string;
}

const headStyle: CellStyle = {
  font: { bold: true },
  numFmt: "@",
  fill: { type: "pattern", pattern: "solid", fgColor: { rgb: "E4E0D6" } },
};

/** The same listings give the same bytes: a workbook says of no day that it was made then. */
const UNDATED = new Date("2000-01-01T00:00:00Z");

const LISTS = "values";
const INLINE_LENGTH = 250;

/** Writes workbooks of one layout; each has the columns that it is given, in the layout's order. */
export function xlsxBook(layout: XlsxLayout, { ruleOf, describe }: BookRules): Book {
  const heads = headRows(layout);
  const rows: (readonly string[])[] = [];
  const fieldAt = (index: number): LayoutColumn | undefined => {
    const cell = layout.cells[index];
    return cell !== undefined && "field" in cell ? cell : undefined;
  };
  return {
    get rows() {
      return rows.length;
    },
    add(own) {
      addAll(rows, own);
    },
    async bytes() {
      const { writeXlsx } = await import("hucre/xlsx");
      const cells: NonNullable<WriteSheet["cells"]> = new Map();
      const validations: DataValidation[] = [];
      const lists: (readonly string[])[] = [];
      const last = Math.max(heads.length + rows.length, heads.length + 1);
      heads.forEach((head, at) =>
        head.forEach((text, index) => {
          const column = fieldAt(index);
          const rule = column === undefined ? undefined : ruleOf(column);
          const isLast = at === heads.length - 1;
          cells.set(`${at},${index}`, {
            value: text,
            type: "string",
            style: headStyle,
            ...(layout.rulesAsNotes && isLast && rule !== undefined
              ? { comment: { author: layout.sheet, text: describe(rule) } }
              : {}),
          });
          const values = rule?.limits.values?.values.map(({ value }) => value);
          if (!layout.dropDowns || !isLast || values === undefined || rule?.field.list === true) return;
          const letter = columnLetter(index);
          const isShort =
            values.join(",").length <= INLINE_LENGTH && !values.some((value) => value.includes(","));
          if (!isShort) lists.push(values);
          const list = columnLetter(lists.length - 1);
          validations.push({
            type: "list",
            ...(isShort ? { values } : { formula1: `${LISTS}!$${list}$1:$${list}$${values.length}` }),
            allowBlank: true,
            range: `${letter}${heads.length + 1}:${letter}${last}`,
          });
        }),
      );
      const sheet: WriteSheet = {
        name: layout.sheet,
        columns: layout.cells.map(({ name }) => ({
          numFmt: "@",
          width: Math.min(40, Math.max(10, name.length + 2)),
        })),
        rows: [...heads, ...rows].map((row) => row.map((text) => (text === "" ? null : text))),
        cells,
        dataValidations: validations,
        freezePane: { rows: heads.length },
      };
      const length = greatest(
        lists.map((values) => values.length),
        0,
      );
      const values: WriteSheet = {
        name: LISTS,
        hidden: true,
        rows: Array.from({ length }, (_, row) => lists.map((list) => list[row] ?? null)),
      };
      return writeXlsx({
        sheets: lists.length === 0 ? [sheet] : [sheet, values],
        properties: { created: UNDATED, modified: UNDATED },
      });
    },
  };
}
