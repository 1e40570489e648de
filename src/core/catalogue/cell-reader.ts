/**
 * From a row's cells to one attribute's canonical text: a column as it stands, or an expression over columns, with all
 * that was repaired, refused or doubted told beside it. A value itself is read by `item-reader.ts`.
 */
import { hiddenSigns, isCode, seenCode } from "./hidden-signs.js";
import { ownOf } from "../own.js";
import { TextMemo, type MemoRoom } from "../text-memo.js";
import type { Diagnostic, Severity } from "../diagnostics/diagnostic.js";
import { diagnostic } from "../diagnostics/diagnostic.js";
import { factsOf, type Troubles } from "../language/trouble.js";
import type { Run } from "../language/program.js";
import type { AttributeKind, KindOf } from "../values/attribute-kind.js";
import { isCurrency } from "../values/currencies.js";
import { isFormulaFault, type Damage } from "../values/damage.js";
import { repairEncoding } from "../values/garbled.js";
import type { ReadingDefaults, ReadingProblem } from "../values/read.js";
import { shownText } from "../values/show.js";
import { cleanText, isTidy, textOfFormula, withoutUnseen } from "../values/text.js";
import { isList, type MaybeBlank, type Value } from "../values/value.js";
import { itemReader, type ItemDoubt, type ReadItem } from "./item-reader.js";
import { addressesIn, itemsInCell } from "./list-cell.js";
import { holdsSeveral, itemsOf } from "./list-text.js";
import {
  CLEARED,
  clearedOrText,
  isUnread,
  LIST_SEPARATOR,
  recordColumn,
  unread,
  type RecordColumn,
} from "./record.js";
import { attributeKind, withoutMark } from "./vocabulary.js";

/** How one attribute is read from a row: by one column as it stands, or by an expression over columns. */
export interface ColumnReading extends RecordColumn {
  readonly from:
    { readonly kind: "column"; readonly index: number } | { readonly kind: "expression"; readonly run: Run };
  /** Whether the column's cells are days as a rule, or never, as the file's first rows show; undefined where they do not. */
  readonly areDays?: boolean | undefined;
}

/** What is the same for all cells of a file. */
export interface CellDefaults extends ReadingDefaults {
  readonly file: string;
  /** Units of bare numbers by attribute. */
  readonly units: Readonly<Record<string, string>>;
  /** Marks that may part thousands or decimals, by attribute, where the column's cells show more than the file's. */
  readonly openMarksOf?: Readonly<Record<string, string>>;
  /** Currencies that the file's amounts can be in; any where it is left out. */
  readonly currencies?: readonly string[] | undefined;
  readonly listSeparator: string;
  readonly clearWord: string | undefined;
  /** Kinds of attributes, where a shop has declared some of its own. */
  readonly kindOf?: KindOf;
}

/** A damaged value that only the catalogue itself can prove: what it holds already may be what was meant. */
export interface Doubt extends ItemDoubt, RecordColumn {}

/** What reading a row collects beside its texts. */
export interface CellNotes {
  readonly findings: Diagnostic[];
  readonly doubts: Doubt[];
}

/** Reads one attribute of a row: its canonical text, "" where nothing stands there. */
export type CellReader = (row: number, cells: readonly string[], notes: CellNotes) => string;

function defaultsFor(attribute: string, defaults: CellDefaults): CellDefaults {
  const unit = ownOf(defaults.units, attribute);
  const mark = attribute.split("@")[1] ?? "";
  const open = ownOf(defaults.openMarksOf ?? {}, attribute);
  return {
    ...defaults,
    ...(open === undefined ? {} : { openMarks: open }),
    ...(unit === undefined ? {} : { unit }),
    ...(isCurrency(mark) ? { currency: mark, currencies: [mark] } : {}),
  };
}

/**
 * The cell as the expression language sees it: a list where the file gave several values, with "" for a place that was
 * left blank, so that lists beside each other keep their places; blank for nothing.
 */
export function cellValue(cell: string | undefined): MaybeBlank {
  if (cell === undefined || cell === "") return undefined;
  if (holdsSeveral(cell)) {
    const items = itemsOf(cell).map(cleanText);
    return items.some(Boolean) ? items : undefined;
  }
  return cleanText(cell) || undefined;
}

/** Reads one attribute from a row into its canonical text; what is wrong, repaired or in doubt is noted. */
export function cellReader(
  reading: ColumnReading,
  defaults: CellDefaults,
  /** Where texts are remembered that read as they did before; else none is. */
  room?: MemoRoom,
): CellReader {
  const read = plainReader(reading, defaults);
  if (room === undefined || reading.from.kind !== "column") return read;
  const { index } = reading.from;
  const memo = new TextMemo<string>(room);
  return (row, cells, notes) => {
    const written = cells[index] ?? "";
    if (written === "") return "";
    const known = memo.get(written);
    if (known !== undefined) return known;
    const before = notes.findings.length + notes.doubts.length;
    const text = read(row, cells, notes);
    // Of what is told, each row has to tell its own.
    if (notes.findings.length + notes.doubts.length === before) memo.set(written, text);
    return text;
  };
}

function plainReader(reading: ColumnReading, defaults: CellDefaults): CellReader {
  const { attribute, channel, column, from } = reading;
  const typed = typedReader(reading, defaults);
  const { file } = defaults;
  /** A cell without garbled letters, blanks around it and a formula that only protects it. */
  const mended = (written: string, row: number, notes: CellNotes): string => {
    const told = (value: string, now: string, damage: Damage): void => {
      notes.findings.push(repaired({ attribute, column, file, row }, value, now, damage));
    };
    // Before blanks are tidied, since the one that does not break is a part of what a wrong encoding leaves.
    const letters = repairEncoding(written) ?? written;
    const clean = cleanText(letters);
    const damage = letters !== written ? "encoding" : clean === letters ? undefined : tidiedBy(letters);
    if (damage !== undefined) told(letters === written ? letters : cleanText(written), clean, damage);
    return clean;
  };
  /** A cell that an expression reads or that holds several, its letters put right before its blanks are tidied. */
  const input = (cell: string | undefined, row: number, notes: CellNotes): MaybeBlank => {
    const letters = cell?.includes("\u00a0") === true ? repairEncoding(cell) : undefined;
    if (cell === undefined || letters === undefined) return cellValue(cell);
    const [value, now] = [cellValue(cell), cellValue(letters)].map(shownText);
    notes.findings.push(repaired({ attribute, column, file, row }, value ?? "", now ?? "", "encoding"));
    return cellValue(letters);
  };
  const { clearWord } = defaults;
  /** A cell as an expression sees it: one that says "none" is blank, and one that writes the word out is a text. */
  const given = (value: MaybeBlank, asked: { isCleared: boolean }): MaybeBlank => {
    if (clearWord === undefined || typeof value !== "string") return value;
    const text = clearedOrText(value, clearWord);
    if (text !== CLEARED) return text;
    asked.isCleared = true;
    return undefined;
  };
  const isNamed = isCode(attribute);
  return (row, cells, notes) => {
    const written = from.kind === "column" ? (cells[from.index] ?? "") : undefined;
    if (written === "") return "";
    const place: CellPlace = { attribute, channel, column, file, row };
    const troubles: Troubles = [];
    const asked = { isCleared: false };
    const found =
      from.kind === "expression"
        ? from.run({ value: (slot) => given(input(cells[slot], row, notes), asked) }, troubles)
        : written === undefined || isTidy(written)
          ? written
          : holdsSeveral(written)
            ? input(written, row, notes)
            : mended(written, row, notes);
    for (const trouble of troubles.map(factsOf))
      notes.findings.push(
        diagnostic(
          "not-calculated",
          { label: attribute, trouble },
          { place: { file, row, column } },
          "warning",
        ),
      );
    // What comes to nothing since a cell says "none" is meant to be none.
    if (found === undefined || found === "") return asked.isCleared ? CLEARED : "";
    const value =
      typeof found === "string" && clearWord !== undefined && from.kind === "column"
        ? clearedOrText(found, clearWord)
        : found;
    if (value === CLEARED) return CLEARED;
    if (typeof value === "string" && isFormulaFault(value)) {
      notes.doubts.push({ ...recordColumn(place), written: value, damage: "formula", candidates: [] });
      return unread(value);
    }
    const read = typed(value);
    const text = typeof read === "string" ? read : read.text;
    if (typeof read !== "string") note(read, place, notes);
    if (isNamed) noteHidden(text, place, notes);
    return text;
  };
}

/** What stood in a cell that was tidied; undefined for ends of lines of another kind, which say nothing. */
function tidiedBy(letters: string): Damage | undefined {
  const trimmed = letters.trim();
  if (textOfFormula(trimmed) !== undefined) return "text-formula";
  if (withoutUnseen(trimmed) !== trimmed) return "hidden";
  if (trimmed !== letters) return "spaces";
  // eslint-disable-next-line no-control-regex
  return /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f\u00a0\ufffe\uffff]/.test(letters)
    ? "blanks"
    : undefined;
}

interface CellPlace extends RecordColumn {
  readonly file: string;
  readonly row: number;
}

function noteHidden(text: string, { attribute, column, file, row }: CellPlace, notes: CellNotes): void {
  const signs = hiddenSigns(text);
  if (signs.length === 0) return;
  const facts = { attribute, value: seenCode(text), signs };
  notes.findings.push(diagnostic("hidden-signs", facts, { place: { file, row, column } }, "warning"));
}

function note({ events }: ReadItem, place: CellPlace, notes: CellNotes): void {
  const { attribute, column, file, row } = place;
  const where = { place: { file, row, column } };
  for (const found of events) {
    switch (found.event) {
      case "repaired":
        notes.findings.push(repaired(place, found.written, found.now, found.damage));
        break;
      case "unreadable": {
        const { written: value, problem } = found;
        notes.findings.push(diagnostic("unreadable-value", { attribute, value, problem }, where, "warning"));
        break;
      }
      case "restricted":
        notes.findings.push(
          diagnostic("restricted-gtin", { attribute, value: found.written }, where, "warning"),
        );
        break;
      case "doubt":
        notes.doubts.push({ ...recordColumn(place), ...found.doubt });
    }
  }
}

const repaired = (
  { attribute, column, file, row }: CellPlace,
  value: string,
  now: string,
  damage: Damage,
): Diagnostic =>
  diagnostic(
    "repaired-value",
    { attribute, value, now, damage },
    { place: { file, row, column } },
    "advice" satisfies Severity,
  );

type GivenValue = Exclude<MaybeBlank, undefined>;

function typedReader(
  { attribute, areDays }: ColumnReading,
  defaults: CellDefaults,
): (value: GivenValue) => string | ReadItem {
  const kind = (defaults.kindOf ?? attributeKind)(attribute);
  const own = defaultsFor(attribute, defaults);
  const one = itemReader(attribute, kind, { ...own, areDays });
  if (!kind.list) return (value) => (isList(value) ? onlyOne(attribute, kind, value, one) : one(value));
  const { listSeparator } = defaults;
  const itemsIn =
    kind.kind === "url"
      ? (text: string) => addressesIn(text, listSeparator)
      : (text: string) => itemsInCell(text, listSeparator);
  const itemsOfCell = (text: string): readonly string[] =>
    kind.kind === "url" ? addressesIn(text, listSeparator) : [text];
  return (value) => {
    const several = (list: readonly Value[]): readonly Value[] =>
      list.flatMap((item): readonly Value[] => (typeof item === "string" ? itemsOfCell(item) : [item]));
    const items = isList(value) ? several(value) : typeof value === "string" ? itemsIn(value) : [value];
    return joined(items.filter((item) => item !== "").map(one), LIST_SEPARATOR);
  };
}

/** The values that could be read; where none could, what was written. */
function joined(items: readonly (string | ReadItem)[], separator: string): string | ReadItem {
  const texts = items.map((item) => (typeof item === "string" ? item : item.text)).filter(Boolean);
  const events = items.flatMap((item) => (typeof item === "string" ? [] : item.events));
  const good = texts.filter((text) => !isUnread(text));
  const text =
    good.length > 0 || texts.length === 0
      ? good.join(separator)
      : unread(texts.map((bad) => bad.slice(1)).join(separator));
  return events.length === 0 ? text : { text, events };
}

/** Texts of several parts that read on as one. */
function isJoinable(attribute: string, { kind, permitted }: AttributeKind): boolean {
  if (permitted !== undefined) return false;
  return kind === "html" || (kind === "text" && !singleTexts.has(withoutMark(attribute)));
}

const singleTexts = new Set(
  "sku group name brand manufacturer mpn condition country_of_origin availability gender age_group".split(
    " ",
  ),
);

/** The value of an attribute that has one, where the file gives several: the same ones are one, parts of a text are joined. */
function onlyOne(
  attribute: string,
  kind: AttributeKind,
  values: readonly Value[],
  one: (value: Value) => string | ReadItem,
): string | ReadItem {
  const given = values.filter((value) => value !== "");
  const read = given.map(one);
  const texts = new Set(read.map((item) => (typeof item === "string" ? item : item.text)).filter(Boolean));
  if (texts.size <= 1) return read[0] ?? "";
  const written = given.map((value) => shownText(value)).join(" | ");
  const problem: ReadingProblem = "several-values";
  // Which one is listed is a choice between right ones: the first, as the shop has them in its order.
  if (attribute === "category") {
    const now = [...texts].find((text) => !isUnread(text)) ?? unread(written);
    const events = read.flatMap((item) => (typeof item === "string" ? [] : item.events));
    if (isUnread(now)) return { text: now, events };
    return { text: now, events: [...events, { event: "repaired", written, now, damage: "joined" }] };
  }
  if (!isJoinable(attribute, kind))
    return { text: unread(written), events: [{ event: "unreadable", written, problem }] };
  const text = joined(read, kind.kind === "html" ? "\n" : ", ");
  const now = typeof text === "string" ? text : text.text;
  const events = typeof text === "string" ? [] : text.events;
  return { text: now, events: [...events, { event: "repaired", written, now, damage: "joined" }] };
}
