/** A layout's columns tied to fields: one each, the two halves of a price, lists side by side, marks of the row. */
import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import { orNearest } from "../diagnostics/phrases.js";
import type { Place } from "../diagnostics/place.js";
import { nearest } from "../values/nearest.js";
import type { LayoutSource } from "./definition-source.js";
import type { Field } from "./field.js";
import type { LayoutColumn, MarkColumn, ValuePart } from "./layout-definition.js";

/** A column of a layout: of a field, or a mark of the row. */
export type LayoutCell = LayoutColumn | MarkColumn;

/** Finds a field by its code, and tells where there is none. */
export type FindField = (code: string, place: Place) => Field | undefined;

const keys = ["name", "field", "part", "joined_by", "repeat", "item", "at", "says"] as const;
const parts = ["whole", "amount", "currency", "unit"] as const satisfies readonly ValuePart[];
const marks = ["action", "row-kind", "nothing"] as const satisfies readonly MarkColumn["says"][];

/** More columns side by side than any spreadsheet is read with. */
const MOST_REPEATED = 200;

const isPart = (word: string): word is ValuePart => parts.some((part) => part === word);
const isMark = (word: string): word is MarkColumn["says"] => marks.some((mark) => mark === word);

interface ColumnReader {
  readonly find: FindField;
  readonly place: Place;
  wrong(key: string, reason: string): void;
}

/** A word that is none of those that may stand there. */
const noneOf = (word: unknown, words: readonly string[]): string =>
  `is one of ${words.join(", ")}${orNearest(nearest(String(word), words))}`;

/** What is wrong with how a column is written, before any field is looked for; each fault once. */
function refuseWrong(column: Readonly<Record<string, unknown>>, { wrong }: ColumnReader): boolean {
  const { name, part, says, repeat, item, at, joined_by: joinedBy, field } = column;
  const own = `columns, ${typeof name === "string" ? name : "one without a name"}`;
  let isRight = true;
  const fault = (key: string, reason: string): void => {
    isRight = false;
    wrong(`${own}: ${key}`, reason);
  };
  for (const key of Object.keys(column))
    if (!keys.some((known) => known === key))
      fault(key, `is no setting here${orNearest(nearest(key, keys))}`);
  if (typeof name !== "string" || name === "") fault("name", "is the column's name");
  if (field !== undefined && typeof field !== "string") fault("field", "names a field");
  if (part !== undefined && !(typeof part === "string" && isPart(part))) fault("part", noneOf(part, parts));
  if (says !== undefined && !(typeof says === "string" && isMark(says))) fault("says", noneOf(says, marks));
  if (joinedBy !== undefined && typeof joinedBy !== "string") fault("joined_by", "is a text");
  if (
    repeat !== undefined &&
    !(typeof repeat === "number" && Number.isInteger(repeat) && repeat >= 1 && repeat <= MOST_REPEATED)
  )
    fault("repeat", `is a whole number from 1 to ${MOST_REPEATED}`);
  if (
    item !== undefined &&
    !(typeof item === "number" && Number.isInteger(item) && item >= 1 && item <= MOST_REPEATED)
  )
    fault("item", `is the number of a value in its list, from 1 to ${MOST_REPEATED}`);
  if (item !== undefined && repeat !== undefined) fault("item", "is one column's, not beside repeat");
  if (at !== undefined && !(typeof at === "string" && /^[A-Z]{1,3}$/.test(at)))
    fault("at", "is the letter of a workbook's column, such as C");
  return isRight;
}

function cellsOf(
  column: NonNullable<LayoutSource["columns"]>[number],
  reader: ColumnReader,
): readonly LayoutCell[] {
  const { find, place } = reader;
  if (typeof column === "string") {
    const field = find(column, place);
    return field === undefined ? [] : [{ name: column, field, part: "whole", joinedBy: undefined }];
  }
  if (!refuseWrong(column, reader)) return [];
  const { name, says, part = "whole", joined_by: joinedBy, repeat, item } = column;
  const at = column.at === undefined ? {} : { at: column.at };
  if (says !== undefined && isMark(says)) return [{ name, says, ...at }];
  const field = find(column.field ?? name, place);
  if (field === undefined || !isPart(part)) return [];
  const own = { name, field, part, joinedBy, ...at, ...(item === undefined ? {} : { item: item - 1 }) };
  // A list in columns side by side: photo_1, photo_2, …
  return repeat === undefined
    ? [own]
    : Array.from({ length: repeat }, (_, item) => ({ ...own, name: `${name}_${item + 1}`, item }));
}

/** A layout's columns tied to the fields they show; all fields where it names none. What is wrong with any is told. */
export function layoutCells(
  { columns, place }: LayoutSource,
  fields: readonly Field[],
  find: FindField,
  findings: Diagnostic[],
): readonly LayoutCell[] {
  const wrong = (key: string, reason: string): void => {
    findings.push(diagnostic("wrong-setting", { key, reason }, { place }));
  };
  return (
    columns?.flatMap((column) => cellsOf(column, { find, place, wrong })) ??
    fields.map((field) => ({ name: field.code, field, part: "whole" as const, joinedBy: undefined }))
  );
}
