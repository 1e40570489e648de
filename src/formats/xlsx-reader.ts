/** A workbook's sheet as a stream of rows, as the person saw them. */
import type { formatValue } from "hucre";
import type { CellValue, streamXlsxRows } from "hucre/xlsx";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { nearest } from "../core/values/nearest.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { allBytes, type ByteSource } from "./byte-source.js";
import { headedRows, padded } from "./header-row.js";
import { fixedColumns, ROW_LIMIT, rowTooLong, type TableRecord, type TableStream } from "./table-stream.js";
import type { SheetPart } from "./workbook-parts.js";
import type { Shown } from "./xlsx-shown.js";
import { guardedMembers, memberBytes } from "./zip-archive.js";

/** What is stated of a workbook. */
export interface XlsxOptions {
  /** A sheet's name, or its number from 1. */
  readonly sheet?: string | number | undefined;
  readonly headerRow?: number | undefined;
}

/** The most bytes of a workbook. */
export const WORKBOOK_LIMIT = 512 << 20;
const BATCH = 500;
// What stands in a sheet before its rows.
const HEAD_BYTES = 64 << 10;

/** The sheets of a workbook, in their order. */
async function partsOf(
  bytes: Buffer,
  file: string,
): Promise<{ readonly sheets: readonly SheetPart[]; readonly strings: string }> {
  const workbook = await memberBytes(bytes, "xl/workbook.xml", file);
  if (workbook === undefined)
    throw new Refusal([
      diagnostic("not-a-table", { found: "a ZIP archive without a workbook" }, { place: { file } }),
    ]);
  const relations = await memberBytes(bytes, "xl/_rels/workbook.xml.rels", file);
  const { sheetParts, stringsPart } = await import("./workbook-parts.js");
  const decoder = new TextDecoder();
  const known = decoder.decode(relations);
  try {
    return { sheets: sheetParts(decoder.decode(workbook), known), strings: stringsPart(known) };
  } catch (error) {
    throw damagedWorkbook(file, error);
  }
}

/** A workbook's sheets, and how many texts its cells share, after all that is held in memory was found harmless. */
export async function guardedWorkbook(
  bytes: Buffer,
  file: string,
): Promise<{ readonly sheets: readonly SheetPart[]; readonly texts: number }> {
  await guardedMembers(bytes, file);
  const { sheets, strings } = await partsOf(bytes, file);
  const { guardStrings } = await import("./workbook-guard.js");
  return { sheets, texts: await guardStrings(bytes, strings, file) };
}

function chosenSheet(sheets: readonly SheetPart[], wanted: string | number, file: string): number {
  const names = sheets.map(({ name }) => name);
  const at = typeof wanted === "number" ? wanted - 1 : names.indexOf(wanted);
  if (at >= 0 && at < names.length) return at;
  const close = typeof wanted === "number" ? [] : nearest(wanted, names);
  throw new Refusal([
    diagnostic("unknown-sheet", { sheet: String(wanted), nearest: close, known: names }, { place: { file } }),
  ]);
}

const LOOKED_AT = 30;
const LEAST_COLUMNS = 3;
const MOST_SHEETS = 12;

/** The first sheet that people see and that holds a table: terms and covers before it are a column or two wide. */
async function firstTable(
  bytes: Buffer,
  sheets: readonly SheetPart[],
  rowsOf: typeof streamXlsxRows,
): Promise<number> {
  const visible = sheets.flatMap(({ isHidden }, at) => (isHidden ? [] : [at]));
  const [first = 0] = visible;
  if (visible.length < 2) return first;
  let widest = { at: first, width: 0 };
  for (const at of visible.slice(0, MOST_SHEETS)) {
    let [width, seen] = [0, 0];
    try {
      for await (const { values } of rowsOf(bytes, { sheet: at })) {
        width = Math.max(width, Array.from(values).filter((value) => cellText(value) !== "").length);
        if (++seen >= LOOKED_AT) break;
      }
    } catch {
      // What is damaged is told when it is read.
      return first;
    }
    if (width >= LEAST_COLUMNS) return at;
    if (width > widest.width) widest = { at, width };
  }
  return widest.at;
}

/** A number as a spreadsheet shows it: at most 15 digits, never with an exponent. */
function numberText(value: number): string {
  if (Number.isInteger(value) && Math.abs(value) < 1e21) return BigInt(value).toString();
  const [digits = "", exponent = ""] = value.toPrecision(15).split("e");
  if (exponent === "") return digits.includes(".") ? digits.replace(/\.?0+$/, "") : digits;
  return Number(`${digits}e${exponent}`)
    .toFixed(20)
    .replace(/\.?0+$/, "");
}

/** How a cell shows its value where that is another text than the value's own. */
export type ShowCell = (value: number | Date) => string;

function showing(shown: Shown, format: typeof formatValue): ShowCell {
  switch (shown.shown) {
    case "percent":
      return (value) =>
        typeof value === "number" ? `${numberText(Number((value * 100).toPrecision(15)))}%` : cellText(value);
    case "zeros":
      return (value) => cellText(value).replace(/^\d+$/, (digits) => digits.padStart(shown.digits, "0"));
    case "part of a date":
      return (value) => format(value, shown.format);
  }
}

/** A cell's text, as a person saw it where that matters. */
export function cellText(value: CellValue | undefined, show?: ShowCell): string {
  if (show !== undefined && ((typeof value === "number" && Number.isFinite(value)) || value instanceof Date))
    return show(value);
  if (value === null || value === undefined) return "";
  if (typeof value === "string") return value;
  if (typeof value === "number") return Number.isFinite(value) ? numberText(value) : "";
  if (typeof value === "boolean") return value ? "yes" : "no";
  const iso = value.toISOString();
  return iso.endsWith("T00:00:00.000Z") ? iso.slice(0, 10) : iso.slice(0, 19).replace("T", " ");
}

/** The cells of a sheet whose number shows otherwise than its digits; undefined where the workbook has no such style. */
async function shownIn(bytes: Buffer, path: string, file: string): Promise<ShowingCells | undefined> {
  const styles = await memberBytes(bytes, "xl/styles.xml", file);
  const { shownCells, shownStyles } = await import("./xlsx-shown.js");
  const found = styles === undefined ? undefined : shownStyles(new TextDecoder().decode(styles));
  if (found === undefined || found.size === 0) return undefined;
  const xml = await memberBytes(bytes, path, file);
  if (xml === undefined) return undefined;
  const { formatValue } = await import("hucre");
  const shows = new Map<Shown, ShowCell>([...found.values()].map((one) => [one, showing(one, formatValue)]));
  const cells = shownCells(xml, found);
  return {
    in(row) {
      const own = cells.in(row);
      return (column) => {
        const one = own?.get(column);
        return one === undefined ? undefined : shows.get(one);
      };
    },
  };
}

/** How the cells of a row show their values, by column; undefined for those that show them as they are. */
interface ShowingCells {
  in(row: number): (column: number) => ShowCell | undefined;
}

/**
 * Opens one sheet of a workbook.
 * @throws Refusal when it is damaged, protected by a password, too large, or has no such sheet
 */
export async function openXlsx(source: ByteSource, options: XlsxOptions = {}): Promise<TableStream> {
  const { file } = source;
  const bytes = await allBytes(source, WORKBOOK_LIMIT);
  const { sheets, texts } = await guardedWorkbook(bytes, file);
  const { guardSheet } = await import("./workbook-guard.js");
  const names = sheets.map(({ name }) => name);
  const { streamXlsxRows } = await import("hucre/xlsx");
  const sheet =
    options.sheet === undefined
      ? await firstTable(bytes, sheets, streamXlsxRows)
      : chosenSheet(sheets, options.sheet, file);
  const path = sheets[sheet]?.path ?? "";
  const head = await guardSheet(bytes, path, file, texts, HEAD_BYTES);
  const shown = await shownIn(bytes, path, file).catch((error: unknown) => {
    throw damagedWorkbook(file, error);
  });
  async function* records(): AsyncGenerator<readonly TableRecord[]> {
    let batch: TableRecord[] = [];
    try {
      for await (const { index, values } of streamXlsxRows(bytes, { sheet })) {
        const own = shown?.in(index);
        const cells = Array.from(values, (value, column) => cellText(value, own?.(column)));
        if (cells.every((cell) => cell === "")) continue;
        if (cells.reduce((sum, cell) => sum + cell.length, 0) > ROW_LIMIT) throw rowTooLong(file, index + 1);
        batch.push({ row: index + 1, cells });
        if (batch.length < BATCH) continue;
        yield batch;
        batch = [];
      }
    } catch (error) {
      throw damagedWorkbook(file, error);
    }
    if (batch.length > 0) yield batch;
  }
  const headed = await headedRows(records(), file, options.headerRow);
  const { hiddenColumns } = await import("./workbook-parts.js");
  const hidden = hiddenColumns(new TextDecoder().decode(head));
  const header = [...headed.header];
  while (header.at(-1) === "") header.pop();
  const others =
    names.length > 1 ? `${names.length - 1} more: ${names.filter((_, at) => at !== sheet).join(", ")}` : "";
  return {
    file,
    format: "xlsx",
    header,
    ...(headed.headings === undefined ? {} : { headings: headed.headings }),
    ...fixedColumns(header),
    headerRow: headed.headerRow,
    ...(names.length > 1 ? { sheet: names[sheet] ?? "" } : {}),
    hidden,
    sample: headed.sample,
    batches: padded(headed.batches, header),
    told: () => [
      `sheet "${names[sheet] ?? ""}"${others === "" ? "" : ` (${others})`}`,
      ...(headed.headerRow > 1 ? [`header in row ${headed.headerRow}`] : []),
      ...(header.some((name, at) => name !== "" && hidden.has(at))
        ? ["hidden columns are left out of a proposal"]
        : []),
    ],
  };
}

/** An error of the reader's as a refusal of ours. */
export function damagedWorkbook(file: string, error: unknown): unknown {
  return error instanceof Refusal || !(error instanceof Error)
    ? error
    : new Refusal([
        diagnostic("broken-data", { format: "XLSX", reason: error.message }, { place: { file } }),
      ]);
}
