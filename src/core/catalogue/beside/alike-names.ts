import { diagnostic } from "../../diagnostics/diagnostic.js";
import { stem } from "../../values/stem.js";
import { fold } from "../../values/text.js";
import { textOf } from "../product.js";
import type { BesideCheck } from "./beside-check.js";
import { textRegister } from "./text-register.js";

/** A name's words, whatever their order and number: "Bee Brush, horsehair" and "Horsehair bee brushes" are alike. */
const wordKey = (name: string): string => fold(name).split(" ").map(stem).sort().join(" ");

/** Names of products of different families are more than the same words in another order. */
export const alikeNames = (): BesideCheck => {
  const register = textRegister();
  return {
    take({ family, first, number, skus, placeOf }) {
      const seen = new Set<string>();
      return family.members.flatMap((member) => {
        const name = textOf(member, "name");
        if (name === undefined || seen.has(name)) return [];
        seen.add(name);
        const brand = textOf(member, "brand") ?? "";
        // Members of one family may be named alike: the family's number stands for them all.
        const known = register.add(`${fold(brand)}\u0000${wordKey(name)}`, number);
        if (known.count < 2 || known.first === number) return [];
        const place = placeOf(member, "name");
        const where = { product: first.sku, ...(place === undefined ? {} : { place }) };
        return [diagnostic("alike-names", { name, other: skus.at(known.first) }, where, "warning")];
      });
    },
    end: () => [],
  };
};
