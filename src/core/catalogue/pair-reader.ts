/**
 * Columns that name attributes and columns that hold their values: long tables, options of shops. Rows may bring
 * attributes that no row named before.
 */
import { diagnostic } from "../diagnostics/diagnostic.js";
import { shownText } from "../values/show.js";
import { cleanText, fold } from "../values/text.js";
import { cellReader, cellValue, type CellDefaults, type CellNotes, type CellReader } from "./cell-reader.js";
import { placesIn } from "./list-cell.js";
import { holdsSeveral, itemsOf, listText } from "./list-text.js";
import { ownAttribute } from "./own-attribute.js";
import { attributeForColumn, canBeAxis, vocabulary } from "./vocabulary.js";

/**
 * Two columns of which one names attributes and the other holds their values. Where a cell has several names, its values
 * stand in the same order.
 */
export interface PairReading {
  readonly nameIndex: number;
  readonly valueIndex: number;
  /** Shown as the value's column. */
  readonly column: string;
  /** Whether members of a group differ in it. */
  readonly varies: boolean;
}

interface Attribute {
  readonly attribute: string;
  readonly column: string;
}

/** The texts' attributes, to which a pair may add one that no row named before. */
export interface PairColumns {
  indexOf(attribute: string, column: string): number;
}

/** Columns of a record that grow by what pairs name. */
export const pairColumns = (attributes: Attribute[]): PairColumns => ({
  indexOf(attribute, column) {
    const known = attributes.findIndex((entry) => entry.attribute === attribute);
    return known >= 0 ? known : attributes.push({ attribute, column }) - 1;
  },
});

/** The attribute that a name in a cell means: one of the vocabulary's, or the user's own. */
const attributeNamed = (name: string): string => attributeForColumn(fold(name)) ?? ownAttribute(name);

/** The same for what members differ in: "Pieces" is no stock and "Title" no name, but an attribute of the shop's own. */
const axisNamed = (name: string): string => {
  const meant = attributeForColumn(fold(name));
  if (meant !== undefined && canBeAxis(meant)) return meant;
  const own = ownAttribute(name);
  return vocabulary.includes(own) ? `option_${own}` : own;
};

/** The row that pairs are read of. */
export interface PairRow {
  readonly row: number;
  readonly cells: readonly string[];
  /** Taken over: values of pairs are set among them. */
  readonly texts: string[];
  readonly notes: CellNotes;
  /** The group that it belongs to, or is the head of; "" for none. */
  readonly group: string;
  /** Whether it is a group's own row, whose values are its members' to say. */
  readonly isHead: boolean;
  /** Whether the row that names what its group varies by may still come. */
  readonly mayWait: boolean;
}

/** Sets the values of a row's pairs among its texts; false where it has to wait for its group's names. */
export type ReadPairs = (row: PairRow) => boolean;

/** One name and its value, as they stand in their cells. */
interface NamedCell {
  readonly name: string;
  readonly value: string;
}

/** Reads the pairs of a row into texts by attribute. */
export const pairReader = (
  { pairs, ...defaults }: CellDefaults & { readonly pairs: readonly PairReading[] },
  columns: PairColumns,
): ReadPairs => {
  const readers = new Map<string, { readonly index: number; readonly read: CellReader }>();
  const readerOf = (
    attribute: string,
    column: string,
  ): { readonly index: number; readonly read: CellReader } => {
    const known = readers.get(attribute);
    if (known !== undefined) return known;
    const from = { kind: "column", index: 0 } as const;
    const made = {
      index: columns.indexOf(attribute, column),
      read: cellReader({ attribute, column, from }, defaults),
    };
    readers.set(attribute, made);
    return made;
  };
  // Names that stand on a group's first or own row hold for all its rows, wherever those stand.
  const namesOf = new Map<string, readonly string[]>();
  const interned = new Map<string, readonly string[]>();
  const remember = (group: string, names: readonly string[]): void => {
    const key = names.join("\u0000");
    const kept = interned.get(key) ?? names;
    interned.set(key, kept);
    namesOf.set(group, kept);
  };
  const placesOf = (cell: string | undefined, isOne: boolean): readonly string[] => {
    const text = cell ?? "";
    if (isOne) return [cleanText(text)];
    return holdsSeveral(text)
      ? itemsOf(text).map(cleanText)
      : placesIn(text, defaults.listSeparator).map(cleanText);
  };
  /** The names of a pair of columns with their values; or undefined where their counts differ, which is told. */
  const namedCells = (
    pair: PairReading,
    namesCell: string,
    { row, cells, notes }: PairRow,
  ): readonly NamedCell[] | undefined => {
    const valueCell = cells[pair.valueIndex] ?? "";
    const isOne = !holdsSeveral(namesCell) && placesIn(namesCell, defaults.listSeparator).length < 2;
    const [names, values] = [placesOf(namesCell, isOne), isOne ? [valueCell] : placesOf(valueCell, false)];
    if (names.length === values.length || !values.some(Boolean))
      return names.map((name, at) => ({ name, value: values[at] ?? "" }));
    notes.findings.push(
      diagnostic(
        "pairs-apart",
        { names: names.length, values: values.length, text: shownText(cellValue(valueCell)) },
        { place: { file: defaults.file, row, column: pair.column } },
        "warning",
      ),
    );
    return undefined;
  };
  return (row) => {
    const { cells, texts, notes, group, isHead, mayWait } = row;
    const above = namesOf.get(group);
    const named = pairs.map(({ nameIndex, varies }, index) => {
      const own = cells[nameIndex] ?? "";
      return cleanText(own) === "" && varies && group !== "" ? (above?.[index] ?? "") : own;
    });
    const hasValue = ({ valueIndex }: PairReading): boolean => cellValue(cells[valueIndex]) !== undefined;
    const isOpen = ({ varies, ...pair }: PairReading, at: number): boolean =>
      varies && named[at] === "" && hasValue({ varies, ...pair });
    if (mayWait && !isHead && group !== "" && above === undefined && pairs.some(isOpen)) return false;
    if (
      group !== "" &&
      pairs.some(({ varies, nameIndex }) => varies && cleanText(cells[nameIndex] ?? "") !== "")
    )
      remember(
        group,
        pairs.map(({ varies }, at) => (varies ? (named[at] ?? "") : "")),
      );
    const axes: string[] = [];
    const given = new Map<string, { readonly column: string; readonly cells: string[] }>();
    pairs.forEach((pair, at) => {
      const name = named[at] ?? "";
      const isNamedHere = cleanText(cells[pair.nameIndex] ?? "") !== "";
      if (name === "" && hasValue(pair)) {
        notes.findings.push(
          diagnostic(
            "value-without-name",
            { value: shownText(cellValue(cells[pair.valueIndex])) },
            { place: { file: defaults.file, row: row.row, column: pair.column } },
            "warning",
          ),
        );
      }
      // A row without name and value says nothing of what its group varies by.
      if (name === "" || (!isNamedHere && !hasValue(pair))) return;
      for (const { name: one, value } of namedCells(pair, name, row) ?? []) {
        if (one === "" && value !== "")
          notes.findings.push(
            diagnostic(
              "value-without-name",
              { value },
              { place: { file: defaults.file, row: row.row, column: pair.column } },
              "warning",
            ),
          );
        if (one === "") continue;
        const attribute = pair.varies ? axisNamed(one) : attributeNamed(one);
        if (pair.varies) axes.push(attribute);
        if (isHead && pair.varies) continue;
        const known = given.get(attribute);
        if (known === undefined) given.set(attribute, { column: pair.column, cells: [value] });
        else known.cells.push(value);
      }
    });
    const set = (index: number, text: string): void => {
      while (texts.length <= index) texts.push("");
      if (text !== "") texts[index] = text;
    };
    for (const [attribute, { column, cells: values }] of given) {
      const { index, read } = readerOf(attribute, column);
      set(index, read(row.row, [listText(values.filter(Boolean))], notes));
    }
    if (axes.length > 0) {
      const index = columns.indexOf("varies_by", pairs.map(({ column }) => column).join(", "));
      while (texts.length <= index) texts.push("");
      if (texts[index] === "") texts[index] = listText([...new Set(axes)]);
    }
    return true;
  };
};
