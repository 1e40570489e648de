import { listText } from "./list-text.js";
import { fold } from "../values/text.js";
import { cellReader, cellValue, type CellDefaults, type CellNotes, type CellReader } from "./cell-reader.js";
import { shownText } from "../values/show.js";
import { ownAttribute } from "./own-attribute.js";
import { attributeForColumn, canBeAxis, vocabulary } from "./vocabulary.js";

/** Two columns of which one names an attribute and the other holds its value. */
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

/** Sets the values of a row's pairs among its texts. A group's rows may name their axes on the first row alone. */
export const pairReader = (
  { pairs, ...defaults }: CellDefaults & { readonly pairs: readonly PairReading[] },
  columns: PairColumns,
): ((row: number, cells: readonly string[], texts: string[], notes: CellNotes, group: string) => void) => {
  const readers = new Map<string, { readonly index: number; readonly read: CellReader }>();
  const readerFor = (
    name: string,
    pair: PairReading,
  ): { readonly index: number; readonly read: CellReader } => {
    const key = `${pair.valueIndex} ${name}`;
    const known = readers.get(key);
    if (known !== undefined) return known;
    const attribute = pair.varies ? axisNamed(name) : attributeNamed(name);
    const from = { kind: "column", index: pair.valueIndex } as const;
    const made = {
      index: columns.indexOf(attribute, pair.column),
      read: cellReader({ attribute, column: pair.column, from }, defaults),
    };
    readers.set(key, made);
    return made;
  };
  let groupAbove = "";
  let namesAbove: readonly string[] = [];
  return (row, cells, texts, notes, group) => {
    const isBelow = group !== "" && group === groupAbove;
    groupAbove = group;
    // Names that stand on a group's first row hold for all its rows, also behind one that only brings a picture.
    namesAbove = pairs.map(({ nameIndex, varies }, index) => {
      const own = shownText(cellValue(cells[nameIndex]));
      return own === "" && varies && isBelow ? (namesAbove[index] ?? "") : own;
    });
    const axes: string[] = [];
    pairs.forEach((pair, at) => {
      const name = namesAbove[at] ?? "";
      const isNamedHere = shownText(cellValue(cells[pair.nameIndex])) !== "";
      const hasValue = cellValue(cells[pair.valueIndex]) !== undefined;
      // A row without name and value says nothing of what its group varies by.
      if (name === "" || (!isNamedHere && !hasValue)) return;
      const { index, read } = readerFor(name, pair);
      while (texts.length <= index) texts.push("");
      const text = read(row, cells, notes);
      if (text !== "") texts[index] = text;
      if (pair.varies) axes.push(axisNamed(name));
    });
    if (axes.length === 0) return;
    const index = columns.indexOf("varies_by", pairs.map(({ column }) => column).join(", "));
    while (texts.length <= index) texts.push("");
    if (texts[index] === "") texts[index] = listText(axes);
  };
};
