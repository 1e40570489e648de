/**
 * Rows of one product that come again: by language, by currency, by place in an order. What tells them apart is seen by how
 * the values stand to the key that repeats.
 */
import { isCurrency } from "../../values/currencies.js";
import { languageIn } from "../../values/languages.js";
import { fold } from "../../values/text.js";
import { attributeKind } from "../vocabulary.js";
import type { SampleColumn } from "./sample-column.js";
import type { ProposedAttribute, RowStructure } from "./source-proposal.js";

const plain: RowStructure = {
  languageFrom: undefined,
  currencyFrom: undefined,
  gathered: [],
  orderBy: undefined,
  apart: [],
};

const filledOf = ({ cells }: SampleColumn): readonly string[] =>
  cells.map((cell) => cell.trim()).filter((cell) => cell !== "");

/** How many of a column's values are such, where there are some of each. */
function shareOf(column: SampleColumn, isSuch: (text: string) => boolean): number {
  const filled = filledOf(column);
  return filled.length === 0 ? 0 : filled.filter(isSuch).length / filled.length;
}

const kindsOf = (column: SampleColumn): number => new Set(filledOf(column).map((text) => fold(text))).size;

/** Whether a column's values are apart within each key, nearly always. */
function areApartWithin(keys: readonly string[], column: SampleColumn): boolean {
  const seen = new Set<string>();
  let [again, all] = [0, 0];
  keys.forEach((key, at) => {
    const value = column.cells[at]?.trim() ?? "";
    if (key === "" || value === "") return;
    all++;
    const pair = `${key}\u0000${fold(value)}`;
    if (seen.has(pair)) again++;
    seen.add(pair);
  });
  return all > 0 && again <= all * 0.1;
}

/** Whether rows of one key say different things in a column, now and then or always. */
function differsWithin(keys: readonly string[], column: SampleColumn): boolean {
  const first = new Map<string, string>();
  let [apart, alike] = [0, 0];
  keys.forEach((key, at) => {
    const value = column.cells[at]?.trim() ?? "";
    if (key === "" || value === "") return;
    const before = first.get(key);
    if (before === undefined) first.set(key, value);
    else if (before === value) alike++;
    else apart++;
  });
  return apart > (apart + alike) * 0.3;
}

const orderWords =
  /^(?:position|pos|order|place|rank|sort|sorting|sequence|seq|index|nr|no|number|n|reihenfolge|rang|sortierung|platz|ordre|rangée|rang|orden|posición|posizione|ordine|volgorde|positie|kolejność|pozycja|bild ?nr|image ?no)$/;

/** Whether a column counts the rows of each key: small whole numbers that are apart within it. */
function counts(keys: readonly string[], column: SampleColumn): boolean {
  const { shape, name } = column;
  const areSmall = shape.whole > 0.9 && shareOf(column, (text) => text.length < 5) > 0.95;
  const begins = filledOf(column).some((text) => text === "1" || text === "0");
  return (
    areSmall &&
    begins &&
    areApartWithin(keys, column) &&
    (orderWords.test(name.words) || kindsOf(column) < 12)
  );
}

/** What rows of one product have in common and what tells them apart, by the key that repeats among them. */
export function rowStructure(
  columns: readonly SampleColumn[],
  attributes: readonly ProposedAttribute[],
  keys: readonly string[],
  isOther: (column: SampleColumn) => boolean,
): RowStructure {
  const key = attributes.find(({ attribute }) => attribute === keys[0])?.columns[0];
  const keyColumn = columns.find(({ column }) => column === key);
  if (keyColumn === undefined) return plain;
  const values = keyColumn.cells.map((cell) => cell.trim());
  const filled = values.filter((value) => value !== "");
  // A key that comes twice now and then is a fault; one that is usual comes again for a reason.
  if (filled.length < 4 || new Set(filled).size > filled.length * 0.8) return plain;
  const free = columns.filter((column) => column !== keyColumn && isOther(column));
  const language = free.find(
    (column) =>
      shareOf(column, (text) => languageIn(text) !== undefined) > 0.85 &&
      kindsOf(column) < 30 &&
      areApartWithin(values, column),
  );
  const currency = free.find(
    (column) =>
      shareOf(column, (text) => isCurrency(text.toUpperCase())) > 0.9 &&
      kindsOf(column) > 1 &&
      areApartWithin(values, column),
  );
  const order = free.find((column) => column !== language && column !== currency && counts(values, column));
  const used = new Set([language, currency, order].map((column) => column?.column));
  const gathered = attributes.filter(({ attribute, columns: read }) => {
    const { kind, list } = attributeKind(attribute);
    if (keys.includes(attribute) || read.some((one) => used.has(one))) return false;
    if (language !== undefined && /^(?:text|html)$/.test(kind)) return true;
    if (currency !== undefined && kind === "money") return true;
    return list;
  });
  /** Of what rows may not add to, that in which they differ: it is a picture's, and no product's. */
  const apartAmong = (): readonly string[] =>
    columns
      .filter((column) => column !== keyColumn && !used.has(column.column))
      .filter(({ column }) => gathered.every(({ columns: read }) => !read.includes(column)))
      .filter((column) => differsWithin(values, column))
      .map(({ column }) => column);
  if (gathered.length === 0 || (language ?? currency ?? order) === undefined)
    return gathered.length === 0 || !gathered.some(({ attribute }) => attributeKind(attribute).kind === "url")
      ? plain
      : { ...plain, gathered: gathered.map(({ attribute }) => attribute), apart: apartAmong() };
  return {
    apart: apartAmong(),
    languageFrom: language?.column,
    currencyFrom: currency?.column,
    gathered: gathered.map(({ attribute }) => attribute),
    orderBy: order?.column,
  };
}
