/**
 * What stands within an element of an XML Schema: the elements and attributes that its complex type gathers from sequences,
 * choices, groups and the types that it extends. Given flat; whether one may be missing is said with it.
 *
 * Source: W3C XML Schema 1.0, part 1 (3.4 complex types, 3.8 model groups).
 */
import { localName } from "../../records/local-name.js";
import type { TreeNode } from "../paper.js";
import {
  attribute,
  childrenOf,
  MOST_DEEP,
  type Facets,
  type NamedParts,
  type TypeReader,
} from "./xsd-types.js";

/** One element within another. */
export interface Particle {
  readonly node: TreeNode;
  readonly isOptional: boolean;
  /** How often it may stand; undefined: once. */
  readonly most: number | undefined;
}

/** What stands within an element. */
export interface Content {
  readonly elements: readonly Particle[];
  readonly attributes: readonly TreeNode[];
  /** What the element itself says, where it holds a text beside its attributes. */
  readonly text: Facets | undefined;
}

/** Reads the complex types of one schema. */
export interface ContentReader {
  of(type: TreeNode): Content;
  /** The complex type of an element; undefined where it holds a value alone. */
  complexOf(node: TreeNode): TreeNode | undefined;
  /** What a reference stands for. */
  resolved(node: TreeNode): TreeNode;
}

/** How often a particle may stand, and whether it may be missing. */
const occurs = (node: TreeNode): Pick<Particle, "isOptional" | "most"> => {
  const most = attribute(node, "maxOccurs");
  return {
    isOptional: attribute(node, "minOccurs") === "0",
    most: most === "unbounded" ? Infinity : most === "" || most === "1" ? undefined : Number(most),
  };
};

const nothing: Content = { elements: [], attributes: [], text: undefined };

/** Begins to read them. */
export const contentReader = (named: NamedParts, types: TypeReader): ContentReader => {
  const particles = (node: TreeNode, isOptional: boolean, deep: number): readonly Particle[] => {
    if (deep > MOST_DEEP) return [];
    return node.children.flatMap((child): readonly Particle[] => {
      const own = occurs(child);
      const mayMiss = isOptional || own.isOptional;
      switch (localName(child.name)) {
        case "element":
          return [{ node: child, isOptional: mayMiss, most: own.most }];
        case "choice":
          return particles(child, true, deep + 1);
        case "sequence":
        case "all":
          return particles(child, mayMiss, deep + 1);
        case "group": {
          const group = named("group", attribute(child, "ref"));
          return group === undefined ? [] : particles(group, mayMiss, deep + 1);
        }
        default:
          return [];
      }
    });
  };
  const attributesIn = (node: TreeNode, deep: number): readonly TreeNode[] => {
    if (deep > MOST_DEEP) return [];
    return node.children.flatMap((child) => {
      const name = localName(child.name);
      if (name === "attribute") return [child];
      const group = name === "attributeGroup" ? named("attributeGroup", attribute(child, "ref")) : undefined;
      return group === undefined ? [] : attributesIn(group, deep + 1);
    });
  };
  const contentOf = (type: TreeNode, deep: number): Content => {
    const [inner] = childrenOf(type, "complexContent", "simpleContent");
    if (inner === undefined || deep > MOST_DEEP)
      return { ...nothing, elements: particles(type, false, deep), attributes: attributesIn(type, deep) };
    const [change] = childrenOf(inner, "extension", "restriction");
    if (change === undefined) return nothing;
    const base = named("complexType", attribute(change, "base"));
    const below = base === undefined ? nothing : contentOf(base, deep + 1);
    const isText = localName(inner.name) === "simpleContent";
    return {
      elements: [...below.elements, ...particles(change, false, deep)],
      attributes: [...below.attributes, ...attributesIn(change, deep)],
      text: isText ? (below.text ?? types.named(attribute(change, "base"))) : undefined,
    };
  };
  return {
    of: (type) => contentOf(type, 0),
    complexOf(node) {
      const [inner] = childrenOf(node, "complexType");
      return inner ?? named("complexType", attribute(node, "type"));
    },
    resolved(node) {
      const ref = attribute(node, "ref");
      return ref === "" ? node : (named(localName(node.name), ref) ?? node);
    },
  };
};
