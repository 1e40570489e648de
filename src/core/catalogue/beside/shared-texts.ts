import type { Diagnostic } from "../../diagnostics/diagnostic.js";
import type { Sku } from "../../ids.js";
import type { BesideCheck, BesideFamily } from "./beside-check.js";
import { textRegister } from "./text-register.js";

/** Two articles may show the same on purpose, such as a thing and the set that it is in; so many hardly do. */
const MANY = 3;
const SHOWN = 3;

/** A text that many families have. */
export interface SharedText {
  readonly text: string;
  readonly families: number;
  readonly skus: readonly Sku[];
}

/** A check that tells texts which three or more families share; each once, when all were seen. */
export const sharedTexts = (
  textsOf: (family: BesideFamily) => Iterable<string>,
  told: (shared: SharedText) => Diagnostic,
): BesideCheck => {
  const register = textRegister();
  const many = new Map<string, { families: number; readonly skus: Sku[] }>();
  return {
    take(family) {
      for (const text of new Set(textsOf(family))) {
        const { first, count } = register.add(text, family.number);
        if (count < MANY) continue;
        const known = many.get(text) ?? { families: 0, skus: [family.skus.at(first)] };
        many.set(text, known);
        known.families = count;
        if (known.skus.length < SHOWN) known.skus.push(family.first.sku);
      }
      return [];
    },
    end: () => [...many].map(([text, shared]) => told({ text, ...shared })),
  };
};
