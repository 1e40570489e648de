/** Cells that show another text than their value: number formats that matter. */
import { columnNumber } from "../core/diagnostics/place.js";
import { SaxesParser } from "saxes";
import { localName } from "../core/records/local-name.js";

/** How a number format shows a number as another text than its digits. */
export type Shown =
  | { readonly shown: "percent" }
  /** Filled up with zeros: an article number 42 that shows as 00042. */
  | { readonly shown: "zeros"; readonly digits: number }
  /** A part of a day, or a time of it: `10-Dec`, `2026`, `10:30`. */
  | { readonly shown: "part of a date"; readonly format: string };

const partOfDate = (format: string): Shown => ({ shown: "part of a date", format });

// Built-in formats of percent and of parts of dates (ECMA-376, part 1, 18.8.30).
const builtIn = new Map<number, Shown>([
  [9, { shown: "percent" }],
  [10, { shown: "percent" }],
  [16, partOfDate("d-mmm")],
  [17, partOfDate("mmm-yy")],
  [18, partOfDate("h:mm AM/PM")],
  [19, partOfDate("h:mm:ss AM/PM")],
  [20, partOfDate("h:mm")],
  [21, partOfDate("h:mm:ss")],
  [45, partOfDate("mm:ss")],
  [46, partOfDate("[h]:mm:ss")],
  [47, partOfDate("mm:ss.0")],
]);

function shownBy(code: string): Shown | undefined {
  const [positive = ""] = code.replace(/"[^"]*"|\\.|\[[^\]]*\]/g, "").split(";");
  if (positive.includes("%")) return { shown: "percent" };
  if (/^0{2,}$/.test(positive)) return { shown: "zeros", digits: positive.length };
  const isDate = /[ydhs]/i.test(positive) && !/[0#?]/.test(positive.replace(/\.0+/, ""));
  const isWhole = ["y", "m", "d"].every((letter) => positive.toLowerCase().includes(letter));
  return isDate && !isWhole && !/general/i.test(positive) ? partOfDate(code) : undefined;
}

/** The styles of a workbook's cells that show a number otherwise, by the style's index; empty in nearly all workbooks. */
export function shownStyles(stylesXml: string): ReadonlyMap<number, Shown> {
  const formats = new Map(builtIn);
  const styles = new Map<number, Shown>();
  const parser = new SaxesParser();
  let inCells = false;
  let index = 0;
  parser.on("opentag", ({ name, attributes }) => {
    const tag = localName(name);
    if (tag === "numFmt") {
      const shown = shownBy(attributes["formatCode"] ?? "");
      if (shown !== undefined) formats.set(Number(attributes["numFmtId"]), shown);
    }
    if (tag === "cellXfs") inCells = true;
    if (tag !== "xf" || !inCells) return;
    const shown = formats.get(Number(attributes["numFmtId"] ?? "0"));
    if (shown !== undefined) styles.set(index, shown);
    index++;
  });
  parser.on("closetag", ({ name }) => {
    if (localName(name) === "cellXfs") inCells = false;
  });
  parser.write(stylesXml).close();
  return styles;
}

/** Where the cells stand that show their number otherwise; asked row by row, from the first to the last. */
export interface ShownCells {
  in(row: number): ReadonlyMap<number, Shown> | undefined;
}

/** Looks through a sheet for cells with such styles. Rows and columns are counted from 0. */
export function shownCells(sheet: Uint8Array, styles: ReadonlyMap<number, Shown>): ShownCells {
  const rows = new Map<number, Map<number, Shown>>();
  const parser = new SaxesParser();
  let row = -1;
  let column = -1;
  parser.on("opentag", ({ name, attributes }) => {
    const tag = localName(name);
    if (tag === "row") {
      row = attributes["r"] === undefined ? row + 1 : Number(attributes["r"]) - 1;
      column = -1;
    }
    if (tag !== "c") return;
    column = attributes["r"] === undefined ? column + 1 : columnNumber(attributes["r"]);
    const isNumber = attributes["t"] === undefined || attributes["t"] === "n";
    const shown = isNumber ? styles.get(Number(attributes["s"] ?? "-1")) : undefined;
    if (shown === undefined) return;
    const own = rows.get(row) ?? new Map<number, Shown>();
    rows.set(row, own.set(column, shown));
  });
  const decoder = new TextDecoder();
  const PIECE = 1 << 20;
  for (let from = 0; from < sheet.length; from += PIECE)
    parser.write(decoder.decode(sheet.subarray(from, from + PIECE), { stream: true }));
  parser.write(decoder.decode()).close();
  return { in: (wanted) => rows.get(wanted) };
}
