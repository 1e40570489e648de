/** Fills somebody else's workbook: the rows of one sheet are written, every other part stays byte for byte. */
import { bareObject, ownOf } from "../core/own.js";
import { greatest } from "../core/many.js";
import { diagnostic } from "../core/diagnostics/diagnostic.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import { columnLetter, columnNumber } from "../core/diagnostics/place.js";
import { sheetParts, type SheetPart } from "./workbook-parts.js";
import { damagedWorkbook } from "./xlsx-reader.js";
import { xmlText } from "./xml-text.js";
import { guardedMembers } from "./zip-archive.js";

/** A workbook of somebody else's that rows are put into; everything but one sheet's rows stays as it was, byte for byte. */
export interface WorkbookFill {
  /** The texts of the header's row, by column. */
  readonly header: readonly string[];
  /** The workbook with these rows below the header; "" leaves a cell blank. */
  bytes(rows: readonly (readonly string[])[]): Uint8Array;
}

/** Where rows go. */
export interface FillOptions {
  readonly sheet: string;
  /** From 1. */
  readonly headerRow: number;
  readonly firstRow: number;
  /** Rows from the first on that hold examples, which must not stay below the listings. */
  readonly examples?: number;
}

const attribute = (tag: string, name: string): string | undefined =>
  new RegExp(`\\b${name}="([^"]*)"`).exec(tag)?.[1];

const unescaped = (text: string): string =>
  text
    .replace(/&lt;/g, "<")
    .replace(/&gt;/g, ">")
    .replace(/&quot;/g, '"')
    .replace(/&apos;/g, "'")
    .replace(/&#(\d+);/g, (_, code: string) => String.fromCodePoint(Number(code)))
    .replace(/&amp;/g, "&");

const decoder = new TextDecoder();
const encoder = new TextEncoder();
const UNDATED = new Date("1980-01-01T00:00:00");

type Parts = Readonly<Record<string, Uint8Array>>;

function textOf(parts: Parts, name: string, file: string): string {
  const part = ownOf(parts, name);
  if (part === undefined)
    throw new Refusal([
      diagnostic("broken-data", { format: "XLSX", reason: `it has no part ${name}` }, { place: { file } }),
    ]);
  return decoder.decode(part);
}

function sheetsIn(workbook: string, relations: string, file: string): readonly SheetPart[] {
  try {
    return sheetParts(workbook, relations);
  } catch (error) {
    throw damagedWorkbook(file, error);
  }
}

/** The part that holds a sheet, by the workbook's relations. */
function sheetPart(parts: Parts, sheet: string, file: string): string {
  const workbook = textOf(parts, "xl/workbook.xml", file);
  const sheets = sheetsIn(workbook, textOf(parts, "xl/_rels/workbook.xml.rels", file), file);
  const found = sheets.find(({ name }) => name === sheet);
  if (found !== undefined) return found.path;
  const known = sheets.map(({ name }) => name);
  throw new Refusal([diagnostic("unknown-sheet", { sheet, nearest: [], known }, { place: { file } })]);
}

function sharedTexts(parts: Parts): readonly string[] {
  const part = parts["xl/sharedStrings.xml"];
  if (part === undefined) return [];
  return (decoder.decode(part).match(/<(?:\w+:)?si>.*?<\/(?:\w+:)?si>|<(?:\w+:)?si\/>/gs) ?? []).map((item) =>
    [...item.matchAll(/<(?:\w+:)?t\b[^>]*>([^<]*)<\/(?:\w+:)?t>/g)]
      .map(([, text = ""]) => unescaped(text))
      .join(""),
  );
}

/** How a sheet's elements are written, with the prefix that its program chose. */
const tagsOf = (prefix: string) => ({
  prefix,
  data: new RegExp(`<${prefix}sheetData\\s*/>|<${prefix}sheetData>(.*?)</${prefix}sheetData>`, "s"),
  row: new RegExp(`<${prefix}row\\b[^>]*?(?:/>|>.*?</${prefix}row>)`, "gs"),
  cell: new RegExp(`<${prefix}c\\b[^>]*?(?:/>|>.*?</${prefix}c>)`, "gs"),
  value: new RegExp(`<${prefix}v>([^<]*)</${prefix}v>`),
  formula: new RegExp(`<${prefix}f\\b`),
  inner: new RegExp(`>.*</${prefix}c>$`, "s"),
});

type Tags = ReturnType<typeof tagsOf>;

/** A row's cells by column: their tag and what it holds. */
const cellReader =
  (tags: Tags) =>
  (row: string): ReadonlyMap<number, string> =>
    new Map((row.match(tags.cell) ?? []).map((cell) => [columnNumber(attribute(cell, "r") ?? "A"), cell]));

/** A row of examples without what it says: its styles stay, and what the sheet works out. */
const withoutValues = (row: string, tags: Tags): string =>
  row.replace(tags.cell, (cell) =>
    tags.formula.test(cell) ? cell : cell.replace(tags.inner, "/>").replace(/ t="[^"]*"/, ""),
  );

function cellText(cell: string, shared: readonly string[], tags: Tags): string {
  const value = tags.value.exec(cell)?.[1];
  if (attribute(cell, "t") === "s") return shared[Number(value)] ?? "";
  const inline = [...cell.matchAll(/<(?:\w+:)?t\b[^>]*>([^<]*)<\/(?:\w+:)?t>/g)]
    .map(([, text = ""]) => text)
    .join("");
  return unescaped(inline === "" ? (value ?? "") : inline);
}

const rowNumber = (row: string): number => Number(attribute(row, "r") ?? 0);

/** Opens a template: a workbook whose sheet has a header and room below it. */
export async function workbookFill(
  template: Buffer,
  file: string,
  { sheet, headerRow, firstRow, examples = 0 }: FillOptions,
): Promise<WorkbookFill> {
  await guardedMembers(template, file);
  const { unzipSync, zipSync } = await import("fflate");
  const parts = unzipSync(template);
  const part = sheetPart(parts, sheet, file);
  const xml = textOf(parts, part, file);
  // Each program chooses the prefix of its elements itself; most choose none.
  const tags = tagsOf(/<(\w+:)?worksheet\b/.exec(xml)?.[1] ?? "");
  const data = tags.data.exec(xml);
  if (data === null)
    throw new Refusal([
      diagnostic("broken-data", { format: "XLSX", reason: `the sheet has no rows` }, { place: { file } }),
    ]);
  const rows = data[1]?.match(tags.row) ?? [];
  const cellsOf = cellReader(tags);
  const shared = sharedTexts(parts);
  const head = cellsOf(rows.find((row) => rowNumber(row) === headerRow) ?? "");
  const width = greatest(head.keys(), -1) + 1;
  const header = Array.from({ length: width }, (_, column) =>
    cellText(head.get(column) ?? "", shared, tags).trim(),
  );
  const originals = new Map(rows.map((row) => [rowNumber(row), cellsOf(row)] as const));
  // The first row below the header shows how cells are meant to look.
  const model = rows.find((row) => rowNumber(row) === firstRow);
  const styles = new Map(
    [...cellsOf(model ?? "")].flatMap(([column, cell]) => {
      const style = attribute(cell, "s");
      return style === undefined ? [] : [[column, style] as const];
    }),
  );
  const columnStyles = columnStylesOf(xml);
  const { prefix: p } = tags;
  const rowXml = (cells: readonly string[], number: number): string => {
    const before = originals.get(number);
    const written = cells.map((text, column) => {
      const own = before?.get(column);
      // What the channel's sheet works out by itself stays.
      if (text === "" && own !== undefined && tags.formula.test(own)) return own;
      const style = styles.get(column) ?? columnStyles(column);
      const styled = style === undefined ? "" : ` s="${style}"`;
      const at = `${columnLetter(column)}${number}`;
      if (text === "") return style === undefined ? "" : `<${p}c r="${at}"${styled}/>`;
      return `<${p}c r="${at}"${styled} t="inlineStr"><${p}is><${p}t xml:space="preserve">${xmlText(text)}</${p}t></${p}is></${p}c>`;
    });
    const beyond = [...(before ?? [])].filter(
      ([column, cell]) => column >= cells.length && tags.formula.test(cell),
    );
    return `<${p}row r="${number}">${written.join("")}${beyond.map(([, cell]) => cell).join("")}</${p}row>`;
  };
  return {
    header,
    bytes(filled) {
      const above = rows.filter((row) => rowNumber(row) < firstRow);
      // Rows of the template behind those that are filled keep their formulas and styles.
      const behind = rows
        .filter((row) => rowNumber(row) >= firstRow + filled.length)
        .map((row) => (rowNumber(row) < firstRow + examples ? withoutValues(row, tags) : row));
      const own = filled.map((cells, index) => rowXml(cells, firstRow + index));
      const last = greatest(rows.map(rowNumber), Math.max(firstRow + filled.length - 1, headerRow));
      const sheet = xml
        .replace(data[0], () => `<${p}sheetData>${[...above, ...own, ...behind].join("")}</${p}sheetData>`)
        .replace(
          /(<(?:\w+:)?dimension ref=")[^"]*(")/,
          `$1A1:${columnLetter(Math.max(0, width - 1))}${last}$2`,
        );
      const output = bareObject<Uint8Array>();
      // eslint-disable-next-line house/data-names -- a bare object has no name of the language
      for (const [name, bytes] of Object.entries(parts)) output[name] = bytes;
      // eslint-disable-next-line house/data-names -- as above
      output[part] = encoder.encode(sheet);
      output["xl/workbook.xml"] = recalculated(parts["xl/workbook.xml"] ?? new Uint8Array());
      return zipSync(output, { mtime: UNDATED });
    },
  };
}

/** The style of a whole column, where the template gives one. */
function columnStylesOf(xml: string): (column: number) => string | undefined {
  const columns = (xml.match(/<(?:\w+:)?col\b[^>]*>/g) ?? []).flatMap((tag) => {
    const style = attribute(tag, "style");
    return style === undefined
      ? []
      : [{ style, from: Number(attribute(tag, "min")) - 1, to: Number(attribute(tag, "max")) - 1 }];
  });
  return (column) => columns.find(({ from, to }) => column >= from && column <= to)?.style;
}

/** Formulas that count the rows are worked out anew when the workbook is opened. */
function recalculated(workbook: Uint8Array): Uint8Array {
  const xml = decoder.decode(workbook);
  if (/<(?:\w+:)?calcPr\b[^>]*fullCalcOnLoad="1"/.test(xml)) return workbook;
  const changed = /<(?:\w+:)?calcPr\b/.test(xml)
    ? xml
        .replace(/(<(?:\w+:)?calcPr\b[^>]*?) fullCalcOnLoad="[^"]*"/, "$1")
        .replace(/<((?:\w+:)?)calcPr\b/, '<$1calcPr fullCalcOnLoad="1"')
    : xml.replace(/<\/((?:\w+:)?)workbook>/, '<$1calcPr fullCalcOnLoad="1"/></$1workbook>');
  return encoder.encode(changed);
}
