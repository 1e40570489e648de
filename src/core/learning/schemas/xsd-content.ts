/**
 * What stands within an element of an XML Schema: the elements and attributes that its complex type gathers from sequences,
 * choices, groups and the types that it extends. Given flat; whether one may be missing is said with it.
 *
 * Source: W3C XML Schema 1.0, part 1 (3.4 complex types, 3.8 model groups).
 */
import { localName } from "../../records/local-name.js";
import type { TreeNode } from "../paper.js";
import { attribute, childrenOf, type Facets, type NamedParts, type TypeReader } from "./xsd-types.js";
import type { Unfolding } from "./unfolding.js";

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
function occurs(node: TreeNode): Pick<Particle, "isOptional" | "most"> {
  const most = attribute(node, "maxOccurs");
  return {
    isOptional: attribute(node, "minOccurs") === "0",
    most: most === "unbounded" ? Infinity : most === "" || most === "1" ? undefined : Number(most),
  };
}

/** What stands in something that may be missing may itself be. */
const optionalIf = (isOptional: boolean, particles: readonly Particle[]): readonly Particle[] =>
  isOptional ? particles.map((one) => ({ ...one, isOptional: true })) : particles;

const nothing: Content = { elements: [], attributes: [], text: undefined };

/** Begins to read them. */
export function contentReader(named: NamedParts, types: TypeReader, unfolding: Unfolding): ContentReader {
  const { gathered } = unfolding;
  const followParticles = unfolding.following<readonly Particle[]>([]);
  const followAttributes = unfolding.following<readonly TreeNode[]>([]);
  const followTypes = unfolding.following(nothing);
  const particles = (node: TreeNode): readonly Particle[] =>
    followParticles(node, () => gathered(node.children, particlesOf));
  const particlesOf = (child: TreeNode): readonly Particle[] => {
    const { isOptional, most } = occurs(child);
    switch (localName(child.name)) {
      case "element":
        return [{ node: child, isOptional, most }];
      case "choice":
        return optionalIf(true, particles(child));
      case "sequence":
      case "all":
        return optionalIf(isOptional, particles(child));
      case "group": {
        const group = named("group", attribute(child, "ref"));
        return group === undefined ? [] : optionalIf(isOptional, particles(group));
      }
      default:
        return [];
    }
  };
  const attributesIn = (node: TreeNode): readonly TreeNode[] =>
    followAttributes(node, () => gathered(node.children, attributesOf));
  const attributesOf = (child: TreeNode): readonly TreeNode[] => {
    const name = localName(child.name);
    if (name === "attribute") return [child];
    const group = name === "attributeGroup" ? named("attributeGroup", attribute(child, "ref")) : undefined;
    return group === undefined ? [] : attributesIn(group);
  };
  const contentOf = (type: TreeNode): Content => followTypes(type, () => madeOf(type));
  const madeOf = (type: TreeNode): Content => {
    const [inner] = childrenOf(type, "complexContent", "simpleContent");
    if (inner === undefined) return { ...nothing, elements: particles(type), attributes: attributesIn(type) };
    const [change] = childrenOf(inner, "extension", "restriction");
    if (change === undefined) return nothing;
    const base = named("complexType", attribute(change, "base"));
    const below = base === undefined ? nothing : contentOf(base);
    const isText = localName(inner.name) === "simpleContent";
    return {
      elements: gathered([below.elements, particles(change)], (some) => some),
      attributes: gathered([below.attributes, attributesIn(change)], (some) => some),
      text: isText ? (below.text ?? types.named(attribute(change, "base"))) : undefined,
    };
  };
  return {
    of: contentOf,
    complexOf(node) {
      const [inner] = childrenOf(node, "complexType");
      return inner ?? named("complexType", attribute(node, "type"));
    },
    resolved(node) {
      const ref = attribute(node, "ref");
      return ref === "" ? node : (named(localName(node.name), ref) ?? node);
    },
  };
}
