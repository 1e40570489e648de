/**
 * Slots: each attribute of a catalogue has a number, so that records are arrays and no name is looked up per product.
 */
import { attributeKind } from "./vocabulary.js";
import type { AttributeKind, KindOf } from "../values/attribute-kind.js";
import { typedTexts, type TypeText } from "./typed-texts.js";

/** The catalogue's attributes, each with a slot: products hold their values by slot, so that none looks up a name. */
export interface AttributeIndex {
  readonly names: readonly string[];
  readonly kinds: readonly AttributeKind[];
  /** Slots that every product is asked for. */
  readonly known: { readonly sku: number | undefined; readonly group: number | undefined };
  slot(name: string): number | undefined;
  /** The kind of any attribute, whether it has a slot or not. */
  readonly kindOf: KindOf;
  /** A canonical text as the value of its attribute; undefined where it does not read as one. */
  readonly typed: TypeText;
}

/** An index that an import may add attributes to; slots once given stay. */
export interface GrowingIndex extends AttributeIndex {
  slotFor(name: string): number;
}

/** An index that begins with these attributes, in their order. */
export function attributeIndex(first: readonly string[], kindOf: KindOf = attributeKind): GrowingIndex {
  const names = [...first];
  const kinds = names.map(kindOf);
  const slots = new Map(names.map((name, slot) => [name, slot]));
  const known = { sku: slots.get("sku"), group: slots.get("group") };
  return {
    names,
    kinds,
    known,
    kindOf,
    typed: typedTexts(kinds),
    slot: (name) => slots.get(name),
    slotFor(name) {
      const given = slots.get(name);
      if (given !== undefined) return given;
      const slot = names.length;
      slots.set(name, slot);
      names.push(name);
      kinds.push(kindOf(name));
      if (name === "sku" || name === "group") known[name] = slot;
      return slot;
    },
  };
}

/** An index with further attributes behind those it has; the slots that it gave stay. */
export function withAttributes(index: AttributeIndex, names: readonly string[]): AttributeIndex {
  const further = names.filter((name) => index.slot(name) === undefined);
  return further.length === 0 ? index : attributeIndex([...index.names, ...further], index.kindOf);
}
