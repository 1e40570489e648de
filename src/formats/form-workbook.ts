/** Workbooks to be filled in: locked cells, drop-downs, notes, colours. */
import { greatest } from "../core/many.js";
import type { CellStyle, DataValidation, WriteSheet } from "hucre/xlsx";
import type { CellRole, FormChoice, FormSheet } from "../core/gaps/form.js";
import { columnLetter } from "../core/diagnostics/place.js";

const fill = (rgb: string): NonNullable<CellStyle["fill"]> => ({
  type: "pattern",
  pattern: "solid",
  fgColor: { rgb },
});

const edge = { style: "thin", color: { rgb: "D6D2C8" } } as const;
const border = { top: edge, bottom: edge, left: edge, right: edge };
type Font = NonNullable<CellStyle["font"]>;
const font = (own: Font = {}): Font => ({ name: "Arial", size: 10, ...own });
// Every cell is a text: no spreadsheet shortens a barcode or makes a date of a size in it.
const text = { numFmt: "@", border } as const;
const wrapped = { wrapText: true, vertical: "top" } as const;

const styles: Readonly<Record<CellRole, CellStyle>> = {
  key: { font: font({ color: { rgb: "999999" }, size: 8 }) },
  title: {
    ...text,
    font: font({ bold: true, color: { rgb: "FFFFFF" } }),
    fill: fill("2F5D46"),
    alignment: wrapped,
  },
  rule: {
    ...text,
    font: font({ italic: true, size: 9, color: { rgb: "555555" } }),
    fill: fill("EEF3EE"),
    alignment: wrapped,
  },
  fixed: {
    ...text,
    font: font({ color: { rgb: "444444" } }),
    fill: fill("F4F3EF"),
    alignment: { vertical: "top" },
  },
  open: {
    ...text,
    font: font(),
    fill: fill("FFFFFF"),
    protection: { locked: false },
    alignment: { vertical: "top" },
  },
  "for-all": {
    ...text,
    font: font({ bold: true }),
    fill: fill("FFF6D6"),
    protection: { locked: false },
  },
  idle: { ...text, fill: fill("DDDBD4"), font: font({ color: { rgb: "8A887F" } }) },
  now: {
    ...text,
    font: font({ color: { rgb: "A03020" } }),
    fill: fill("F4F3EF"),
    alignment: { vertical: "top" },
  },
  proposal: {
    ...text,
    font: font({ italic: true, color: { rgb: "2C5AA0" } }),
    fill: fill("F4F3EF"),
    alignment: { vertical: "top" },
  },
};

const UNDATED = new Date("2000-01-01T00:00:00Z");

const LISTS = "values";
/** What a drop-down holds within itself; longer lists stand on a sheet of their own. */
const INLINE_LENGTH = 250;

/** Rows as the ranges of a column: 4, 5, 6, 9 are C5:C7 C10. */
function ranges(column: number, rows: readonly number[]): string {
  const letter = columnLetter(column);
  const sorted = [...rows].sort((a, b) => a - b);
  const found: string[] = [];
  let start = 0;
  for (let at = 1; at <= sorted.length; at++) {
    if (at < sorted.length && (sorted[at] ?? 0) === (sorted[at - 1] ?? 0) + 1) continue;
    const [first, last] = [(sorted[start] ?? 0) + 1, (sorted[at - 1] ?? 0) + 1];
    found.push(first === last ? `${letter}${first}` : `${letter}${first}:${letter}${last}`);
    start = at;
  }
  return found.join(" ");
}

/** Gives each list of values its column on the hidden sheet, once for all that use it. */
function listSheet() {
  const columns: (readonly string[])[] = [];
  const known = new Map<string, string>();
  return {
    formula(values: readonly string[]): string {
      const key = values.join("\u0000");
      const found = known.get(key);
      if (found !== undefined) return found;
      const letter = columnLetter(columns.length);
      columns.push(values);
      const formula = `${LISTS}!$${letter}$1:$${letter}$${values.length}`;
      known.set(key, formula);
      return formula;
    },
    sheet(): WriteSheet | undefined {
      if (columns.length === 0) return undefined;
      const length = greatest(columns.map((values) => values.length));
      const rows = Array.from({ length }, (_, row) => columns.map((values) => values[row] ?? null));
      return { name: LISTS, rows, hidden: true };
    },
  };
}

function validation(
  { column, rows, values, isClosed }: FormChoice,
  lists: ReturnType<typeof listSheet>,
): DataValidation {
  const isShort = values.join(",").length <= INLINE_LENGTH && values.every((value) => !/[,"]/.test(value));
  return {
    type: "list",
    ...(isShort ? { values: [...values] } : { formula1: lists.formula(values) }),
    allowBlank: true,
    showErrorMessage: true,
    errorStyle: isClosed ? "stop" : "warning",
    errorTitle: isClosed ? "Not one of the values" : "Not one of the usual values",
    errorMessage: isClosed ? "Choose one of the list." : "The list holds the usual values; keep yours?",
    range: ranges(column, rows),
  };
}

function written(sheet: FormSheet, lists: ReturnType<typeof listSheet>): WriteSheet {
  const cells: NonNullable<WriteSheet["cells"]> = new Map();
  sheet.rows.forEach((row, at) =>
    row.forEach(({ text: value, role, note, link }, column) => {
      cells.set(`${at},${column}`, {
        value: value === "" ? null : value,
        type: value === "" ? "empty" : "string",
        style: styles[role],
        ...(note === undefined ? {} : { comment: { author: "Lexicant", text: note } }),
        ...(link === undefined ? {} : { hyperlink: { target: link } }),
      });
    }),
  );
  return {
    name: sheet.name,
    columns: sheet.columns.map(({ width, isHidden }) => ({ width, hidden: isHidden === true })),
    rows: sheet.rows.map((row) => row.map(({ text: value }) => (value === "" ? null : value))),
    cells,
    rowDefs: new Map<number, { height?: number; hidden?: boolean }>([
      ...[...sheet.heights].map(([row, height]) => [row, { height }] as const),
      ...sheet.hiddenRows.map((row) => [row, { hidden: true }] as const),
    ]),
    freezePane: sheet.frozen,
    dataValidations: sheet.choices.map((choice) => validation(choice, lists)),
    protection: { sheet: true, formatColumns: true, formatRows: true, autoFilter: true, sort: true },
  };
}

/** A workbook to be filled in: what is not asked is locked, what is asked has its drop-down. */
export async function formWorkbook(title: string, sheets: readonly FormSheet[]): Promise<Uint8Array> {
  const { writeXlsx } = await import("hucre/xlsx");
  const lists = listSheet();
  const own = sheets.map((sheet) => written(sheet, lists));
  const values = lists.sheet();
  return writeXlsx({
    sheets: [...own, ...(values === undefined ? [] : [values])],
    // The same questions give the same bytes.
    properties: { title, created: UNDATED, modified: UNDATED },
    defaultFont: { name: "Arial", size: 10 },
  });
}
