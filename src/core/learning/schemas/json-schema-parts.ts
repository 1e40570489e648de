/**
 * JSON Schema piece by piece: what a schema says of one value (types, permitted values, limits), once everything that it
 * refers to and is made of has been put together. References are followed within the document and to a bounded depth.
 *
 * Source: JSON Schema, draft 4 to 2020-12 (core: $ref, allOf; validation: type, enum, limits, format).
 */
import { ownOf } from "../../own.js";
import type { Kind } from "../../values/value.js";
import type { SchemaField } from "./schema-reading.js";
import type { Unfolding } from "./unfolding.js";

/** An object of a JSON document, keys as they came. */
export type JsonObject = Readonly<Record<string, unknown>>;

/** Whether a value is an object, and no list. */
export const isObject = (value: unknown): value is JsonObject =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** An object's own member. */
export const at = (schema: JsonObject, key: string): unknown => ownOf(schema, key);

/** The same where it is a text; else "". */
export function textAt(schema: JsonObject, key: string): string {
  const value = at(schema, key);
  return typeof value === "string" ? value : "";
}

/** The same where it is a number. */
export function numberAt(schema: JsonObject, key: string): number | undefined {
  const value = at(schema, key);
  return typeof value === "number" && Number.isFinite(value) ? value : undefined;
}

/** The same where it is an object. */
export function objectAt(schema: JsonObject, key: string): JsonObject | undefined {
  const value = at(schema, key);
  return isObject(value) ? value : undefined;
}

/** The same where it is a list. */
export function listAt(schema: JsonObject, key: string): readonly unknown[] | undefined {
  const value = at(schema, key);
  return Array.isArray(value) ? value : undefined;
}

/** A schema with what it refers to and what it is made of put together. */
export type Whole = (schema: unknown) => JsonObject;

/** The value at a JSON Pointer (RFC 6901) of the same document; undefined where it leads elsewhere or nowhere. */
function pointedAt(root: JsonObject, reference: string): unknown {
  if (reference === "#") return root;
  if (!reference.startsWith("#/")) return undefined;
  let found: unknown = root;
  for (const step of reference.slice(2).split("/"))
    found = isObject(found) ? at(found, step.replaceAll("~1", "/").replaceAll("~0", "~")) : undefined;
  return found;
}

/** Two schemas that hold together: a later word replaces an earlier one, properties and needs add up. */
function together(first: JsonObject, second: JsonObject): JsonObject {
  const properties = [objectAt(first, "properties"), objectAt(second, "properties")];
  const required = [listAt(first, "required"), listAt(second, "required")];
  return {
    ...first,
    ...second,
    ...(properties.some((one) => one !== undefined)
      ? { properties: { ...properties[0], ...properties[1] } }
      : {}),
    ...(required.some((one) => one !== undefined)
      ? { required: [...new Set([...(required[0] ?? []), ...(required[1] ?? [])])] }
      : {}),
  };
}

/** Puts schemas of one document together; the same schema gives the same object. */
export function wholeIn(root: JsonObject, unfolding: Unfolding): Whole {
  const follow = unfolding.following<JsonObject>({});
  const madeOf = (schema: JsonObject): JsonObject => {
    const reference = textAt(schema, "$ref");
    const base = reference === "" ? {} : whole(pointedAt(root, reference));
    const parts = (listAt(schema, "allOf") ?? []).map(whole);
    return [...parts, schema].reduce<JsonObject>(together, base);
  };
  const whole = (schema: unknown): JsonObject =>
    isObject(schema) ? follow(schema, () => madeOf(schema)) : {};
  return whole;
}

/** The types that a value may have. */
export function typesOf(schema: JsonObject): readonly string[] {
  const type = textAt(schema, "type");
  if (type !== "") return [type];
  return (listAt(schema, "type") ?? []).filter((one) => typeof one === "string");
}

/** What a value may be one of, but for nothing at all. */
const alternatives = (schema: JsonObject, whole: Whole): readonly JsonObject[] =>
  (listAt(schema, "anyOf") ?? listAt(schema, "oneOf") ?? [])
    .map(whole)
    .filter((one) => !typesOf(one).includes("null"));

/** Permitted values: an `enum`, or a choice of constants. */
function valuesOf(schema: JsonObject, whole: Whole): readonly string[] {
  const own = listAt(schema, "enum");
  if (own !== undefined)
    return own.filter((one) => typeof one === "string" || typeof one === "number").map(String);
  return alternatives(schema, whole)
    .map((one) => at(one, "const"))
    .filter((one) => typeof one === "string");
}

const kindByFormat: Readonly<Record<string, Kind>> = {
  date: "date",
  "date-time": "date",
  uri: "url",
  url: "url",
  iri: "url",
  "uri-reference": "url",
};

function kindOf(schema: JsonObject, isChoice: boolean): Kind {
  const types = typesOf(schema);
  if (isChoice) return "choice";
  if (types.includes("boolean")) return "yes-no";
  if (types.includes("integer")) return "integer";
  if (types.includes("number")) return "decimal";
  return ownOf(kindByFormat, textAt(schema, "format")) ?? "text";
}

function limitsOf(schema: JsonObject): SchemaField["limits"] {
  const step = numberAt(schema, "multipleOf");
  const least = numberAt(schema, "minLength");
  const found = {
    min: numberAt(schema, "minimum") ?? numberAt(schema, "exclusiveMinimum"),
    max: numberAt(schema, "maximum") ?? numberAt(schema, "exclusiveMaximum"),
    min_length: least === 0 ? undefined : least,
    max_length: numberAt(schema, "maxLength"),
    decimals: step === undefined || step >= 1 ? undefined : Math.round(-Math.log10(step)),
  };
  const pattern = textAt(schema, "pattern");
  return {
    ...Object.fromEntries(
      Object.entries(found).flatMap(([key, value]) => (value === undefined ? [] : [[key, String(value)]])),
    ),
    ...(pattern === "" ? {} : { pattern }),
  };
}

/** All that a schema says of one value. */
export function valueFacts(
  schema: JsonObject,
  whole: Whole,
): Pick<SchemaField, "label" | "help" | "kind" | "limits" | "values" | "examples" | "default"> {
  const isOpen = typesOf(schema).length === 0 && valuesOf(schema, whole).length === 0;
  const [first] = isOpen ? alternatives(schema, whole) : [];
  const meant = first === undefined ? schema : { ...first, ...schema };
  const values = valuesOf(meant, whole);
  const usual = at(meant, "default");
  return {
    label: textAt(schema, "title"),
    help: textAt(schema, "description"),
    kind: kindOf(meant, values.length > 0),
    limits: limitsOf(meant),
    values,
    examples: (listAt(meant, "examples") ?? []).map(String),
    default:
      typeof usual === "string" || typeof usual === "number" || typeof usual === "boolean"
        ? String(usual)
        : "",
  };
}
