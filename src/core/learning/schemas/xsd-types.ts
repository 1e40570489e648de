/**
 * What a value of an XML Schema may be: a simple type, built in or of the schema's own, comes to *facets*: a kind, permitted
 * values and limits.
 *
 * Source: W3C XML Schema 1.0, part 2 (built-in types; facets of 4.3).
 */
import { ownOf } from "../../own.js";
import { localName } from "../../records/local-name.js";
import type { Kind } from "../../values/value.js";
import type { TreeNode } from "../paper.js";
import type { Unfolding } from "./unfolding.js";

/** An attribute of a node; "" where it has none. */
export const attribute = (node: TreeNode, name: string): string => node.attributes.get(name) ?? "";

/** A node's children of these names, whatever their prefix. */
export const childrenOf = (node: TreeNode, ...names: readonly string[]): readonly TreeNode[] =>
  node.children.filter(({ name }) => names.includes(localName(name)));

/** What a schema names, by kind (`simpleType`, `group` …) and name. */
export type NamedParts = (kind: string, name: string) => TreeNode | undefined;

/** The parts at the top of a schema. */
export function namedParts(root: TreeNode): NamedParts {
  const found = new Map(
    root.children.map((node) => [`${localName(node.name)} ${attribute(node, "name")}`, node] as const),
  );
  return (kind, name) => found.get(`${kind} ${localName(name)}`);
}

/** What a simple type lets through. */
export interface Facets {
  readonly kind: Kind;
  readonly values: readonly string[];
  /** By the names of a definition's columns: `max_length`, `min` … */
  readonly limits: ReadonlyMap<string, string>;
  readonly isList: boolean;
}

const anyText: Facets = { kind: "text", values: [], limits: new Map(), isList: false };

const all = (kind: Kind, ...names: readonly string[]): Readonly<Record<string, Kind>> =>
  Object.fromEntries(names.map((name) => [name, kind]));

/** Built-in types as kinds; what is no number, date or address is a text. */
const builtIn: Readonly<Record<string, Kind>> = {
  ...all("decimal", "decimal", "float", "double"),
  ...all("integer", "integer", "int", "long", "short", "byte", "gYear", "nonNegativeInteger"),
  ...all("integer", "positiveInteger", "unsignedInt", "unsignedLong", "unsignedShort", "unsignedByte"),
  ...all("date", "date", "dateTime"),
  boolean: "yes-no",
  anyURI: "url",
};

/** The least that a built-in type's name promises. */
function leastOf(name: string): string | undefined {
  if (name === "nonNegativeInteger" || name.startsWith("unsigned")) return "0";
  return name === "positiveInteger" ? "1" : undefined;
}

/** Facets by name with the limits that each sets. */
const limitFacets: Readonly<Record<string, readonly string[]>> = {
  maxLength: ["max_length"],
  minLength: ["min_length"],
  length: ["min_length", "max_length"],
  fractionDigits: ["decimals"],
  minInclusive: ["min"],
  minExclusive: ["min"],
  maxInclusive: ["max"],
  maxExclusive: ["max"],
  pattern: ["pattern"],
};

/** A type narrowed by the facets of a restriction. */
function narrowed(base: Facets, facets: readonly TreeNode[]): Facets {
  const limits = new Map(base.limits);
  const values = [...base.values];
  for (const facet of facets) {
    const name = localName(facet.name);
    const value = attribute(facet, "value");
    if (name === "enumeration") values.push(value);
    for (const limit of ownOf(limitFacets, name) ?? [])
      if (limit !== "min_length" || value !== "0") limits.set(limit, value);
  }
  const isWhole = base.kind === "decimal" && limits.get("decimals") === "0";
  const kind = values.length > 0 ? "choice" : isWhole ? "integer" : base.kind;
  return { kind, values, limits, isList: base.isList };
}

/** Any of several types: a choice where they list values, else a text. */
function unionOf(members: readonly Facets[]): Facets {
  // Types that share one say its values once.
  const values = [...new Set(members.flatMap((one) => one.values))];
  return { ...anyText, kind: values.length > 0 ? "choice" : "text", values };
}

/** Reads the simple types of one schema. */
export interface TypeReader {
  /** The type of a name. */
  named(name: string): Facets;
  /** The type that an element or attribute has: within it, or by its name. */
  of(node: TreeNode): Facets;
}

/** Begins to read the types of a schema. */
export function typeReader(named: NamedParts, unfolding: Unfolding): TypeReader {
  const follow = unfolding.following(anyText);
  const byName = (name: string): Facets => {
    const own = localName(name);
    const simple = named("simpleType", name);
    if (simple !== undefined) return read(simple);
    const least = leastOf(own);
    return {
      ...anyText,
      kind: ownOf(builtIn, own) ?? "text",
      limits: new Map(least === undefined ? [] : [["min", least]]),
    };
  };
  const read = (node: TreeNode): Facets => follow(node, () => madeOf(node));
  const madeOf = (node: TreeNode): Facets => {
    const [list] = childrenOf(node, "list");
    if (list !== undefined) return { ...byName(attribute(list, "itemType")), isList: true };
    const [union] = childrenOf(node, "union");
    if (union !== undefined)
      return unionOf([
        ...attribute(union, "memberTypes").split(/\s+/).filter(Boolean).map(byName),
        ...childrenOf(union, "simpleType").map(read),
      ]);
    const [restriction] = childrenOf(node, "restriction", "extension");
    if (restriction === undefined) return anyText;
    const [inner] = childrenOf(restriction, "simpleType");
    const base = inner === undefined ? byName(attribute(restriction, "base")) : read(inner);
    return narrowed(base, restriction.children);
  };
  return {
    named: byName,
    of(node) {
      const [inner] = childrenOf(node, "simpleType");
      return inner === undefined ? byName(attribute(node, "type")) : read(inner);
    },
  };
}
