/**
 * Reads a JSON Schema into the fields of the object that a listing is. No schema says which of its objects that is: it is
 * the one with the most values of its own, of those that lists hold and those that stand once.
 */
import type { TreePaper } from "../paper.js";
import {
  at,
  isObject,
  listAt,
  MOST_DEEP,
  numberAt,
  objectAt,
  textAt,
  typesOf,
  valueFacts,
  wholeIn,
  type JsonObject,
  type Whole,
} from "./json-schema-parts.js";
import type { SchemaField, SchemaReading } from "./schema-reading.js";

/** Whether a document is a schema, by its own word or its parts. */
export const isJsonSchema = ({ format, json }: TreePaper): boolean =>
  format === "json" &&
  isObject(json) &&
  (textAt(json, "$schema").includes("json-schema") ||
    (objectAt(json, "properties") !== undefined && typeof at(json, "type") === "string"));

/** Where a listing may stand at the deepest. */
const ROWS_DEEP = 5;

/** A value as a field. */
const leaf = (
  name: string,
  path: string,
  schema: JsonObject,
  isRequired: boolean,
  many: number | undefined,
  whole: Whole,
): SchemaField => ({
  path,
  name,
  isRequired,
  many,
  ...valueFacts(schema, whole),
  line: 0,
  isMembers: false,
});

/** A property as fields: a value, a list of values, or the fields of an object or of each in a list of objects. */
const propertyFields = (
  name: string,
  schema: JsonObject,
  path: string,
  isRequired: boolean,
  deep: number,
  whole: Whole,
): readonly SchemaField[] => {
  if (objectAt(schema, "properties") !== undefined)
    return fieldsOf(schema, path, isRequired, deep + 1, whole);
  if (!typesOf(schema).includes("array")) return [leaf(name, path, schema, isRequired, undefined, whole)];
  const items = whole(at(schema, "items"));
  const most = numberAt(schema, "maxItems") ?? Infinity;
  if (objectAt(items, "properties") !== undefined)
    return fieldsOf(items, path, isRequired, deep + 1, whole).map((field) => ({
      ...field,
      many: field.many ?? most,
    }));
  const one = leaf(name, path, items, isRequired, most, whole);
  // What is said of the list is said of the field.
  const [label, help] = [textAt(schema, "title"), textAt(schema, "description")];
  return [{ ...one, label: label || one.label, help: help || one.help }];
};

/** The fields of an object, by their paths from the listing's own. */
const fieldsOf = (
  schema: JsonObject,
  path: string,
  isRequired: boolean,
  deep: number,
  whole: Whole,
): readonly SchemaField[] => {
  const properties = objectAt(schema, "properties");
  if (properties === undefined || deep > MOST_DEEP) return [];
  const required = listAt(schema, "required") ?? [];
  return Object.entries(properties).flatMap(([name, property]) => {
    const to = path === "" ? name : `${path}/${name}`;
    return propertyFields(name, whole(property), to, isRequired && required.includes(name), deep, whole);
  });
};

/** An object that may be a listing. */
interface RowObject {
  readonly name: string;
  readonly schema: JsonObject;
  readonly isListed: boolean;
}

/** All such: what lists hold, at any depth, and what stands once. */
const rowsIn = (
  schema: JsonObject,
  name: string,
  isListed: boolean,
  deep: number,
  whole: Whole,
): readonly RowObject[] => {
  if (deep > ROWS_DEEP) return [];
  if (typesOf(schema).includes("array") || objectAt(schema, "items") !== undefined)
    return rowsIn(whole(at(schema, "items")), name, true, deep + 1, whole);
  const properties = objectAt(schema, "properties");
  if (properties === undefined) return [];
  const inner = Object.entries(properties).flatMap(([key, value]) =>
    rowsIn(whole(value), key, isListed, deep + 1, whole),
  );
  return [{ name, schema, isListed }, ...inner];
};

/** Gives the fields of the listing that a schema describes; undefined where it describes none. */
export const readJsonSchema = ({ file, json }: TreePaper): SchemaReading | undefined => {
  if (!isObject(json)) return undefined;
  const whole = wholeIn(json);
  const found = rowsIn(whole(json), "", false, 0, whole).map((one) => {
    const fields = fieldsOf(one.schema, "", true, 0, whole);
    return { ...one, fields, own: fields.filter(({ path }) => !path.includes("/")).length };
  });
  const [best] = [...found].sort((a, b) => b.own - a.own);
  if (best === undefined || best.fields.length === 0) return undefined;
  return {
    file,
    format: found[0]?.isListed === true || best.name !== "" ? "json" : "jsonl",
    title: textAt(json, "title"),
    namespace: "",
    prefix: "",
    root: best.name,
    row: "",
    member: "",
    fields: best.fields,
    isSample: false,
  };
};
