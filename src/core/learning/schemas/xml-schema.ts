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
import { attribute, childrenOf, namedParts, typeReader, type Facets, type TypeReader } from "./xsd-types.js";
import { fieldsBelow, unfolding, type Follow, type Unfolding } from "./unfolding.js";

/** Whether a document is a schema, by its namespace. */
export const isXmlSchema = ({ root }: TreePaper): boolean =>
  localName(root.name) === "schema" &&
  [...root.attributes].some(([, value]) => value === "http://www.w3.org/2001/XMLSchema");

/** Where a listing may stand at the deepest. */
const ROWS_DEEP = 6;

/** Shorter ones are a part of something: an amount with its currency is no listing. */
const FEW_FIELDS = 2;

interface Schema {
  readonly types: TypeReader;
  readonly content: ContentReader;
  readonly unfolding: Unfolding;
  /** The fields within a complex type, by their paths from there. */
  readonly followFields: Follow<readonly SchemaField[]>;
}

const documentation = (node: TreeNode): string =>
  childrenOf(node, "annotation")
    .flatMap((one) => childrenOf(one, "documentation"))
    .map(({ text }) => text.replace(/\s+/g, " ").trim())
    .filter(Boolean)
    .join(" ");

/** Documentation that is short and no sentence is what people call the field. */
const asLabel = (help: string): string => (help.length <= 60 && !/[.!?]$/.test(help) ? help : "");

function fieldOf(
  node: TreeNode,
  path: string,
  isRequired: boolean,
  most: number | undefined,
  facets: Facets,
): SchemaField {
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
}

/** An attribute as a field. */
function attributeField(node: TreeNode, schema: Schema): SchemaField {
  const meant = schema.content.resolved(node);
  const isRequired = attribute(node, "use") === "required";
  return fieldOf(meant, `@${attribute(meant, "name")}`, isRequired, undefined, schema.types.of(meant));
}

/** An element within a listing: a value, a value with attributes, or a branch of fields. */
function elementFields({ node, isOptional, most }: Particle, schema: Schema): readonly SchemaField[] {
  const { content, types } = schema;
  const meant = content.resolved(node);
  const name = attribute(meant, "name");
  const complex = content.complexOf(meant);
  if (complex === undefined) return [fieldOf(meant, name, !isOptional, most, types.of(meant))];
  const { text, attributes } = content.of(complex);
  if (text !== undefined)
    return [
      fieldOf(meant, name, !isOptional, most, text),
      ...fieldsBelow(
        attributes.map((one) => attributeField(one, schema)),
        name,
        !isOptional,
        undefined,
      ),
    ];
  return fieldsBelow(fieldsIn(complex, schema), name, !isOptional, most);
}

/** The fields within an element, by their paths from there. */
const fieldsIn = (type: TreeNode, schema: Schema): readonly SchemaField[] =>
  schema.followFields(type, () => {
    const { elements, attributes } = schema.content.of(type);
    return schema.unfolding.gathered([...attributes, ...elements], (one) =>
      "node" in one ? elementFields(one, schema) : [attributeField(one, schema)],
    );
  });

/** An element that may be a listing. */
interface RowElement {
  readonly name: string;
  /** What it stands in. */
  readonly root: string;
  readonly fields: readonly SchemaField[];
  readonly repeats: boolean;
  readonly members: RowElement | undefined;
}

/** Finds the elements that may be listings in and within one. */
type FindRows = (node: TreeNode, root: string, repeats: boolean, deep: number) => readonly RowElement[];

/** Begins to look for them. What has the same type, name and place holds the same, and is looked through once. */
function rowFinder(schema: Schema): FindRows {
  const { content, unfolding } = schema;
  const follow = unfolding.followingRows<RowElement>();
  const look = (complex: TreeNode, own: Pick<RowElement, "name" | "root" | "repeats">, deep: number) => {
    const inner = unfolding.gatheredRows(content.of(complex).elements, ({ node, most }) =>
      find(content.resolved(node), own.name, most !== undefined, deep + 1),
    );
    const members = inner.find((one) => one.repeats && one.fields.length > FEW_FIELDS);
    return [{ ...own, fields: fieldsIn(complex, schema), members }, ...inner];
  };
  const find: FindRows = (node, root, repeats, deep) => {
    const complex = content.complexOf(node);
    if (complex === undefined || deep > ROWS_DEEP) return [];
    const own = { name: attribute(node, "name"), root, repeats };
    return follow(complex, `${root} ${own.name} ${repeats} ${deep}`, () => look(complex, own, deep));
  };
  return find;
}

/** The one with the most fields among those that repeat; where none does, among all. */
function listingAmong(rows: readonly RowElement[]): RowElement | undefined {
  const repeating = rows.filter(({ repeats, fields }) => repeats && fields.length > FEW_FIELDS);
  const among = repeating.length > 0 ? repeating : rows;
  return [...among].sort((a, b) => b.fields.length - a.fields.length)[0];
}

/** Its fields, and behind them those of its members. */
function withMembers({ fields, members }: RowElement): readonly SchemaField[] {
  if (members === undefined) return fields;
  return [
    ...fields.filter(({ path }) => !path.split("/").includes(members.name)),
    ...members.fields.map((field) => ({ ...field, isMembers: true })),
  ];
}

/** Gives the fields of the listing that a schema describes; undefined where it describes none. */
export function readXmlSchema({ file, root }: TreePaper): SchemaReading | undefined {
  const named = namedParts(root);
  const unfolded = unfolding(file);
  const types = typeReader(named, unfolded);
  const schema: Schema = {
    types,
    content: contentReader(named, types, unfolded),
    unfolding: unfolded,
    followFields: unfolded.following<readonly SchemaField[]>([]),
  };
  const rowsIn = rowFinder(schema);
  const listing = listingAmong(childrenOf(root, "element").flatMap((node) => rowsIn(node, "", false, 0)));
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
    told: unfolded.told(listing.fields),
  };
}
