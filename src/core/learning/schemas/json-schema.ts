/**
 * Reads a JSON Schema into the fields of the object that a listing is. No schema says which of its objects that is: it is
 * the one with the most values of its own, of those that lists hold and those that stand once.
 */
import type { TreePaper } from "../paper.js";
import {
  at,
  isObject,
  listAt,
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
import { fieldsBelow, unfolding, type Follow, type Unfolding } from "./unfolding.js";

/** Whether a document is a schema, by its own word or its parts. */
export function isJsonSchema({ format, json }: TreePaper): boolean {
  return (
    format === "json" &&
    isObject(json) &&
    (textAt(json, "$schema").includes("json-schema") ||
      (objectAt(json, "properties") !== undefined && typeof at(json, "type") === "string"))
  );
}

/** Where a listing may stand at the deepest. */
const ROWS_DEEP = 5;

/** A schema while it is read. */
interface SchemaWork {
  readonly whole: Whole;
  readonly unfolding: Unfolding;
  /** The fields of an object, by their paths from there. */
  readonly followFields: Follow<readonly SchemaField[]>;
}

/** A value as a field. */
const leaf = (
  name: string,
  schema: JsonObject,
  isRequired: boolean,
  many: number | undefined,
  { whole }: SchemaWork,
): SchemaField => ({
  path: name,
  name,
  isRequired,
  many,
  ...valueFacts(schema, whole),
  line: 0,
  isMembers: false,
});

/** A property as fields: a value, a list of values, or the fields of an object or of each in a list of objects. */
function propertyFields(
  name: string,
  schema: JsonObject,
  isRequired: boolean,
  reading: SchemaWork,
): readonly SchemaField[] {
  if (objectAt(schema, "properties") !== undefined)
    return fieldsBelow(fieldsOf(schema, reading), name, isRequired, undefined);
  if (!typesOf(schema).includes("array")) return [leaf(name, schema, isRequired, undefined, reading)];
  const items = reading.whole(at(schema, "items"));
  const most = numberAt(schema, "maxItems") ?? Infinity;
  if (objectAt(items, "properties") !== undefined)
    return fieldsBelow(fieldsOf(items, reading), name, isRequired, most);
  const one = leaf(name, items, isRequired, most, reading);
  // What is said of the list is said of the field.
  const [label, help] = [textAt(schema, "title"), textAt(schema, "description")];
  return [{ ...one, label: label || one.label, help: help || one.help }];
}

/** The fields of an object, by their paths from there. */
const fieldsOf = (schema: JsonObject, reading: SchemaWork): readonly SchemaField[] =>
  reading.followFields(schema, () => {
    const required = listAt(schema, "required") ?? [];
    const properties = Object.entries(objectAt(schema, "properties") ?? {});
    return reading.unfolding.gathered(properties, ([name, property]) =>
      propertyFields(name, reading.whole(property), required.includes(name), reading),
    );
  });

/** An object that may be a listing. */
interface RowObject {
  readonly name: string;
  readonly schema: JsonObject;
  readonly isListed: boolean;
}

/** Finds all such: what lists hold, at any depth, and what stands once. */
type FindObjects = (
  schema: JsonObject,
  name: string,
  isListed: boolean,
  deep: number,
) => readonly RowObject[];

/** Begins to look for them. The same object under the same name holds the same, and is looked through once. */
function rowFinder({ whole, unfolding }: SchemaWork): FindObjects {
  const follow = unfolding.followingRows<RowObject>();
  const look: FindObjects = (schema, name, isListed, deep) => {
    if (typesOf(schema).includes("array") || objectAt(schema, "items") !== undefined)
      return find(whole(at(schema, "items")), name, true, deep + 1);
    const properties = objectAt(schema, "properties");
    if (properties === undefined) return [];
    const inner = unfolding.gatheredRows(Object.entries(properties), ([key, value]) =>
      find(whole(value), key, isListed, deep + 1),
    );
    return [{ name, schema, isListed }, ...inner];
  };
  const find: FindObjects = (schema, name, isListed, deep) =>
    deep > ROWS_DEEP
      ? []
      : follow(schema, `${name} ${isListed} ${deep}`, () => look(schema, name, isListed, deep));
  return find;
}

/** Gives the fields of the listing that a schema describes; undefined where it describes none. */
export function readJsonSchema({ file, json }: TreePaper): SchemaReading | undefined {
  if (!isObject(json)) return undefined;
  const unfolded = unfolding(file);
  const whole = wholeIn(json, unfolded);
  const reading: SchemaWork = {
    whole,
    unfolding: unfolded,
    followFields: unfolded.following<readonly SchemaField[]>([]),
  };
  const rows = rowFinder(reading)(whole(json), "", false, 0);
  const found = rows.map((one) => {
    const fields = fieldsOf(one.schema, reading);
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
    told: unfolded.told(best.fields),
  };
}
