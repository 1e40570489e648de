import { hashOf } from "../../core/catalogue/beside/text-register.js";

/**
 * What a transaction put into a catalogue that was empty when it began. A first import asks of every row for the product,
 * the family and the keys that are not there yet: this says so without asking the tables.
 */
export interface MetBefore {
  /** False only for what is certainly not there. */
  mayHold(kind: MetKind, text: string): boolean;
  note(kind: MetKind, text: string): void;
}

type MetKind = "product" | "group" | "family" | "key";

const BITS = 2 ** 27;
const marks: Readonly<Record<MetKind, string>> = { product: "p", group: "g", family: "f", key: "k" };

/** Three places of a text among the bits; with three marks a text, one in fifty of the others seems known at ten million. */
function placesOf(kind: MetKind, text: string): readonly [number, number, number] {
  const hash = hashOf(marks[kind] + text);
  const [low, high] = [hash % BITS, Math.floor(hash / BITS) % BITS];
  return [low, high, (low ^ Math.imul(high, 0x9e3779b1)) & (BITS - 1)];
}

/** Nothing is known of a catalogue that was there before: anything may be in it. */
export const anything: MetBefore = { mayHold: () => true, note: () => undefined };

/** Begins with nothing met. */
export function metBefore(): MetBefore {
  const bits = new Uint8Array(BITS / 8);
  const isSet = (at: number): boolean => ((bits[at >> 3] ?? 0) & (1 << (at & 7))) !== 0;
  return {
    mayHold: (kind, text) => placesOf(kind, text).every(isSet),
    note(kind, text) {
      for (const at of placesOf(kind, text)) bits[at >> 3] = (bits[at >> 3] ?? 0) | (1 << (at & 7));
    },
  };
}
