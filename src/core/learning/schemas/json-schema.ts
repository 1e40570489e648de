import { ownOf } from "../../own.js";
import type { Kind } from "../../values/value.js";
import type { TreePaper } from "../paper.js";
import type { SchemaField, SchemaReading } from "./schema-reading.js";

type Json = Readonly<Record<string, unknown>>;

const isObject = (value: unknown): value is Json =>
  typeof value === "object" && value !== null && !Array.isArray(value);

const at = (schema: Json, key: string): unknown => ownOf(schema, key);
const text = (schema: Json, key: string): string => {
  const value = at(schema, key);
  return typeof value === "string" ? value : "";
};
const number = (schema: Json, key: string): number | undefined => {
  const value = at(schema, key);
  return typeof value === "number" && Number.isFinite(value) ? value : undefined;
};

export const isJsonSchema = ({ format, json }: TreePaper): boolean =>
  format === "json" &&
  isObject(json) &&
  (text(json, "$schema").includes("json-schema") ||
    (isObject(at(json, "properties")) && typeof at(json, "type") === "string"));

const MOST_DEEP = 20;

/** Reads a JSON Schema (draft 4 to 2020-12) into the fields of the object that a listing is. */
export const readJsonSchema = ({ file, json }: TreePaper): SchemaReading | undefined => {
  if (!isObject(json)) return undefined;
  const root = json;
  const byReference = (reference: string): unknown =>
    reference === "#"
      ? root
      : reference.startsWith("#/")
        ? reference
            .slice(2)
            .split("/")
            .reduce<unknown>(
              (value, step) =>
                isObject(value) ? at(value, step.replaceAll("~1", "/").replaceAll("~0", "~")) : undefined,
              root,
            )
        : undefined;
  /** A schema with what it refers to and what it is made of put together. */
  const whole = (schema: unknown, deep = 0): Json => {
    if (!isObject(schema) || deep > MOST_DEEP) return {};
    const reference = text(schema, "$ref");
    const base = reference === "" ? {} : whole(byReference(reference), deep + 1);
    const parts = at(schema, "allOf");
    const all = (Array.isArray(parts) ? parts : []).map((part) => whole(part, deep + 1));
    return [base, ...all, schema].reduce<Json>(
      (sum, one) => ({
        ...sum,
        ...one,
        ...(isObject(at(sum, "properties")) || isObject(at(one, "properties"))
          ? {
              properties: {
                ...(at(sum, "properties") as Json | undefined),
                ...(at(one, "properties") as Json | undefined),
              },
            }
          : {}),
        ...(Array.isArray(at(sum, "required")) || Array.isArray(at(one, "required"))
          ? {
              required: [
                ...((at(sum, "required") as unknown[] | undefined) ?? []),
                ...((at(one, "required") as unknown[] | undefined) ?? []),
              ],
            }
          : {}),
      }),
      {},
    );
  };
  const typesOf = (schema: Json): readonly string[] => {
    const type = at(schema, "type");
    if (typeof type === "string") return [type];
    return Array.isArray(type) ? type.filter((one): one is string => typeof one === "string") : [];
  };
  const alternatives = (schema: Json): readonly Json[] => {
    const some = at(schema, "anyOf") ?? at(schema, "oneOf");
    return Array.isArray(some)
      ? some.map((one) => whole(one)).filter((one) => !typesOf(one).includes("null"))
      : [];
  };
  const valuesOf = (schema: Json): readonly string[] => {
    const own = at(schema, "enum");
    if (Array.isArray(own))
      return own.filter((one) => typeof one === "string" || typeof one === "number").map(String);
    const constants = alternatives(schema)
      .map((one) => at(one, "const"))
      .filter((one) => typeof one === "string");
    return constants.map(String);
  };
  const kindOf = (schema: Json): Kind => {
    const types = typesOf(schema);
    const format = text(schema, "format");
    if (valuesOf(schema).length > 0) return "choice";
    if (types.includes("boolean")) return "yes-no";
    if (types.includes("integer")) return "integer";
    if (types.includes("number")) return "decimal";
    if (format === "date" || format === "date-time") return "date";
    return format === "uri" || format === "url" || format === "iri" || format === "uri-reference"
      ? "url"
      : "text";
  };
  const limitsOf = (schema: Json): SchemaField["limits"] => {
    const step = number(schema, "multipleOf");
    const decimals = step === undefined || step >= 1 ? undefined : Math.round(-Math.log10(step));
    const found = {
      min: number(schema, "minimum") ?? number(schema, "exclusiveMinimum"),
      max: number(schema, "maximum") ?? number(schema, "exclusiveMaximum"),
      min_length: number(schema, "minLength") === 0 ? undefined : number(schema, "minLength"),
      max_length: number(schema, "maxLength"),
      decimals,
    };
    const pattern = text(schema, "pattern");
    return {
      ...Object.fromEntries(
        Object.entries(found).flatMap(([key, value]) => (value === undefined ? [] : [[key, String(value)]])),
      ),
      ...(pattern === "" ? {} : { pattern }),
    };
  };
  const leaf = (
    name: string,
    path: string,
    schema: Json,
    isRequired: boolean,
    many: number | undefined,
  ): SchemaField => {
    const [first] = alternatives(schema);
    const meant =
      typesOf(schema).length === 0 && valuesOf(schema).length === 0 && first !== undefined
        ? { ...first, ...schema }
        : schema;
    const examples = at(meant, "examples");
    const usual = at(meant, "default");
    return {
      path,
      name,
      label: text(schema, "title"),
      help: text(schema, "description"),
      kind: kindOf(meant),
      isRequired,
      many,
      limits: limitsOf(meant),
      values: valuesOf(meant),
      examples: Array.isArray(examples) ? examples.map(String) : [],
      default:
        typeof usual === "string" || typeof usual === "number" || typeof usual === "boolean"
          ? String(usual)
          : "",
      line: 0,
      isMembers: false,
    };
  };
  const fieldsOf = (
    schema: Json,
    path: string,
    isRequired: boolean,
    deep: number,
  ): readonly SchemaField[] => {
    const properties = at(schema, "properties");
    const required = at(schema, "required");
    if (!isObject(properties) || deep > MOST_DEEP) return [];
    return Object.entries(properties).flatMap(([name, raw]): readonly SchemaField[] => {
      const own = whole(raw);
      const must = isRequired && Array.isArray(required) && required.includes(name);
      const to = path === "" ? name : `${path}/${name}`;
      if (isObject(at(own, "properties"))) return fieldsOf(own, to, must, deep + 1);
      if (!typesOf(own).includes("array")) return [leaf(name, to, own, must, undefined)];
      const items = whole(at(own, "items"));
      const most = number(own, "maxItems") ?? Infinity;
      if (isObject(at(items, "properties")))
        return fieldsOf(items, to, must, deep + 1).map((field) => ({ ...field, many: field.many ?? most }));
      const one = leaf(name, to, items, must, most);
      return [{ ...one, label: text(own, "title") || one.label, help: text(own, "description") || one.help }];
    });
  };
  /** The objects that may be a listing: what lists hold, at any depth, before what stands once. */
  const rows = (
    schema: Json,
    name: string,
    isListed: boolean,
    deep: number,
  ): readonly { readonly name: string; readonly schema: Json; readonly isListed: boolean }[] => {
    if (deep > 5) return [];
    if (typesOf(schema).includes("array") || isObject(at(schema, "items")))
      return rows(whole(at(schema, "items")), name, true, deep + 1);
    const properties = at(schema, "properties");
    if (!isObject(properties)) return [];
    const inner = Object.entries(properties).flatMap(([key, value]) =>
      rows(whole(value), key, isListed, deep + 1),
    );
    return [{ name, schema, isListed }, ...inner];
  };
  const found = rows(whole(root), "", false, 0).map((one) => ({
    ...one,
    fields: fieldsOf(one.schema, "", true, 0),
  }));
  const own = (one: (typeof found)[number]): number =>
    one.fields.filter(({ path }) => !path.includes("/")).length;
  const best = [...found].sort((a, b) => own(b) - own(a))[0];
  if (best === undefined || best.fields.length === 0) return undefined;
  return {
    file,
    format: found[0]?.isListed === true || best.name !== "" ? "json" : "jsonl",
    title: text(root, "title"),
    namespace: "",
    prefix: "",
    root: best.name,
    row: "",
    member: "",
    fields: best.fields,
    isSample: false,
  };
};
