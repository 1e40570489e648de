/** JSON and JSON Lines, a record a listing. */
import { bareObject } from "../core/own.js";
import type { JsonLayout, LayoutColumn } from "../core/channel/layout-definition.js";
import { rowsOf, type FileRow } from "../core/listing/shape/file-family.js";
import { decimal, isDecimal } from "../core/values/decimal.js";
import { isList, type MaybeBlank } from "../core/values/value.js";
import { cellTexts } from "./cell-text.js";
import { commas, unparted, type LayoutWriter } from "./layout.js";

type JsonValue = string | number | boolean | readonly JsonValue[] | { readonly [key: string]: JsonValue };

/** Numbers and yes/no are JSON's own as long as they stay exact; all else is text. */
function jsonOf(
  value: MaybeBlank,
  column: LayoutColumn,
  { style, hasNumbers }: JsonLayout,
): JsonValue | undefined {
  if (value === undefined) return undefined;
  if (typeof value === "boolean") return value;
  if (isDecimal(value) && Number.isSafeInteger(value.toNumber())) return value.toNumber();
  const texts = cellTexts(value, column, style);
  if (hasNumbers && amounts.has(column.field.kind) && column.part !== "currency" && column.part !== "unit") {
    const [text = ""] = texts;
    const number = Number(text);
    // A number that JSON would change stays a text.
    if (decimal(text)?.eq(decimal(String(number)) ?? NaN) === true) return number;
  }
  return isList(value) && column.joinedBy === undefined ? texts : (texts[0] ?? "");
}

const amounts: ReadonlySet<string> = new Set(["decimal", "money", "measure"]);

/** `delivery.days` stands within an object named delivery. */
function put(into: Record<string, unknown>, path: string, value: JsonValue): void {
  const names = path.split(".");
  const last = names.pop() ?? path;
  let parent = into;
  // eslint-disable-next-line house/data-names -- a bare object has no name of the language
  for (const name of names) parent = (parent[name] ??= bareObject()) as Record<string, unknown>;
  // eslint-disable-next-line house/data-names -- a bare object has no name of the language
  parent[last] = value;
}

/** A JSON array of objects, or an object a line. */
export function jsonWriter(layout: JsonLayout): LayoutWriter {
  const objectOf = (row: FileRow): string => {
    const object = bareObject<unknown>();
    for (const column of layout.columns) {
      const value = jsonOf(row.value(column.field), column, layout);
      if (value !== undefined) put(object, column.name, value);
    }
    return JSON.stringify(object);
  };
  if (layout.format === "jsonl")
    return {
      head: () => "",
      family: (family) =>
        rowsOf(family)
          .map((row) => `${objectOf(row)}\n`)
          .join(""),
      apart: unparted,
      tail: () => "",
    };
  return {
    head: () => (layout.root === "" ? "[" : `{${JSON.stringify(layout.root)}: [`),
    family: (family) => rowsOf(family).map(objectOf).join(commas.next),
    apart: commas,
    tail: () => (layout.root === "" ? "\n]\n" : "\n]}\n"),
  };
}
