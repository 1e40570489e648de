/** One check over all products: texts that should be a family's own and are many families'. Holds hashes, no texts. */
import type { Diagnostic } from "../../diagnostics/diagnostic.js";
import type { Sku } from "../../ids.js";
import type { Family } from "../family.js";
import type { BesideCheck } from "./beside-check.js";
import { hashOf, textRegister } from "./text-register.js";

/** Two articles may show the same on purpose, such as a thing and the set that it is in; so many hardly do. */
const MANY = 3;
const SHOWN = 3;

/** What many families have. */
export interface SharedText {
  /** As it is shown; "" where it is not. */
  readonly text: string;
  readonly families: number;
  readonly skus: readonly Sku[];
}

/** Which texts of a family are looked at, and whether they are shown: those that are not need not be kept. */
export interface WatchedTexts {
  textsOf(family: Family): Iterable<string>;
  readonly isShown: boolean;
  told(shared: SharedText): Diagnostic;
}

/** A check that tells texts which three or more families share; each once, when all were seen. */
export function sharedTexts({ textsOf, isShown, told }: WatchedTexts): BesideCheck {
  const register = textRegister();
  const many = new Map<number, { readonly text: string; families: number; readonly skus: Sku[] }>();
  return {
    write(family, facts) {
      const texts = new Set(textsOf(family));
      facts.number(texts.size);
      for (const text of texts) {
        facts.number(hashOf(text));
        if (isShown) facts.text(text);
      }
    },
    take(facts, family) {
      for (let texts = facts.number(); texts > 0; texts--) {
        const hash = facts.number();
        const place = facts.textPlace;
        if (isShown) facts.skip(1, 0);
        const { first, count } = register.addHash(hash, family.number);
        if (count < MANY) continue;
        const text = isShown ? facts.from(place, 0).text() : "";
        const known = many.get(hash) ?? { text, families: 0, skus: [family.skus.at(first)] };
        many.set(hash, known);
        known.families = count;
        if (known.skus.length < SHOWN) known.skus.push(family.first);
      }
      return [];
    },
    end: () => [...many.values()].map(told),
  };
}
