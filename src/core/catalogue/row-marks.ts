/**
 * Rows whose texts are in a language, or whose amounts are in a currency, that a column names: what they say is that of the
 * attribute in that language or currency.
 */
import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import { ownOf } from "../own.js";
import { isCurrency } from "../values/currencies.js";
import { languageIn } from "../values/languages.js";
import { cleanText } from "../values/text.js";
import {
  cellReader,
  type CellDefaults,
  type CellNotes,
  type CellReader,
  type ColumnReading,
} from "./cell-reader.js";
import type { PairColumns } from "./pair-reader.js";
import { attributeKind, isOurs } from "./vocabulary.js";

/** A column that says the language or the currency of its rows. */
export interface MarkColumn {
  readonly index: number;
  readonly column: string;
}

/** The columns that mark rows. */
export interface RowMarks {
  readonly language: MarkColumn | undefined;
  readonly currency: MarkColumn | undefined;
  /** The catalogue's own language, which needs no mark. */
  readonly ownLanguage: string;
}

const spoken: ReadonlySet<string> = new Set(
  "name description features keywords color size material pattern url".split(" "),
);

/** Whether an attribute's texts are in a language. */
const speaks = (attribute: string): boolean => spoken.has(attribute) || !isOurs(attribute);

type Read = (
  row: number,
  cells: readonly string[],
  texts: string[],
  notes: CellNotes,
) => Diagnostic | undefined;

/** A reader of one column under a mark: where its text stands among the record's, and what it is. */
interface MarkedColumn {
  readonly at: number;
  readonly index: number;
  readonly read: CellReader;
}

/** Reads the marked columns of rows into their attributes; a row whose mark is none that is known is not taken. */
export function markedReader(
  columns: readonly ColumnReading[],
  marks: RowMarks,
  defaults: CellDefaults,
  record: PairColumns,
): { readonly read: Read; isMarked(column: number): boolean } {
  const { kindOf = attributeKind } = defaults;
  const isMoney = ({ attribute }: ColumnReading): boolean =>
    marks.currency !== undefined && kindOf(attribute).kind === "money";
  const isText = ({ attribute }: ColumnReading): boolean =>
    marks.language !== undefined && /^(?:text|html|url)$/.test(kindOf(attribute).kind) && speaks(attribute);
  const marked = columns.map(
    (column) => !column.attribute.includes("@") && (isMoney(column) || isText(column)),
  );
  const known = new Map<string, readonly MarkedColumn[]>();
  const readersOf = (language: string | undefined, currency: string | undefined): readonly MarkedColumn[] => {
    const key = `${language ?? ""} ${currency ?? ""}`;
    const found = known.get(key);
    if (found !== undefined) return found;
    const made = columns.flatMap((column, at): readonly MarkedColumn[] => {
      if (marked[at] !== true) return [];
      const mark = isMoney(column) ? currency : language;
      const isOwn = mark === (isMoney(column) ? defaults.currency : marks.ownLanguage);
      const attribute = isOwn || mark === undefined ? column.attribute : `${column.attribute}@${mark}`;
      const unit = ownOf(defaults.units, column.attribute);
      const units = unit === undefined ? defaults.units : { ...defaults.units, [attribute]: unit };
      const read = cellReader({ ...column, attribute }, { ...defaults, units });
      return [{ at, index: isOwn ? at : record.indexOf(attribute, [column.column], column.channel), read }];
    });
    known.set(key, made);
    return made;
  };
  const said = (
    mark: MarkColumn | undefined,
    what: "language" | "currency",
    cells: readonly string[],
    row: number,
  ): { readonly value: string | undefined } | Diagnostic => {
    if (mark === undefined) return { value: undefined };
    const written = cleanText(cells[mark.index] ?? "");
    const value =
      what === "language"
        ? languageIn(written)
        : isCurrency(written.toUpperCase())
          ? written.toUpperCase()
          : undefined;
    if (value !== undefined) return { value };
    const place = { file: defaults.file, row, column: mark.column };
    return diagnostic("unknown-row-mark", { what, value: written }, { place });
  };
  return {
    isMarked: (column) => marked[column] === true,
    read(row, cells, texts, notes) {
      const language = said(marks.language, "language", cells, row);
      if (!("value" in language)) return language;
      const currency = said(marks.currency, "currency", cells, row);
      if (!("value" in currency)) return currency;
      for (const { index, read } of readersOf(language.value, currency.value)) {
        const text = read(row, cells, notes);
        while (texts.length <= index) texts.push("");
        if (text !== "") texts[index] = text;
      }
      return undefined;
    },
  };
}
