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
import { recordColumn, type RecordColumn } from "./record.js";
import { attributeCalled } from "./same-names.js";
import { canBeAxis, vocabulary } from "./vocabulary.js";

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
  /** Attributes for names as they stand in the cells, where a person says which are meant. */
  readonly meant?: Readonly<Record<string, string>>;
}

/** The texts' attributes, to which a pair may add one that no row named before. */
export interface PairColumns {
  /** Where the text of an attribute stands that is read from some columns. */
  indexOf(attribute: string, columns: readonly string[], channel?: string): number;
}

/** What a value that is read from several columns is shown with. */
const shownColumns = (columns: Iterable<string>): string => [...columns].join(", ");

/** Columns of a record that grow by what pairs name; what rows read from several columns is shown with all of them. */
export function pairColumns(attributes: RecordColumn[]): PairColumns {
  const cameFrom = attributes.map(({ column }) => new Set([column]));
  return {
    indexOf(attribute, columns, channel) {
      const known = attributes.findIndex(
        (entry) => entry.attribute === attribute && entry.channel === channel,
      );
      const [entry, before] = [attributes[known], cameFrom[known]];
      if (entry === undefined || before === undefined) {
        cameFrom.push(new Set(columns));
        return attributes.push(recordColumn({ attribute, column: shownColumns(columns), channel })) - 1;
      }
      if (columns.every((column) => before.has(column))) return known;
      for (const column of columns) before.add(column);
      // Whoever was given the column is to see it: a revision keeps what its columns are called when it is done.
      Object.assign(entry, { column: shownColumns(before) });
      return known;
    },
  };
}

/** Names of a mapping, folded, so that "Länge" and "LÄNGE " are one. */
const foldedNames = (pairs: readonly PairReading[]): ReadonlyMap<string, string> =>
  new Map(
    pairs.flatMap(({ meant = {} }) =>
      Object.entries(meant).map(([name, attribute]) => [fold(name), attribute] as const),
    ),
  );

/** The attribute that a name in a cell means: one of the vocabulary's that is called so, or the user's own. */
const attributeNamed = (name: string): string => attributeCalled(name) ?? ownAttribute(name);

/** The same for what members differ in: "Pieces" is no stock and "Title" no name, but an attribute of the shop's own. */
function axisNamed(name: string): string {
  const meant = attributeCalled(name);
  if (meant !== undefined && canBeAxis(meant)) return meant;
  const own = ownAttribute(name);
  return vocabulary.includes(own) ? `option_${own}` : own;
}

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

/** Names that stand on a group's first or own row: they hold for all its rows, wherever those stand. */
function groupNames() {
  const namesOf = new Map<string, readonly string[]>();
  // Thousands of groups share a few of them.
  const interned = new Map<string, readonly string[]>();
  return {
    of: (group: string): readonly string[] | undefined => namesOf.get(group),
    remember(group: string, names: readonly string[]): void {
      const key = names.join("\u0000");
      const kept = interned.get(key) ?? names;
      interned.set(key, kept);
      namesOf.set(group, kept);
    },
  };
}

/** A column of the record and a reader of its cells for each attribute that is named, made when it is first named. */
function attributeReaders(columns: PairColumns, defaults: CellDefaults) {
  const readers = new Map<string, { readonly index: number; readonly read: CellReader }>();
  return (
    attribute: string,
    from: readonly string[],
  ): { readonly index: number; readonly read: CellReader } => {
    // What is told of a cell names its very column, whichever one had the attribute first.
    const column = shownColumns(from);
    const key = `${attribute}\u0000${column}`;
    const known = readers.get(key);
    if (known !== undefined) return known;
    const cell = { kind: "column", index: 0 } as const;
    const made = {
      index: columns.indexOf(attribute, from),
      read: cellReader({ attribute, column, from: cell }, defaults),
    };
    readers.set(key, made);
    return made;
  };
}

function placesOf(cell: string, isOne: boolean, { listSeparator }: CellDefaults): readonly string[] {
  if (isOne) return [cleanText(cell)];
  return holdsSeveral(cell) ? itemsOf(cell).map(cleanText) : placesIn(cell, listSeparator).map(cleanText);
}

/** The names of a pair of columns with their values; none where their counts differ, which is told. */
function namedCells(
  pair: PairReading,
  namesCell: string,
  { row, cells, notes }: PairRow,
  defaults: CellDefaults,
): readonly NamedCell[] {
  const valueCell = cells[pair.valueIndex] ?? "";
  const isOne = !holdsSeveral(namesCell) && placesIn(namesCell, defaults.listSeparator).length < 2;
  const names = placesOf(namesCell, isOne, defaults);
  const values = isOne ? [valueCell] : placesOf(valueCell, false, defaults);
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
  return [];
}

const tellNameless = (value: string, { column }: PairReading, { row, notes }: PairRow, file: string): void =>
  void notes.findings.push(
    diagnostic("value-without-name", { value }, { place: { file, row, column } }, "warning"),
  );

const hasValue = ({ valueIndex }: PairReading, { cells }: PairRow): boolean =>
  cellValue(cells[valueIndex]) !== undefined;

const isNamedIn = ({ nameIndex }: PairReading, { cells }: PairRow): boolean =>
  cleanText(cells[nameIndex] ?? "") !== "";

/** What a row's pairs say: what its group varies by, and cells by their attribute. */
interface PairsSaid {
  readonly axes: readonly string[];
  readonly cells: ReadonlyMap<
    string,
    { readonly columns: readonly string[]; readonly values: readonly string[] }
  >;
}

/** Ties the values of a row to the attributes that `names`, one cell a pair, mean. */
function saidBy(
  row: PairRow,
  names: readonly string[],
  { pairs, meant }: { readonly pairs: readonly PairReading[]; readonly meant: ReadonlyMap<string, string> },
  defaults: CellDefaults,
): PairsSaid {
  const axes: string[] = [];
  const cells = new Map<string, { readonly columns: string[]; readonly values: string[] }>();
  for (const [at, pair] of pairs.entries()) {
    const name = names[at] ?? "";
    if (name === "" && hasValue(pair, row))
      tellNameless(shownText(cellValue(row.cells[pair.valueIndex])), pair, row, defaults.file);
    // A row without name and value says nothing of what its group varies by.
    if (name === "" || (!isNamedIn(pair, row) && !hasValue(pair, row))) continue;
    for (const { name: one, value } of namedCells(pair, name, row, defaults)) {
      if (one === "" && value !== "") tellNameless(value, pair, row, defaults.file);
      if (one === "") continue;
      const attribute = meant.get(fold(one)) ?? (pair.varies ? axisNamed(one) : attributeNamed(one));
      if (pair.varies) axes.push(attribute);
      // What members differ in is no value of the group's own row.
      if (row.isHead && pair.varies) continue;
      const known = cells.get(attribute);
      if (known === undefined) cells.set(attribute, { columns: [pair.column], values: [value] });
      else {
        known.values.push(value);
        // Two pairs may give one attribute in one row: it comes from both.
        if (value !== "" && !known.columns.includes(pair.column)) known.columns.push(pair.column);
      }
    }
  }
  return { axes, cells };
}

function textsUpTo(texts: string[], index: number): void {
  while (texts.length <= index) texts.push("");
}

/** Reads the pairs of a row into texts by attribute. */
export function pairReader(
  { pairs, ...defaults }: CellDefaults & { readonly pairs: readonly PairReading[] },
  columns: PairColumns,
): ReadPairs {
  const readerOf = attributeReaders(columns, defaults);
  const names = groupNames();
  const meaning = { pairs, meant: foldedNames(pairs) };
  return (row) => {
    const { cells, texts, notes, group, isHead, mayWait } = row;
    const above = names.of(group);
    const named = pairs.map((pair, at) =>
      !isNamedIn(pair, row) && pair.varies && group !== ""
        ? (above?.[at] ?? "")
        : (cells[pair.nameIndex] ?? ""),
    );
    const isOpen = (pair: PairReading, at: number): boolean =>
      pair.varies && named[at] === "" && hasValue(pair, row);
    if (mayWait && !isHead && group !== "" && above === undefined && pairs.some(isOpen)) return false;
    if (group !== "" && pairs.some((pair) => pair.varies && isNamedIn(pair, row)))
      names.remember(
        group,
        pairs.map(({ varies }, at) => (varies ? (named[at] ?? "") : "")),
      );
    const said = saidBy(row, named, meaning, defaults);
    for (const [attribute, { columns: from, values }] of said.cells) {
      const { index, read } = readerOf(attribute, from);
      const text = read(row.row, [listText(values.filter(Boolean))], notes);
      textsUpTo(texts, index);
      if (text !== "") texts[index] = text;
    }
    if (said.axes.length > 0) {
      const index = columns.indexOf(
        "varies_by",
        pairs.map(({ column }) => column),
      );
      textsUpTo(texts, index);
      if (texts[index] === "") texts[index] = listText([...new Set(said.axes)]);
    }
    return true;
  };
}
