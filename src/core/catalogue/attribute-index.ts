import { attributeKind } from "./vocabulary.js";
import type { AttributeKind } from "../values/attribute-kind.js";

/** The catalogue's attributes, each with a slot: products hold their values by slot, so that none looks up a name. */
export interface AttributeIndex {
  readonly names: readonly string[];
  readonly kinds: readonly AttributeKind[];
  slot(name: string): number | undefined;
}

/** An index that an import may add attributes to; slots once given stay. */
export interface GrowingIndex extends AttributeIndex {
  slotFor(name: string): number;
}

export const attributeIndex = (first: readonly string[]): GrowingIndex => {
  const names = [...first];
  const kinds = names.map(attributeKind);
  const slots = new Map(names.map((name, slot) => [name, slot]));
  return {
    names,
    kinds,
    slot: (name) => slots.get(name),
    slotFor(name) {
      const known = slots.get(name);
      if (known !== undefined) return known;
      slots.set(name, names.length);
      names.push(name);
      kinds.push(attributeKind(name));
      return names.length - 1;
    },
  };
};

/** An index with further attributes behind those it has; the slots that it gave stay. */
export const withAttributes = (index: AttributeIndex, names: readonly string[]): AttributeIndex => {
  const further = names.filter((name) => index.slot(name) === undefined);
  return further.length === 0 ? index : attributeIndex([...index.names, ...further]);
};
