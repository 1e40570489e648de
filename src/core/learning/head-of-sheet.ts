/**
 * The head of a template: which rows name columns, and what each other row above the listings says. Rows are told apart
 * by what their cells look like.
 */
import { greatest } from "../many.js";
import { fold } from "../values/text.js";
import { decimal } from "../values/decimal.js";
import { legendLine, needMarks, needOf, type NeedMarks, type NeedSaid } from "./need-words.js";
import { textAt, type SheetPaper } from "./paper.js";
import { listedValues, readSentence } from "./sentence.js";
import { readShorthand } from "./shorthand.js";

/** What a row above the listings says of the columns. */
export type HeadRole =
  "labels" | "codes" | "needs" | "kinds" | "guidance" | "values" | "examples" | "groups" | "lengths";

/** The rows above the listings. */
export interface SheetHead {
  /** Rows from 0 by what they say; several rows of guidance can stand there. */
  readonly rows: readonly { readonly row: number; readonly role: HeadRole }[];
  /** The row that names the columns best. */
  readonly named: number;
  /** The first row for listings, from 0; filled examples may stand there. */
  readonly firstRow: number;
  /** Filled rows from there on. */
  readonly examples: number;
  readonly width: number;
}

interface RowShape {
  readonly row: number;
  readonly texts: readonly string[];
  readonly filled: number;
  readonly distinct: number;
  readonly averageLength: number;
  readonly codes: number;
  readonly numbers: number;
  readonly needs: number;
  readonly kinds: number;
  readonly links: number;
  readonly lists: number;
  readonly digitsAlone: number;
  readonly isMerged: boolean;
}

/** Rows above the listings are looked for among so many. */
const ROWS_LOOKED_AT = 40;
const LEAST_COLUMNS = 3;

const code =
  /^[\p{L}][\p{L}\p{N}]*(?:[._:/-][\p{L}\p{N}]+)+$|^[a-z]+[A-Z][A-Za-z0-9]*$|^[A-Z]{2,}[A-Z0-9]*$|^[A-Z]{1,3}\d{2,}$|^[a-z]+\d*$/u;
const plainCode =
  /^(?=.*[\d_.:])[\p{L}][\p{L}\p{N}]*(?:[._:/-]?[\p{L}\p{N}]+)*$|^[a-z]+(?:[A-Z][a-z0-9]*)+$|^[A-Z]{3,}[A-Z0-9_]*$/u;

/** Whether a text is the kind of name that programs know a column by. */
export const isCode = (text: string): boolean => !text.includes(" ") && text.length <= 60 && code.test(text);

const share = (count: number, of: number): number => (of === 0 ? 0 : count / of);

const kindWord =
  /^(?:text|string|str|enum|list|liste|lista|choice|integer|int|entero|entier|ganzzahl|number|numeric|zahl|número|nombre|decimal|dezimal|date|datum|fecha|url|link|boolean|bool|ean|gtin|html|texto|texte|money|price|preis|precio|prix|float|double|char|varchar|auswahl|ja\/nein|yes\/no|alphanumeric|measure|image|bild|image url)(?:\s*[([,:;].*)?$/iu;

/** Filled cells with the heading over several columns that each stands under: `Weight` over value and unit. */
const grouped = (sheet: SheetPaper, row: number, texts: readonly string[]): readonly string[] =>
  texts.flatMap((text, column) => {
    if (text === "") return [];
    const above = sheet.merges.find(
      (one) =>
        one.lastRow === row - 1 &&
        one.column <= column &&
        column <= one.lastColumn &&
        one.lastColumn > one.column,
    );
    return [`${above === undefined ? "" : textAt(sheet, above.row, above.column)} ${text}`.toLowerCase()];
  });

function shapeOf(sheet: SheetPaper, row: number, width: number, legend: NeedMarks): RowShape {
  const texts = Array.from({ length: width }, (_, column) => headText(sheet, row, column));
  const filledTexts = texts.filter((text) => text !== "");
  const filled = filledTexts.length;
  const marks = needMarks(filledTexts, legend);
  const needs = filledTexts.filter(
    (text) =>
      text.length <= 40 && (marks.has(text.toLowerCase().trim()) || marks.has(fold(text)) || wholeNeed(text)),
  ).length;
  return {
    row,
    texts,
    filled,
    distinct: share(new Set(grouped(sheet, row, texts)).size, filled),
    averageLength: share(
      filledTexts.reduce((sum, text) => sum + text.length, 0),
      filled,
    ),
    codes: share(filledTexts.filter(isCode).length, filled),
    numbers: share(
      filledTexts.filter((text) => decimal(text.replace(",", ".")) !== undefined).length,
      filled,
    ),
    digitsAlone: share(filledTexts.filter((text) => /^\d{1,5}$/.test(text)).length, filled),
    needs: share(needs, filled),
    kinds: share(
      filledTexts.filter((text) => kindWord.test(text) || readShorthand(text) !== undefined).length,
      filled,
    ),
    links: share(filledTexts.filter((text) => /^https?:\/\/\S+$/.test(text)).length, filled),
    lists: share(filledTexts.filter((text) => listedValues(text).length > 1).length, filled),
    isMerged: sheet.merges.some((one) => one.row <= row && row <= one.lastRow && one.lastColumn > one.column),
  };
}

/** A heading that stands in a cell merged downwards, or blank below one, is read from the cell's top. */
export function headText(sheet: SheetPaper, row: number, column: number): string {
  const own = textAt(sheet, row, column);
  // A bare number below a heading of several columns counts on from it: `Pictures` over 1, 2, 3.
  if (/^\d{1,2}$/.test(own)) {
    const above = sheet.merges.find(
      (one) =>
        one.lastRow === row - 1 &&
        one.column <= column &&
        column <= one.lastColumn &&
        one.lastColumn > one.column,
    );
    return above === undefined ? own : `${textAt(sheet, above.row, above.column)} ${own}`.trim();
  }
  if (own !== "") return own;
  const merged = sheet.merges.find(
    (one) => one.row < row && row <= one.lastRow && one.column === column && one.lastColumn === column,
  );
  return merged === undefined ? "" : textAt(sheet, merged.row, merged.column);
}

/** A need as the whole of a short cell; a sentence that happens to hold such a word is guidance. */
const wholeNeed = (text: string): boolean => text.split(/\s+/).length <= 4 && needOf(text) !== undefined;

/** What the sheet says of letters and marks anywhere above or beside its table: `M = mandatory`. */
export function legendOf(sheets: readonly SheetPaper[]): NeedMarks {
  const found = new Map<string, NeedSaid>();
  for (const sheet of sheets) {
    if (sheet.rows.length > 400) continue;
    for (const row of sheet.rows.slice(0, ROWS_LOOKED_AT)) {
      row.forEach((cell, column) => {
        const whole = legendLine(cell.text);
        if (whole !== undefined) found.set(markKey(whole.mark), whole.said);
        const next = row[column + 1]?.text ?? "";
        if (/^(?:\p{Lu}{1,2}|\*{1,3}|[†‡!●○◐◉◎✓✔✗✘■□▲△•◦])$/u.test(cell.text.trim()) && wholeNeed(next)) {
          const said = needOf(next);
          if (said !== undefined) found.set(markKey(cell.text.trim()), said);
        }
      });
    }
  }
  return found;
}

const markKey = (mark: string): string => (/^\p{L}/u.test(mark) ? mark.toLowerCase() : mark);

/** Where drop-downs and other rules begin: listings stand from there on. */
function ruledFrom({ rules }: SheetPaper): number | undefined {
  const rows = rules.filter(({ kind }) => kind === "list").map(({ firstRow }) => firstRow);
  if (rows.length === 0) return undefined;
  const counts = new Map<number, number>();
  for (const row of rows) counts.set(row, (counts.get(row) ?? 0) + 1);
  const [best] = [...counts].sort((a, b) => b[1] - a[1] || a[0] - b[0])[0] ?? [];
  return best === undefined || best === 0 ? undefined : best;
}

const looksLikeData = ({ texts, numbers, links, filled, needs, kinds }: RowShape): boolean =>
  filled > 0 &&
  needs < 0.7 &&
  kinds < 0.6 &&
  (links > 0 ||
    numbers >= 0.15 ||
    texts.some((text) => /^\d{4}-\d\d-\d\d$|^\d{8,14}$|^\d+[.,]\d\d$/.test(text)));

const looksLikeLabels = ({ filled, distinct, numbers, links, averageLength, texts }: RowShape): boolean =>
  filled >= 2 &&
  distinct > 0.7 &&
  numbers < 0.1 &&
  links === 0 &&
  averageLength < 45 &&
  texts.filter((text) => text !== "").every((text) => /\p{L}|#/u.test(text));

/** Whether a text says how a cell is to be filled; a short name that only sounds like a kind does not. */
function rules(text: string): boolean {
  if (text === "") return false;
  const said = Object.keys(readSentence(text));
  return said.length > 0 && (text.length >= 25 || said.some((what) => what !== "kind" && what !== "unit"));
}

function roleOf(shape: RowShape, others: readonly RowShape[]): HeadRole | undefined {
  const { needs, kinds, codes, averageLength, distinct, texts, digitsAlone, filled } = shape;
  const [first = ""] = texts;
  if (needs >= 0.8) return "needs";
  if (kinds >= 0.6) return "kinds";
  if (digitsAlone > 0.9 && filled > 1 && /length|länge|longueur|longitud|max/i.test(first)) return "lengths";
  const said = texts.filter(rules).length;
  if (averageLength >= 12 && share(said, filled) >= 0.5 && codes < 0.5) return "guidance";
  if (shape.lists >= 0.7 && filled >= 1 && others.some((one) => one.filled > filled)) return "values";
  if (distinct > 0.85 && codes >= 0.85 && texts.some((text) => plainCode.test(text))) return "codes";
  if (looksLikeLabels(shape)) return averageLength > 28 ? "guidance" : "labels";
  return averageLength >= 25 ? "guidance" : undefined;
}

/** The rows of a sheet that name and explain its columns; undefined where it has none that are wide enough. */
export function headOfSheet(sheet: SheetPaper, legend: NeedMarks = new Map()): SheetHead | undefined {
  const width = greatest(
    sheet.rows.slice(0, ROWS_LOOKED_AT).map((row) => row.findLastIndex(({ text }) => text.trim() !== "") + 1),
    0,
  );
  const shapes = sheet.rows.slice(0, ROWS_LOOKED_AT).map((_, row) => shapeOf(sheet, row, width, legend));
  const widest = greatest(
    shapes.filter((one) => looksLikeLabels(one)).map(({ filled }) => filled),
    0,
  );
  if (widest < LEAST_COLUMNS) return undefined;
  const ruled = ruledFrom(sheet);
  const start = shapes.findIndex(
    (one) =>
      one.filled >= Math.max(LEAST_COLUMNS, widest * 0.6) &&
      (looksLikeLabels(one) || one.needs >= 0.8) &&
      !one.isMerged,
  );
  if (start < 0) return undefined;
  const roles: { row: number; role: HeadRole }[] = [];
  const end = Math.min(shapes.length, ruled ?? shapes.length);
  let row = start;
  for (; row < end; row++) {
    const shape = shapes[row];
    if (shape === undefined || shape.filled === 0) {
      // A blank row within the head is passed over where rules begin below it.
      if (ruled !== undefined) continue;
      break;
    }
    if (row > start && looksLikeData(shape)) break;
    const role = roleOf(shape, shapes);
    if (role === undefined) break;
    // A second row of labels would be a row of listings; a first one may be.
    if (role === "labels" && roles.some((one) => one.role === "labels")) {
      if (ruled === undefined && !isSecondHead(roles, shape, shapes)) break;
      roles.push({ row, role: "groups" });
      continue;
    }
    if (role === "codes" && roles.some((one) => one.role === "codes")) break;
    if ((role === "values" || role === "guidance") && shape.filled < widest * 0.2) break;
    roles.push({ row, role });
  }
  settleLabels(roles, shapes);
  const named = roles.find(({ role }) => role === "labels") ?? roles.find(({ role }) => role === "codes");
  if (named === undefined) return undefined;
  const last = greatest(roles.map((one) => one.row));
  const firstRow =
    ruled !== undefined && ruled > last
      ? ruled
      : sheet.frozenRows > last + 1 && sheet.frozenRows <= last + 3
        ? sheet.frozenRows
        : last + 1;
  const examples = filledFrom(sheet, firstRow, width);
  const groups = groupRow(sheet, start, width);
  return {
    rows: groups === undefined ? roles : [{ row: groups, role: "groups" as const }, ...roles],
    named: named.row,
    firstRow,
    examples,
    width,
  };
}

/** Whether a second row of short texts explains the first: as wide, and nothing in it is like a listing. */
function isSecondHead(
  roles: readonly { readonly row: number; readonly role: HeadRole }[],
  shape: RowShape,
  shapes: readonly RowShape[],
): boolean {
  const first = shapes[roles.find(({ role }) => role === "labels")?.row ?? -1];
  return (
    first !== undefined &&
    shape.filled >= first.filled * 0.9 &&
    shape.row === first.row + 1 &&
    shape.codes >= 0.9 &&
    first.codes < 0.6
  );
}

/** Of two rows that name columns, the one with blanks in its names is for people, the other for programs. */
function settleLabels(roles: { row: number; role: HeadRole }[], shapes: readonly RowShape[]): void {
  const codes = roles.filter(({ role }) => role === "codes");
  if (roles.some(({ role }) => role === "labels")) return;
  const groups = roles.find(({ role, row }) => role === "groups" && (shapes[row]?.distinct ?? 0) > 0.9);
  if (groups !== undefined) groups.role = "labels";
  else if (codes.length === 0) {
    const guidance = roles.find(({ role, row }) => role === "guidance" && (shapes[row]?.distinct ?? 0) > 0.9);
    if (guidance !== undefined) guidance.role = "labels";
  }
}

/** Rows in one piece from a row on that hold something. */
function filledFrom(sheet: SheetPaper, from: number, width: number): number {
  let count = 0;
  for (let row = from; row < sheet.rows.length; row++) {
    const isFilled = Array.from({ length: width }, (_, column) => textAt(sheet, row, column)).some(
      (text) => text !== "",
    );
    if (!isFilled) break;
    count++;
  }
  return count;
}

/** A row of headings over several columns each, right above the head. */
function groupRow(sheet: SheetPaper, start: number, width: number): number | undefined {
  const above = start - 1;
  if (above < 0) return undefined;
  const merged = sheet.merges.filter(
    ({ row, lastRow, column, lastColumn }) => row <= above && above <= lastRow && lastColumn > column,
  );
  if (merged.length >= 2) return above;
  const texts = Array.from({ length: width }, (_, column) => textAt(sheet, above, column)).filter(
    (text) => text !== "",
  );
  return texts.length >= 2 && texts.length < width * 0.6 && merged.length > 0 ? above : undefined;
}

/** The heading of the group that a column stands under; "" where it stands under none. */
export function groupOf(sheet: SheetPaper, { rows }: SheetHead, column: number): string {
  const group = rows.find(({ role }) => role === "groups");
  if (group === undefined) return "";
  const merged = sheet.merges.find(
    ({ row, lastRow, column: first, lastColumn }) =>
      row <= group.row && group.row <= lastRow && first <= column && column <= lastColumn,
  );
  return merged === undefined ? textAt(sheet, group.row, column) : textAt(sheet, merged.row, merged.column);
}
