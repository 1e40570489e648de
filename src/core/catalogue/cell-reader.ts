import { itemsOf, holdsSeveral } from "./list-text.js";
import type { Diagnostic, Severity } from "../diagnostics/diagnostic.js";
import { diagnostic } from "../diagnostics/diagnostic.js";
import type { Run } from "../language/program.js";
import { isCurrency } from "../values/currencies.js";
import { beforeDate, hasLostLetters, isFormulaFault, type Damage } from "../values/damage.js";
import { repairEncoding } from "../values/garbled.js";
import { isRestricted } from "../values/gtin.js";
import { readValue, type ReadingDefaults } from "../values/read.js";
import { factsOf, type Troubles } from "../language/trouble.js";
import { canonicalText } from "../values/show.js";
import { cleanText, isTidy } from "../values/text.js";
import { isList, type MaybeBlank, type Value } from "../values/value.js";
import { CLEARED, clearedOrText, LIST_SEPARATOR } from "./record.js";
import { attributeKind } from "./vocabulary.js";
import type { AttributeKind } from "../values/attribute-kind.js";

/** How one attribute is read from a row: by one column as it stands, or by an expression over columns. */
export interface ColumnReading {
  readonly attribute: string;
  /** Shown as the value's column: the column's name, or those that the expression reads. */
  readonly column: string;
  readonly from:
    { readonly kind: "column"; readonly index: number } | { readonly kind: "expression"; readonly run: Run };
}

/** What is the same for all cells of a file. */
export interface CellDefaults extends ReadingDefaults {
  readonly file: string;
  /** Units of bare numbers by attribute. */
  readonly units: Readonly<Record<string, string>>;
  readonly listSeparator: string;
  readonly clearWord: string | undefined;
}

/** A damaged value that only the catalogue itself can prove: what it holds already may be what was meant. */
export interface Doubt {
  readonly attribute: string;
  readonly column: string;
  readonly written: string;
  readonly damage: Damage;
  /** What the cell can have held; empty when there are too many possibilities to name. */
  readonly candidates: readonly string[];
  provedBy(existing: string): boolean;
}

/** What reading a row collects beside its texts. */
export interface CellNotes {
  readonly findings: Diagnostic[];
  readonly doubts: Doubt[];
}

export type CellReader = (row: number, cells: readonly string[], notes: CellNotes) => string;

/** Attributes that a spreadsheet may have taken for dates; in others a date-like text is a text. */
const datable = new Set(["size", "mpn", "age_group", "pattern"]);

const baseName = (attribute: string): string => attribute.split("@", 1)[0] ?? attribute;

const defaultsFor = (attribute: string, defaults: CellDefaults): ReadingDefaults => {
  const unit = defaults.units[attribute];
  const mark = attribute.split("@")[1] ?? "";
  return {
    ...defaults,
    ...(unit === undefined ? {} : { unit }),
    ...(isCurrency(mark) ? { currency: mark } : {}),
  };
};

/** The cell as the expression language sees it: a list where the file gave several values, blank for nothing. */
export const cellValue = (cell: string | undefined): MaybeBlank => {
  if (cell === undefined || cell === "") return undefined;
  if (holdsSeveral(cell)) {
    const items = itemsOf(cell).map(cleanText).filter(Boolean);
    return items.length === 0 ? undefined : items;
  }
  return cleanText(cell) || undefined;
};

/** Reads one attribute from a row into its canonical text; what is wrong, repaired or in doubt is noted. */
export const cellReader = (reading: ColumnReading, defaults: CellDefaults): CellReader => {
  const { attribute, column, from } = reading;
  const typed = typedReader(reading, defaults);
  return (row, cells, notes) => {
    const written = from.kind === "column" ? (cells[from.index] ?? "") : undefined;
    if (written === "") return "";
    const isPlain = written !== undefined && isTidy(written);
    if (written !== undefined && !isPlain && !holdsSeveral(written) && cleanText(written) !== written)
      notes.findings.push(repaired(reading, defaults, row, written, cleanText(written), "spaces"));
    const troubles: Troubles = [];
    const found = isPlain
      ? written
      : from.kind === "column"
        ? cellValue(written)
        : from.run({ value: (slot) => cellValue(cells[slot]) }, troubles);
    for (const trouble of troubles.map(factsOf))
      notes.findings.push(
        diagnostic(
          "not-calculated",
          { label: reading.attribute, trouble },
          { place: { file: defaults.file, row, column: reading.column } },
          "warning",
        ),
      );
    if (found === undefined || found === "") return "";
    const given =
      typeof found === "string" && defaults.clearWord !== undefined
        ? clearedOrText(found, defaults.clearWord)
        : found;
    if (given === CLEARED) return CLEARED;
    if (typeof given === "string" && isFormulaFault(given)) {
      notes.doubts.push({
        attribute,
        column,
        written: given,
        damage: "formula",
        candidates: [],
        provedBy: () => false,
      });
      return "";
    }
    const read = typed(given);
    if (typeof read === "string") return read;
    note(read, { attribute, column, file: defaults.file, row }, notes);
    return read.text;
  };
};

interface Read {
  readonly text: string;
  readonly events: readonly CellEvent[];
}

type CellEvent =
  | { readonly event: "repaired"; readonly written: string; readonly now: string; readonly damage: Damage }
  | { readonly event: "unreadable"; readonly written: string; readonly problem: Problem }
  | { readonly event: "doubt"; readonly doubt: Omit<Doubt, "attribute" | "column"> }
  | { readonly event: "restricted"; readonly written: string };

type Problem = Extract<ReturnType<typeof readValue>, { problem: unknown }>["problem"];

interface CellPlace {
  readonly attribute: string;
  readonly column: string;
  readonly file: string;
  readonly row: number;
}

const note = ({ events }: Read, place: CellPlace, notes: CellNotes): void => {
  const { attribute, column, file, row } = place;
  const where = { place: { file, row, column } };
  for (const found of events) {
    switch (found.event) {
      case "repaired":
        notes.findings.push(repaired(place, place, row, found.written, found.now, found.damage));
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
        notes.doubts.push({ attribute, column, ...found.doubt });
    }
  }
};

const repaired = (
  { attribute, column }: Pick<ColumnReading, "attribute" | "column">,
  { file }: { readonly file: string },
  row: number,
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

type Given = Exclude<MaybeBlank, undefined>;

/** A text at once where nothing happened on the way, which is nearly always. */
const typedReader = (
  { attribute }: ColumnReading,
  defaults: CellDefaults,
): ((value: Given) => string | Read) => {
  const kind = attributeKind(attribute);
  const one = itemReader(attribute, kind, defaultsFor(attribute, defaults));
  if (kind.list) {
    return (value) => {
      const items = isList(value) ? value : typeof value === "string" ? splitList(value, defaults) : [value];
      return joined(items.map(one), LIST_SEPARATOR);
    };
  }
  return (value) => (isList(value) ? joined(value.map(one), ", ") : one(value));
};

const joined = (items: readonly (string | Read)[], separator: string): string | Read => {
  const texts = items.map((item) => (typeof item === "string" ? item : item.text)).filter(Boolean);
  const events = items.flatMap((item) => (typeof item === "string" ? [] : item.events));
  const text = texts.join(separator);
  return events.length === 0 ? text : { text, events };
};

/** Several values of one cell. A backslash before the separator, or before another, belongs to the value. */
const splitList = (text: string, { listSeparator }: CellDefaults): readonly string[] => {
  if (!text.includes("\\")) return tidyItems(text.split(listSeparator).flatMap((part) => part.split("\n")));
  const items: string[] = [];
  let item = "";
  for (let at = 0; at < text.length;) {
    const rest = text.slice(at, at + listSeparator.length + 1);
    if (rest === `\\${listSeparator}` || rest.startsWith("\\\\") || rest.startsWith("\\\n")) {
      const kept = rest === `\\${listSeparator}` ? listSeparator : (rest[1] ?? "");
      item += kept;
      at += 1 + kept.length;
    } else if (text.startsWith(listSeparator, at) || text[at] === "\n") {
      items.push(item);
      item = "";
      at += text[at] === "\n" ? 1 : listSeparator.length;
    } else item += text[at++] ?? "";
  }
  return tidyItems([...items, item]);
};

/** A list in one cell, as {@link splitList} reads it back. */
export const joinList = (items: readonly string[], separator: string): string =>
  items
    .map((item) =>
      item.replaceAll("\\", "\\\\").replaceAll(separator, `\\${separator}`).replaceAll("\n", "\\\n"),
    )
    .join(separator);

const tidyItems = (items: readonly string[]): readonly string[] =>
  items.map((item) => item.trim()).filter(Boolean);

const itemReader = (
  attribute: string,
  { kind }: AttributeKind,
  defaults: ReadingDefaults,
): ((value: Value) => string | Read) => {
  const isDatable = datable.has(baseName(attribute));
  if (kind === "text" || kind === "html" || kind === "choice")
    return (value) => (typeof value === "string" ? textItem(value, isDatable) : canonicalText(value));
  const quick = quickReader(kind, defaults);
  return (value) => {
    if (typeof value !== "string") return canonicalText(value);
    const direct = quick?.(value);
    if (direct !== undefined) return direct;
    // An apostrophe is how a spreadsheet was told that a number is a text; it is no part of it.
    const reading = readValue(kind, value.replace(/^'(?=\d)/, ""), defaults);
    if ("value" in reading) {
      const text = canonicalText(reading.value);
      const events: CellEvent[] = [];
      if (reading.repaired !== undefined)
        events.push({ event: "repaired", written: value, now: text, damage: reading.repaired });
      if (kind === "gtin" && isRestricted(text)) events.push({ event: "restricted", written: text });
      return events.length === 0 ? text : { text, events };
    }
    if (reading.problem === "gtin-scientific")
      return { text: "", events: [{ event: "doubt", doubt: shortened(value) }] };
    return { text: value, events: [{ event: "unreadable", written: value, problem: reading.problem }] };
  };
};

const textItem = (value: string, isDatable: boolean): string | Read => {
  if (isDatable) {
    const candidates = beforeDate(value);
    if (candidates.length > 0) {
      const provedBy = (existing: string): boolean => candidates.includes(existing.replace(/\s/g, ""));
      const doubt = { written: value, damage: "date", candidates, provedBy } as const;
      return { text: "", events: [{ event: "doubt", doubt }] };
    }
  }
  if (hasLostLetters(value)) {
    const pattern = value.split("\ufffd");
    const provedBy = (existing: string): boolean => fitsPieces(existing, pattern);
    return {
      text: "",
      events: [{ event: "doubt", doubt: { written: value, damage: "encoding", candidates: [], provedBy } }],
    };
  }
  const now = repairEncoding(value);
  return now === undefined
    ? value
    : { text: now, events: [{ event: "repaired", written: value, now, damage: "encoding" }] };
};

/** Whether a text is made of these pieces in order, with one to three characters between them. */
const fitsPieces = (text: string, pieces: readonly string[]): boolean => {
  let at = 0;
  for (const [index, piece] of pieces.entries()) {
    const found = text.indexOf(piece, at);
    if (found < 0 || (index === 0 ? found !== 0 : found - at > 3)) return false;
    at = found + piece.length;
  }
  return text.length - at <= (pieces.at(-1) === "" ? 3 : 0);
};

const shortened = (written: string): Omit<Doubt, "attribute" | "column"> => {
  const value = Number(written.replace(",", "."));
  const digits = (/[.,](\d+)/.exec(written)?.[1] ?? "").length;
  return {
    written,
    damage: "scientific",
    candidates: [],
    provedBy: (existing) =>
      /^\d{8,14}$/.test(existing) && Number(existing).toExponential(digits) === value.toExponential(digits),
  };
};

const canonicalNumber = /^(?:0|[1-9]\d{0,14})(?:\.\d{0,9}[1-9])?$/;

/** Texts that are canonical as they stand, or become so by adding a code: most cells of most files. */
const quickReader = (
  kind: AttributeKind["kind"],
  { decimalMark = ".", isMarkOpen, currency, unit }: ReadingDefaults,
): ((text: string) => string | undefined) | undefined => {
  if (kind === "integer") return (text) => (/^(?:0|[1-9]\d{0,14})$/.test(text) ? text : undefined);
  if (kind === "url")
    return (text) => (/^https:\/\/(?:[a-z0-9]+\.)+[a-z]{2,}(?:\/[\w/.-]*)?$/.test(text) ? text : undefined);
  if (decimalMark !== "." || isMarkOpen === true) return undefined;
  if (kind === "decimal") return (text) => (canonicalNumber.test(text) ? text : undefined);
  if (kind === "money" && currency !== undefined && currencyHasTwoPlaces(currency))
    return (text) => (/^(?:0|[1-9]\d{0,14})\.\d\d$/.test(text) ? `${text} ${currency}` : undefined);
  if (kind === "measure" && unit !== undefined) {
    const code = canonicalText(unitMeasure(unit)).slice(2);
    return (text) => (canonicalNumber.test(text) ? `${text} ${code}` : undefined);
  }
  return undefined;
};

const currencyHasTwoPlaces = (currency: string): boolean => {
  const reading = readValue("money", `1 ${currency}`);
  return "value" in reading && canonicalText(reading.value) === `1.00 ${currency}`;
};

const unitMeasure = (unit: string): MaybeBlank => {
  const reading = readValue("measure", "1", { unit });
  return "value" in reading ? reading.value : undefined;
};
