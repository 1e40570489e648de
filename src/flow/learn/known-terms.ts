import { textOf } from "../../core/catalogue/product.js";
import { termKey } from "../../core/values/text.js";
import type { Store } from "../../store/store.js";

/** So many products tell which words a shop has for a thing. */
const LOOKED_AT = 20_000;
/** An attribute with more different values names things, and is no choice among few. */
const MOST_TERMS = 400;
const LONGEST_TERM = 60;

/** The shop's words by attribute, folded, where an attribute has few of them. */
export async function knownTerms(store: Store): Promise<ReadonlyMap<string, ReadonlySet<string>>> {
  const { names } = await store.attributes();
  const terms = new Map<string, Set<string>>(names.map((name) => [name, new Set<string>()]));
  let looked = 0;
  for await (const families of store.families()) {
    for (const { members } of families)
      for (const product of members) {
        looked++;
        for (const [attribute, own] of terms) {
          const text = textOf(product, attribute);
          if (text === undefined || text.length > LONGEST_TERM) continue;
          own.add(termKey(text));
          if (own.size > MOST_TERMS) terms.delete(attribute);
        }
      }
    if (looked > LOOKED_AT) break;
  }
  return terms;
}
