import type { Diagnostic } from "../diagnostics/diagnostic.js";
import { diagnostic } from "../diagnostics/diagnostic.js";
import { asSku, type Sku } from "../ids.js";
import type { Compiled } from "../language/compiler.js";
import { readValue, type ReadingDefaults } from "../values/read.js";
import { canonicalText } from "../values/show.js";
import { cleanText } from "../values/text.js";
import { isList, type MaybeBlank } from "../values/value.js";
import { CLEARED, LIST_SEPARATOR } from "./record.js";
import { attributeKind, type AttributeKind } from "./vocabulary.js";

/** How one attribute is read from a row: by one column as it stands, or by an expression over columns. */
export interface ColumnReading {
  readonly attribute: string;
  /** Shown as the value's column: the column's name, or the expression. */
  readonly column: string;
  readonly from:
    | { readonly kind: "column"; readonly index: number }
    | { readonly kind: "expression"; readonly run: Compiled };
}

/** How a source's rows are read. */
export interface RowReading {
  readonly file: string;
  readonly columns: readonly ColumnReading[];
  readonly defaults: ReadingDefaults;
  /** Units of bare numbers by attribute. */
  readonly units: Readonly<Record<string, string>>;
  readonly listSeparator: string;
  readonly clearWord: string | undefined;
}

export type ReadRow =
  | {
      readonly kind: "record";
      readonly sku: Sku;
      readonly texts: readonly string[];
      readonly findings: readonly Diagnostic[];
    }
  | { readonly kind: "rejected"; readonly because: Diagnostic };

export type RowReader = (row: number, cells: readonly string[]) => ReadRow;

/** Reads rows into canonical texts; a value that cannot be read as its kind is kept as written, with a finding. */
export const rowReader = (reading: RowReading): RowReader => {
  const readers = reading.columns.map((column) => cellReader(column, reading));
  const skuAt = reading.columns.findIndex(({ attribute }) => attribute === "sku");
  return (row, cells) => {
    const findings: Diagnostic[] = [];
    const texts = readers.map((read) => read(row, cells, findings));
    const sku = texts[skuAt] ?? "";
    if (sku === "" || sku === CLEARED)
      return {
        kind: "rejected",
        because: diagnostic("blank-key", { key: "sku" }, { place: { file: reading.file, row } }),
      };
    return { kind: "record", sku: asSku(sku), texts, findings };
  };
};

type CellReader = (row: number, cells: readonly string[], findings: Diagnostic[]) => string;

const cellReader = (column: ColumnReading, reading: RowReading): CellReader => {
  const kind = attributeKind(column.attribute);
  const unit = reading.units[column.attribute];
  const defaults = unit === undefined ? reading.defaults : { ...reading.defaults, unit };
  const typed = typedReader(kind, defaults, reading.listSeparator);
  const problem = (row: number, text: string, found: Parameters<typeof unreadable>[3]): Diagnostic =>
    unreadable(column, { file: reading.file, row }, text, found);
  return (row, cells, findings) => {
    const { from } = column;
    const given: MaybeBlank =
      from.kind === "column"
        ? cleanText(cells[from.index] ?? "")
        : from.run({ value: (slot) => cellValue(cells[slot]) });
    if (given === undefined || given === "") return "";
    if (given === reading.clearWord) return CLEARED;
    return typed(given, (text, found) => findings.push(problem(row, text, found)));
  };
};

const cellValue = (cell: string | undefined): MaybeBlank => {
  const text = cleanText(cell ?? "");
  return text === "" ? undefined : text;
};

const unreadable = (
  { attribute, column }: ColumnReading,
  { file, row }: { readonly file: string; readonly row: number },
  value: string,
  problem: Extract<ReturnType<typeof readValue>, { problem: unknown }>["problem"],
): Diagnostic =>
  diagnostic("unreadable-value", { attribute, value, problem }, { place: { file, row, column } }, "warning");

type OnProblem = (text: string, problem: Parameters<typeof unreadable>[3]) => void;

const typedReader = (
  { kind, list }: AttributeKind,
  defaults: ReadingDefaults,
  separator: string,
): ((value: Exclude<MaybeBlank, undefined>, onProblem: OnProblem) => string) => {
  const one = (value: Exclude<MaybeBlank, undefined>, onProblem: OnProblem): string => {
    if (typeof value !== "string") return canonicalText(value);
    if (kind === "text" || kind === "html" || kind === "choice") return value;
    const reading = readValue(kind, value, defaults);
    if ("value" in reading) return canonicalText(reading.value);
    onProblem(value, reading.problem);
    return value;
  };
  if (!list)
    return (value, onProblem) =>
      isList(value) ? value.map((item) => one(item, onProblem)).join(", ") : one(value, onProblem);
  return (value, onProblem) => {
    const items = isList(value) ? value : typeof value === "string" ? splitList(value, separator) : [value];
    return items.map((item) => one(item, onProblem)).join(LIST_SEPARATOR);
  };
};

const splitList = (text: string, separator: string): readonly string[] =>
  text
    .split(separator)
    .flatMap((part) => part.split("\n"))
    .map((part) => part.trim())
    .filter(Boolean);
