import { attributeKind, type AttributeKind } from "./vocabulary.js";

/** The catalogue's attributes, each with a slot: products hold their values by slot, so that none looks up a name. */
export interface AttributeIndex {
  readonly names: readonly string[];
  readonly kinds: readonly AttributeKind[];
  slot(name: string): number | undefined;
}

export const attributeIndex = (names: readonly string[]): AttributeIndex => {
  const slots = new Map(names.map((name, slot) => [name, slot]));
  return { names, kinds: names.map(attributeKind), slot: (name) => slots.get(name) };
};
