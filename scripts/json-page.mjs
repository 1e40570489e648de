// Writes docs/json.md from docs/schemas: the page and what is checked are one.
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

const HEAD = `# JSON Lines

With \`--json\`, a command answers with one JSON object a line on standard output, and nothing else there. Every object
has a \`type\`. Names are written likeThis; names that come from data (attributes, fields, codes) stand in objects of
their own. Fields that are not named here may be added; those here keep their meaning. Each command has a
[JSON Schema](schemas/) (2020-12) that every line of its answer keeps to.
`;

/** A schema in a few words: `texts`, `a number`, `an object of …`. */
const kindOf = (schema) => {
  if (schema.$ref !== undefined) return `a ${schema.$ref.split("/").at(-1)}`;
  if (schema.const !== undefined) return JSON.stringify(schema.const);
  if (schema.enum !== undefined) return schema.enum.map((one) => `\`${one}\``).join(", ");
  if (schema.anyOf !== undefined) return schema.anyOf.map(kindOf).join(" or ");
  if (Array.isArray(schema.type)) return schema.type.map((type) => kindOf({ ...schema, type })).join(" or ");
  switch (schema.type) {
    case "array":
      return `a list: ${kindOf(schema.items)}`;
    case "object":
      if (schema.properties !== undefined) return `{ ${Object.keys(schema.properties).join(", ")} }`;
      return typeof schema.additionalProperties === "object"
        ? `an object of ${kindOf(schema.additionalProperties)}`
        : "an object";
    case "string":
      return "a text";
    case "integer":
      return "a whole number";
    case "number":
      return "a number";
    case "boolean":
      return "true or false";
    case "null":
      return "null";
    default:
      return "any value";
  }
};

const rowOf = ([name, schema], required) => {
  const kind = kindOf(schema);
  const notes = [
    ...(required.includes(name) ? [] : ["may be absent"]),
    ...(schema.description === undefined || schema.$ref !== undefined ? [] : [schema.description]),
  ];
  return `| \`${name}\` | ${[kind, ...notes].join("; ").replaceAll("|", "\\|")} |`;
};

const section = (name, { description = "", properties, required = [] }) =>
  [
    `## ${name}`,
    "",
    description,
    "",
    "| field | holds |",
    "| --- | --- |",
    ...Object.entries(properties)
      .filter(([key]) => key !== "type")
      .map((entry) => rowOf(entry, required)),
    "",
  ].join("\n");

/** The page for the schemas of a folder. */
export const jsonPage = (folder) => {
  const defs = new Map();
  for (const name of readdirSync(folder).sort()) {
    const schema = JSON.parse(readFileSync(join(folder, name), "utf8"));
    for (const [type, def] of Object.entries(schema.$defs)) defs.set(type, def);
  }
  const first = ["finding", "place"];
  const names = [...first, ...[...defs.keys()].filter((name) => !first.includes(name)).sort()];
  return `${HEAD}\n${names.map((name) => section(name, defs.get(name))).join("\n")}`;
};
