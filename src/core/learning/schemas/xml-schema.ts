import { localName } from "../../records/local-name.js";
import { ownOf } from "../../own.js";
import type { Kind } from "../../values/value.js";
import type { TreeNode, TreePaper } from "../paper.js";
import type { SchemaField, SchemaReading } from "./schema-reading.js";

const attribute = (node: TreeNode, name: string): string => node.attributes.get(name) ?? "";

const childrenOf = (node: TreeNode, ...names: readonly string[]): readonly TreeNode[] =>
  node.children.filter(({ name }) => names.includes(localName(name)));

export const isXmlSchema = ({ root }: TreePaper): boolean =>
  localName(root.name) === "schema" &&
  [...root.attributes].some(([, value]) => value === "http://www.w3.org/2001/XMLSchema");

// XML Schema, part 2: built-in types as kinds; what is no number, date or address is a text.
const builtIn: Readonly<Record<string, Kind>> = {
  ...{ decimal: "decimal", float: "decimal", double: "decimal", boolean: "yes-no", anyURI: "url" },
  ...{ date: "date", dateTime: "date", gYear: "integer" },
  ...{ integer: "integer", int: "integer", long: "integer", short: "integer", byte: "integer" },
  ...{
    nonNegativeInteger: "integer",
    positiveInteger: "integer",
    unsignedInt: "integer",
    unsignedLong: "integer",
  },
  ...{ unsignedShort: "integer", unsignedByte: "integer" },
};

interface Facets {
  kind: Kind | undefined;
  values: string[];
  limits: Map<string, string>;
  isList: boolean;
}

/** What a schema names, looked up by kind and name. */
const namedParts = (root: TreeNode): ((kind: string, name: string) => TreeNode | undefined) => {
  const found = new Map(
    root.children.map((node) => [`${localName(node.name)} ${attribute(node, "name")}`, node] as const),
  );
  return (kind, name) => found.get(`${kind} ${localName(name)}`);
};

const MOST_DEEP = 24;
const MOST_FIELDS = 2000;

/** Reads an XML Schema (W3C, parts 1 and 2) into the fields of the element that repeats: a listing. */
export const readXmlSchema = ({ file, root }: TreePaper): SchemaReading | undefined => {
  const named = namedParts(root);
  const typeOf = (name: string): Facets => {
    const base = ownOf(builtIn, localName(name));
    const facets: Facets = { kind: base ?? "text", values: [], limits: new Map(), isList: false };
    const own = localName(name);
    if (own === "nonNegativeInteger" || own.startsWith("unsigned")) facets.limits.set("min", "0");
    if (own === "positiveInteger") facets.limits.set("min", "1");
    const simple = named("simpleType", name);
    return simple === undefined ? facets : simpleFacets(simple, 0);
  };
  const simpleFacets = (node: TreeNode, deep: number): Facets => {
    const [restriction] = childrenOf(node, "restriction", "extension");
    const [list] = childrenOf(node, "list");
    const [union] = childrenOf(node, "union");
    if (deep > MOST_DEEP) return { kind: "text", values: [], limits: new Map(), isList: false };
    if (list !== undefined) return { ...typeOf(attribute(list, "itemType")), isList: true };
    if (union !== undefined) {
      const members = attribute(union, "memberTypes").split(/\s+/).filter(Boolean).map(typeOf);
      const inner = childrenOf(union, "simpleType").map((one) => simpleFacets(one, deep + 1));
      const values = [...members, ...inner].flatMap((one) => one.values);
      return { kind: values.length > 0 ? "choice" : "text", values, limits: new Map(), isList: false };
    }
    if (restriction === undefined) return { kind: "text", values: [], limits: new Map(), isList: false };
    const [inner] = childrenOf(restriction, "simpleType");
    const facets =
      inner === undefined ? typeOf(attribute(restriction, "base")) : simpleFacets(inner, deep + 1);
    for (const facet of restriction.children) facetOf(facet, facets);
    if (facets.values.length > 0) facets.kind = "choice";
    if (facets.kind === "decimal" && facets.limits.get("decimals") === "0") facets.kind = "integer";
    return facets;
  };
  const documentation = (node: TreeNode): string =>
    childrenOf(node, "annotation")
      .flatMap((one) => childrenOf(one, "documentation"))
      .map(({ text }) => text.replace(/\s+/g, " ").trim())
      .filter(Boolean)
      .join(" ");
  interface Content {
    readonly elements: readonly {
      readonly node: TreeNode;
      readonly isOptional: boolean;
      readonly most: number | undefined;
    }[];
    readonly attributes: readonly TreeNode[];
    readonly text: Facets | undefined;
  }
  const occurs = (node: TreeNode): { readonly isOptional: boolean; readonly most: number | undefined } => {
    const most = attribute(node, "maxOccurs");
    return {
      isOptional: attribute(node, "minOccurs") === "0",
      most: most === "unbounded" ? Infinity : most === "" || most === "1" ? undefined : Number(most),
    };
  };
  const particles = (node: TreeNode, isOptional: boolean, deep: number): Content["elements"] =>
    deep > MOST_DEEP
      ? []
      : node.children.flatMap((child) => {
          const name = localName(child.name);
          const own = occurs(child);
          if (name === "element")
            return [{ node: child, isOptional: isOptional || own.isOptional, most: own.most }];
          if (name === "choice") return particles(child, true, deep + 1);
          if (name === "sequence" || name === "all")
            return particles(child, isOptional || own.isOptional, deep + 1);
          if (name !== "group") return [];
          const group = named("group", attribute(child, "ref"));
          return group === undefined ? [] : particles(group, isOptional || own.isOptional, deep + 1);
        });
  const attributesIn = (node: TreeNode, deep: number): readonly TreeNode[] =>
    deep > MOST_DEEP
      ? []
      : node.children.flatMap((child) => {
          if (localName(child.name) === "attribute") return [child];
          const group =
            localName(child.name) === "attributeGroup"
              ? named("attributeGroup", attribute(child, "ref"))
              : undefined;
          return group === undefined ? [] : attributesIn(group, deep + 1);
        });
  const contentOf = (type: TreeNode, deep = 0): Content => {
    const [inner] = childrenOf(type, "complexContent", "simpleContent");
    if (inner === undefined || deep > MOST_DEEP)
      return {
        elements: particles(type, false, deep),
        attributes: attributesIn(type, deep),
        text: undefined,
      };
    const [change] = childrenOf(inner, "extension", "restriction");
    if (change === undefined) return { elements: [], attributes: [], text: undefined };
    const base = named("complexType", attribute(change, "base"));
    const below = base === undefined ? undefined : contentOf(base, deep + 1);
    return {
      elements: [...(below?.elements ?? []), ...particles(change, false, deep)],
      attributes: [...(below?.attributes ?? []), ...attributesIn(change, deep)],
      text:
        localName(inner.name) === "simpleContent"
          ? (below?.text ?? typeOf(attribute(change, "base")))
          : undefined,
    };
  };
  const resolved = (node: TreeNode): TreeNode => {
    const ref = attribute(node, "ref");
    return ref === "" ? node : (named(localName(node.name), ref) ?? node);
  };
  const complexOf = (node: TreeNode): TreeNode | undefined => {
    const [inner] = childrenOf(node, "complexType");
    return inner ?? named("complexType", attribute(node, "type"));
  };
  const facetsOf = (node: TreeNode): Facets => {
    const [inner] = childrenOf(node, "simpleType");
    return inner === undefined ? typeOf(attribute(node, "type")) : simpleFacets(inner, 0);
  };
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
      label: help !== "" && help.length <= 60 && !/[.!?]$/.test(help) ? help : "",
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
  /** The fields within an element, by their paths from the listing's own. */
  const fieldsIn = (
    type: TreeNode,
    path: string,
    isRequired: boolean,
    deep: number,
  ): readonly SchemaField[] => {
    if (deep > MOST_DEEP) return [];
    const { elements, attributes } = contentOf(type);
    const at = (name: string): string => (path === "" ? name : `${path}/${name}`);
    const own = attributes.map((node) => {
      const meant = resolved(node);
      const must = isRequired && attribute(node, "use") === "required";
      return fieldOf(meant, at(`@${attribute(meant, "name")}`), must, undefined, facetsOf(meant));
    });
    const inner = elements.flatMap(({ node, isOptional, most }): readonly SchemaField[] => {
      const meant = resolved(node);
      const name = attribute(meant, "name");
      const complex = complexOf(meant);
      const must = isRequired && !isOptional;
      if (complex === undefined) return [fieldOf(meant, at(name), must, most, facetsOf(meant))];
      const content = contentOf(complex);
      if (content.text !== undefined) {
        const value = fieldOf(meant, at(name), must, most, content.text);
        const beside = content.attributes.map((one) =>
          fieldOf(
            resolved(one),
            `${at(name)}/@${attribute(resolved(one), "name")}`,
            must && attribute(one, "use") === "required",
            undefined,
            facetsOf(resolved(one)),
          ),
        );
        return [value, ...beside];
      }
      const below = fieldsIn(complex, at(name), must, deep + 1);
      return most === undefined ? below : below.map((field) => ({ ...field, many: field.many ?? most }));
    });
    return [...own, ...inner].slice(0, MOST_FIELDS);
  };
  // The listing is the element that repeats and holds the most; where none repeats, the first that holds anything.
  interface Row {
    readonly name: string;
    readonly root: string;
    readonly fields: readonly SchemaField[];
    readonly repeats: boolean;
    readonly members: Row | undefined;
  }
  const rowsIn = (node: TreeNode, root: string, repeats: boolean, deep: number): readonly Row[] => {
    const complex = complexOf(node);
    if (complex === undefined || deep > 6) return [];
    const name = attribute(node, "name");
    const { elements } = contentOf(complex);
    const below = elements.flatMap(({ node: child, most }) =>
      rowsIn(resolved(child), name, most !== undefined, deep + 1),
    );
    return [
      {
        name,
        root,
        fields: fieldsIn(complex, "", true, 0),
        repeats,
        members: below.find((one) => one.repeats && one.fields.length > 2),
      },
      ...below,
    ];
  };
  const starts = childrenOf(root, "element");
  const rows = starts.flatMap((node) => rowsIn(node, "", false, 0));
  const best =
    rows
      .filter(({ repeats, fields }) => repeats && fields.length > 2)
      .sort((a, b) => b.fields.length - a.fields.length)[0] ??
    rows.sort((a, b) => b.fields.length - a.fields.length)[0];
  if (best === undefined || best.fields.length === 0) return undefined;
  const { members } = best;
  const isWithin = (path: string): boolean => members !== undefined && path.split("/").includes(members.name);
  return {
    file,
    format: "xml",
    title: "",
    namespace: attribute(root, "targetNamespace"),
    prefix: "",
    root: best.root === "" ? "listings" : best.root,
    row: best.name,
    member: members?.name ?? "",
    fields: [
      ...best.fields.filter(({ path }) => !isWithin(path)),
      ...(members?.fields ?? []).map((field) => ({ ...field, isMembers: true })),
    ],
    isSample: false,
  };
};

/** Facets by name with the limits that each sets. */
const limitFacets: Readonly<Record<string, readonly string[]>> = {
  maxLength: ["max_length"],
  minLength: ["min_length"],
  length: ["min_length", "max_length"],
  fractionDigits: ["decimals"],
  ...{ minInclusive: ["min"], minExclusive: ["min"], maxInclusive: ["max"], maxExclusive: ["max"] },
  pattern: ["pattern"],
};

const facetOf = (facet: TreeNode, facets: Facets): void => {
  const value = attribute(facet, "value");
  const name = localName(facet.name);
  if (name === "enumeration") facets.values.push(value);
  for (const limit of ownOf(limitFacets, name) ?? [])
    if (limit !== "min_length" || value !== "0") facets.limits.set(limit, value);
};
