/** A group as a product: what its members have in common, and never what one of them has by itself. */
import type { ChannelProduct } from "../../catalogue/product.js";
import { asSku } from "../../ids.js";
import { order } from "../../language/operations.js";
import type { MaybeBlank } from "../../values/value.js";
import { axesOf } from "../demand.js";

/** A group as a product: it has what its members have in common, and never what one of them has by chance. */
export interface GroupView {
  readonly product: ChannelProduct;
  /** Some of the members' texts of an attribute in which they differ, a dozen at most; undefined where they agree, and for what they vary by. */
  differing(slot: number): readonly string[] | undefined;
}

/** The words that all names begin with, without signs between words at their end; undefined where there are none. */
function commonBeginning(names: readonly string[]): string | undefined {
  const [first = [], ...others] = names.map((name) => name.split(" "));
  const count = first.findIndex((word, at) => others.some((words) => words[at] !== word));
  const words = count < 0 ? first : first.slice(0, count);
  return words.join(" ").replace(/[\s,;:|/([–-]+$/, "") || undefined;
}

// In a group of thousands that differ, a few values tell as much as all.
const TOLD_VALUES = 12;

/** Some of the members' texts of an attribute, those that say the same once: 300 g and 0.3 kg are one weight. */
function distinct(members: readonly ChannelProduct[], slot: number): readonly string[] {
  const found = new Map<string, MaybeBlank>();
  for (const member of members) {
    const text = member.text(slot);
    if (text === undefined || found.has(text)) continue;
    const value = member.value(slot);
    const isKnown = typeof value === "object" && [...found.values()].some((one) => order(one, value) === 0);
    if (!isKnown) found.set(text, value);
    if (found.size === TOLD_VALUES) break;
  }
  return [...found.keys()];
}

const textsOf = (members: readonly ChannelProduct[], slot: number): readonly string[] => [
  ...new Set(members.flatMap((member) => member.text(slot) ?? [])),
];

/** The members of one group of a channel as the group itself, under a SKU of its own. */
export function groupView(members: readonly [ChannelProduct, ...ChannelProduct[]], sku: string): GroupView {
  const [first] = members;
  const { attributes } = first;
  const skuSlot = attributes.slot("sku");
  const axes = new Set(axesOf({ product: first }).map((axis) => attributes.slot(axis)));
  const names = attributes.names;
  const texts: (string | undefined)[] = [];
  const differing: (readonly string[] | undefined)[] = [];
  const known = new Set<number>();
  const look = (slot: number): void => {
    if (known.has(slot)) return;
    known.add(slot);
    if (slot === skuSlot) texts[slot] = sku;
    if (slot === skuSlot || axes.has(slot)) return;
    const isName = names[slot]?.split("@", 1)[0] === "name";
    const given = isName ? textsOf(members, slot) : distinct(members, slot);
    texts[slot] = given.length > 1 ? (isName ? commonBeginning(given) : undefined) : given[0];
    if (given.length > 1 && texts[slot] === undefined) differing[slot] = given.slice(0, TOLD_VALUES);
  };
  const text = (slot: number): string | undefined => {
    look(slot);
    return texts[slot];
  };
  const having = (slot: number, written: string): ChannelProduct | undefined =>
    members.find((member) => member.text(slot) === written);
  return {
    product: {
      sku: asSku(sku),
      group: first.group,
      attributes,
      exists: first.exists,
      hasUnread: first.hasUnread,
      unread: (slot) => first.unread(slot),
      text,
      value(slot): MaybeBlank {
        const written = text(slot);
        return written === undefined ? undefined : (having(slot, written)?.value(slot) ?? written);
      },
      origin(slot) {
        const written = text(slot);
        return written === undefined ? undefined : having(slot, written)?.origin(slot);
      },
    },
    differing(slot) {
      look(slot);
      return differing[slot];
    },
  };
}
