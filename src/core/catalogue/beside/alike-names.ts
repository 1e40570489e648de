/** One check over all products: names that are alike across families. Holds hashes, no texts. */
import { diagnostic, type Diagnostic } from "../../diagnostics/diagnostic.js";
import { stem } from "../../values/stem.js";
import { fold } from "../../values/text.js";
import { textOf, type Product } from "../product.js";
import type { BesideCheck } from "./beside-check.js";
import { hashOf, textRegister } from "./text-register.js";

/** A name's words, whatever their order and number: "Bee Brush, horsehair" and "Horsehair bee brushes" are alike. */
const wordKey = (name: string): string => fold(name).split(" ").map(stem).sort().join(" ");

/** Names of products of different families are more than the same words in another order. */
export function alikeNames(): BesideCheck {
  const register = textRegister();
  return {
    write({ members }, facts) {
      const names = new Map<string, Product>();
      for (const member of members) {
        const name = textOf(member, "name");
        if (name !== undefined && !names.has(name)) names.set(name, member);
      }
      facts.number(names.size);
      for (const [name, member] of names) {
        const brand = textOf(member, "brand") ?? "";
        const slot = member.attributes.slot("name");
        facts.text(name);
        facts.number(hashOf(`${fold(brand)}\u0000${wordKey(name)}`));
        facts.origin(slot === undefined ? undefined : member.origin(slot));
      }
    },
    take(facts, { first, number, skus, placeOf }) {
      const found: Diagnostic[] = [];
      for (let names = facts.number(); names > 0; names--) {
        const place = facts.textPlace;
        facts.skip(1, 0);
        const [hash, origin] = [facts.number(), facts.origin()];
        // Members of one family may be named alike: the family's number stands for them all.
        const known = register.addHash(hash, number);
        if (known.count < 2 || known.first === number) continue;
        const name = facts.from(place, 0).text();
        const where = { product: first, ...(origin === undefined ? {} : { place: placeOf(origin, "name") }) };
        found.push(diagnostic("alike-names", { name, other: skus.at(known.first) }, where, "warning"));
      }
      return found;
    },
    end: () => [],
  };
}
