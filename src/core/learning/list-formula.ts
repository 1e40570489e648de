/** Formulas of drop-downs worked out: ranges, names, OFFSET, INDIRECT. Nothing else is run. */
import { columnNumber } from "../diagnostics/place.js";
import { ownOf } from "../own.js";

/** What a workbook says of the cells that a formula names. */
export interface ListSource {
  /** Texts of a range of one sheet, blanks left out; counted from 0, ends included; `lastRow` Infinity for whole columns. */
  texts(sheet: string, range: CellRange): readonly string[];
  /** What a name stands for, as a formula; names of one sheet come before those of the workbook. */
  named(name: string): string | undefined;
  /** The values that a column of the sheet offers, by which another column's list is chosen. */
  choices(column: number): readonly string[];
}

/** Cells of a sheet, counted from 0. */
export interface CellRange {
  readonly row: number;
  readonly lastRow: number;
  readonly column: number;
  readonly lastColumn: number;
}

const corner = /^\$?([A-Z]{1,3})\$?(\d+)$/i;
const wholeColumns = /^\$?([A-Z]{1,3}):\$?([A-Z]{1,3})$/i;

/** Reads `$A$2:$C$9`, `B4` or `A:A`. */
export function cellRange(text: string): CellRange | undefined {
  const columns = wholeColumns.exec(text);
  if (columns !== null)
    return {
      row: 0,
      lastRow: Infinity,
      column: columnNumber(columns[1] ?? ""),
      lastColumn: columnNumber(columns[2] ?? ""),
    };
  const [from = "", to = from] = text.split(":");
  const [first, last] = [corner.exec(from), corner.exec(to)];
  if (first === null || last === null) return undefined;
  return {
    row: Number(first[2]) - 1,
    lastRow: Number(last[2]) - 1,
    column: columnNumber(first[1] ?? ""),
    lastColumn: columnNumber(last[1] ?? ""),
  };
}

const sheetAndRange = /^(?:'((?:[^']|'')+)'|([^'!,()&"]+))!(.+)$/;

/** A reference with the sheet that it names, which is `here` where it names none. */
function reference(text: string, here: string): { sheet: string; range: CellRange } | undefined {
  const parts = sheetAndRange.exec(text);
  const range = cellRange((parts?.[3] ?? text).trim());
  if (range === undefined) return undefined;
  return { sheet: parts === null ? here : (parts[1]?.replaceAll("''", "'") ?? parts[2] ?? ""), range };
}

/** A call of a worksheet function; arguments are split where they stand at its own level. */
function call(formula: string): { readonly name: string; readonly parts: readonly string[] } | undefined {
  const found = /^([A-Z][A-Z0-9.]*)\((.*)\)$/is.exec(formula);
  if (found === null) return undefined;
  const parts = splitAt(found[2] ?? "", /[,;]/);
  return parts === undefined ? undefined : { name: (found[1] ?? "").toUpperCase(), parts };
}

/** Splits outside of quotes and brackets; undefined where a bracket closes that was not open: no single call. */
function splitAt(text: string, mark: RegExp): readonly string[] | undefined {
  const parts: string[] = [];
  let [depth, isQuoted, part] = [0, false, ""];
  for (const sign of text) {
    if (sign === '"' || sign === "'") isQuoted = !isQuoted;
    if (!isQuoted && sign === "(") depth++;
    if (!isQuoted && sign === ")" && --depth < 0) return undefined;
    if (!isQuoted && depth === 0 && mark.test(sign)) {
      parts.push(part.trim());
      part = "";
    } else part += sign;
  }
  return [...parts, part.trim()];
}

/** Functions of one text, by which names are made of values. */
const wording: Readonly<Record<string, (text: string) => string>> = {
  LOWER: (text) => text.toLowerCase(),
  UPPER: (text) => text.toUpperCase(),
  TRIM: (text) => text.trim().replace(/ +/g, " "),
};

const MOST_DEEP = 12;

/** The text of a formula where the cell that it hangs on holds `value`; undefined where it is beyond this reading. */
function textOf(formula: string, value: string, deep = 0): string | undefined {
  if (deep > MOST_DEEP) return undefined;
  const pieces = splitAt(formula.trim(), /&/);
  if (pieces === undefined) return undefined;
  if (pieces.length > 1) {
    const texts = pieces.map((piece) => textOf(piece, value, deep + 1));
    return texts.some((text) => text === undefined) ? undefined : texts.join("");
  }
  const [only = ""] = pieces;
  const quoted = /^"((?:[^"]|"")*)"$/.exec(only);
  if (quoted !== null) return (quoted[1] ?? "").replaceAll('""', '"');
  if (reference(only, "") !== undefined) return value;
  const made = call(only);
  if (made === undefined) return undefined;
  const [first, from, to] = made.parts.map((part) => textOf(part, value, deep + 1));
  if (first === undefined) return undefined;
  if (made.name === "SUBSTITUTE")
    return from === undefined || from === "" || to === undefined ? undefined : first.replaceAll(from, to);
  if (made.name === "CONCATENATE" || made.name === "CONCAT") {
    const texts = made.parts.map((part) => textOf(part, value, deep + 1));
    return texts.some((text) => text === undefined) ? undefined : texts.join("");
  }
  return ownOf(wording, made.name)?.(first);
}

/** The first cell that a formula names, whose value chooses the list. */
function hangsOn(formula: string): number | undefined {
  const cell = /(?<![A-Za-z0-9_!])\$?([A-Z]{1,3})\$?\d+(?![A-Za-z0-9_(])/i.exec(
    formula.replace(/"[^"]*"/g, '""'),
  );
  return cell === null ? undefined : columnNumber(cell[1] ?? "");
}

/** The values that a formula offers, whatever its cell's neighbours hold. */
export interface OfferedValues {
  readonly values: readonly string[];
  readonly hangs:
    | {
        readonly column: number;
        readonly lists: readonly { readonly when: string; readonly values: readonly string[] }[];
      }
    | undefined;
}

/**
 * Works out what a drop-down offers: a range, a name, a choice between them, or a list whose name hangs on another cell.
 * Office Open XML, part 1, 18.3.1.32 (formulas of data validations).
 * @returns undefined where the formula is beyond this reading
 */
export function offeredValues(
  formula: string,
  sheet: string,
  source: ListSource,
  deep = 0,
): OfferedValues | undefined {
  if (deep > MOST_DEEP) return undefined;
  const written = formula.trim().replace(/^=/, "");
  const plain = (values: readonly string[]): OfferedValues => ({ values, hangs: undefined });
  const quoted = /^"([^"]*)"$/.exec(written);
  if (quoted !== null) return plain((quoted[1] ?? "").split(/[,;]/).map((value) => value.trim()));
  const direct = reference(written, sheet);
  if (direct !== undefined) return plain(source.texts(direct.sheet, direct.range));
  const made = call(written);
  if (made === undefined) {
    const named = source.named(written);
    return named === undefined ? undefined : offeredValues(named, sheet, source, deep + 1);
  }
  const again = (part: string): OfferedValues | undefined => offeredValues(part, sheet, source, deep + 1);
  switch (made.name) {
    case "INDIRECT":
      return hanging(made.parts[0] ?? "", sheet, source, deep);
    case "OFFSET":
      return shifted(made.parts, sheet, source);
    case "IF":
    case "CHOOSE":
    case "IFERROR": {
      const found = made.parts.slice(made.name === "IFERROR" ? 0 : 1).flatMap((part) => again(part) ?? []);
      return found.length === 0 ? undefined : plain([...new Set(found.flatMap(({ values }) => values))]);
    }
    default:
      return undefined;
  }
}

/** A list by the name that a text gives: one for each value of the cell that the text hangs on. */
function hanging(text: string, sheet: string, source: ListSource, deep: number): OfferedValues | undefined {
  const column = hangsOn(text);
  if (column === undefined) {
    const name = textOf(text, "");
    return name === undefined ? undefined : offeredValues(name, sheet, source, deep + 1);
  }
  const lists = source.choices(column).flatMap((when) => {
    const name = textOf(text, when);
    const found = name === undefined ? undefined : offeredValues(name, sheet, source, deep + 1);
    return found === undefined || found.values.length === 0 ? [] : [{ when, values: found.values }];
  });
  if (lists.length === 0) return undefined;
  return { values: [...new Set(lists.flatMap(({ values }) => values))], hangs: { column, lists } };
}

/** A range that is as long as its column is filled: `OFFSET(lists!$A$2,0,0,COUNTA(lists!$A:$A)-1)`. */
function shifted(
  [from = "", down = "0", right = "0", rows = ""]: readonly string[],
  sheet: string,
  source: ListSource,
): OfferedValues | undefined {
  const start = reference(from, sheet);
  const [by, aside] = [Number(down), Number(right)];
  if (start === undefined || !Number.isInteger(by) || !Number.isInteger(aside)) return undefined;
  const fixed = Number(rows);
  const row = start.range.row + by;
  const column = start.range.column + aside;
  const lastRow = rows !== "" && Number.isInteger(fixed) ? row + fixed - 1 : Infinity;
  return {
    values: source.texts(start.sheet, { row, lastRow, column, lastColumn: column }),
    hangs: undefined,
  };
}
