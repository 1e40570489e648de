/**
 * Reads an XML Schema (W3C, parts 1 and 2) into the fields of a listing. The listing is not marked in a schema: it is the
 * element that repeats and holds the most; one that repeats within it holds its members.
 *
 * In passes: types (`xsd-types.ts`) → what stands in an element (`xsd-content.ts`) → its fields by their paths → the elements
 * that may be listings → the best of them.
 */
import { localName } from "../../records/local-name.js";
import type { TreeNode, TreePaper } from "../paper.js";
import type { SchemaField, SchemaReading } from "./schema-reading.js";
import { contentReader, type ContentReader, type Particle } from "./xsd-content.js";
import {
  attribute,
  childrenOf,
  MOST_DEEP,
  namedParts,
  typeReader,
  type Facets,
  type TypeReader,
} from "./xsd-types.js";

/** Whether a document is a schema, by its namespace. */
export const isXmlSchema = ({ root }: TreePaper): boolean =>
  localName(root.name) === "schema" &&
  [...root.attributes].some(([, value]) => value === "http://www.w3.org/2001/XMLSchema");

const MOST_FIELDS = 2000;

/** Where a listing may stand at the deepest. */
const ROWS_DEEP = 6;

/** Shorter ones are a part of something: an amount with its currency is no listing. */
const FEW_FIELDS = 2;

interface Schema {
  readonly types: TypeReader;
  readonly content: ContentReader;
}

const documentation = (node: TreeNode): string =>
  childrenOf(node, "annotation")
    .flatMap((one) => childrenOf(one, "documentation"))
    .map(({ text }) => text.replace(/\s+/g, " ").trim())
    .filter(Boolean)
    .join(" ");

/** Documentation that is short and no sentence is what people call the field. */
const asLabel = (help: string): string => (help.length <= 60 && !/[.!?]$/.test(help) ? help : "");

const fieldOf = (
  node: TreeNode,
  path: string,
  isRequired: boolean,
  most: number | undefined,
  facets: Facets,
): SchemaField => {
  const help = documentation(node);
  return {
    path,
    name: attribute(node, "name") || localName(attribute(node, "ref")),
    label: asLabel(help),
    help,
    kind: facets.kind,
    isRequired,
    many: facets.isList ? Infinity : most,
    limits: Object.fromEntries(facets.limits),
    values: facets.values,
    examples: [],
    default: attribute(node, "default") || attribute(node, "fixed"),
    line: node.line,
    isMembers: false,
  };
};

/** An attribute as a field, below its element's path. */
const attributeField = (node: TreeNode, above: string, isRequired: boolean, schema: Schema): SchemaField => {
  const meant = schema.content.resolved(node);
  const own = `@${attribute(meant, "name")}`;
  const must = isRequired && attribute(node, "use") === "required";
  return fieldOf(meant, above === "" ? own : `${above}/${own}`, must, undefined, schema.types.of(meant));
};

/** An element within a listing: a value, a value with attributes, or a branch of fields. */
const elementFields = (
  { node, isOptional, most }: Particle,
  above: string,
  isRequired: boolean,
  deep: number,
  schema: Schema,
): readonly SchemaField[] => {
  const { content, types } = schema;
  const meant = content.resolved(node);
  const name = attribute(meant, "name");
  const path = above === "" ? name : `${above}/${name}`;
  const must = isRequired && !isOptional;
  const complex = content.complexOf(meant);
  if (complex === undefined) return [fieldOf(meant, path, must, most, types.of(meant))];
  const { text, attributes } = content.of(complex);
  if (text !== undefined)
    return [
      fieldOf(meant, path, must, most, text),
      ...attributes.map((one) => attributeField(one, path, must, schema)),
    ];
  const below = fieldsIn(complex, path, must, deep + 1, schema);
  return most === undefined ? below : below.map((field) => ({ ...field, many: field.many ?? most }));
};

/** The fields within an element, by their paths from the listing's own. */
const fieldsIn = (
  type: TreeNode,
  path: string,
  isRequired: boolean,
  deep: number,
  schema: Schema,
): readonly SchemaField[] => {
  if (deep > MOST_DEEP) return [];
  const { elements, attributes } = schema.content.of(type);
  return [
    ...attributes.map((node) => attributeField(node, path, isRequired, schema)),
    ...elements.flatMap((particle) => elementFields(particle, path, isRequired, deep, schema)),
  ].slice(0, MOST_FIELDS);
};

/** An element that may be a listing. */
interface RowElement {
  readonly name: string;
  /** What it stands in. */
  readonly root: string;
  readonly fields: readonly SchemaField[];
  readonly repeats: boolean;
  readonly members: RowElement | undefined;
}

const rowsIn = (
  node: TreeNode,
  root: string,
  repeats: boolean,
  deep: number,
  schema: Schema,
): readonly RowElement[] => {
  const { content } = schema;
  const complex = content.complexOf(node);
  if (complex === undefined || deep > ROWS_DEEP) return [];
  const name = attribute(node, "name");
  const below = content
    .of(complex)
    .elements.flatMap(({ node: child, most }) =>
      rowsIn(content.resolved(child), name, most !== undefined, deep + 1, schema),
    );
  const members = below.find((one) => one.repeats && one.fields.length > FEW_FIELDS);
  return [{ name, root, fields: fieldsIn(complex, "", true, 0, schema), repeats, members }, ...below];
};

/** The one with the most fields among those that repeat; where none does, among all. */
const listingAmong = (rows: readonly RowElement[]): RowElement | undefined => {
  const repeating = rows.filter(({ repeats, fields }) => repeats && fields.length > FEW_FIELDS);
  const among = repeating.length > 0 ? repeating : rows;
  return [...among].sort((a, b) => b.fields.length - a.fields.length)[0];
};

/** Its fields, and behind them those of its members. */
const withMembers = ({ fields, members }: RowElement): readonly SchemaField[] => {
  if (members === undefined) return fields;
  return [
    ...fields.filter(({ path }) => !path.split("/").includes(members.name)),
    ...members.fields.map((field) => ({ ...field, isMembers: true })),
  ];
};

/** Gives the fields of the listing that a schema describes; undefined where it describes none. */
export const readXmlSchema = ({ file, root }: TreePaper): SchemaReading | undefined => {
  const named = namedParts(root);
  const types = typeReader(named);
  const schema = { types, content: contentReader(named, types) };
  const listing = listingAmong(
    childrenOf(root, "element").flatMap((node) => rowsIn(node, "", false, 0, schema)),
  );
  if (listing === undefined || listing.fields.length === 0) return undefined;
  return {
    file,
    format: "xml",
    title: "",
    namespace: attribute(root, "targetNamespace"),
    prefix: "",
    root: listing.root === "" ? "listings" : listing.root,
    row: listing.name,
    member: listing.members?.name ?? "",
    fields: withMembers(listing),
    isSample: false,
  };
};
