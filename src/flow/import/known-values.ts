/** Values of a file that the catalogue has, for a proposal. */
import { comparable, valuesToAsk } from "../../core/catalogue/proposal/known-values.js";
import {
  knownAttributes,
  type FileSample,
  type KnownAttribute,
} from "../../core/catalogue/proposal/source-proposal.js";
import { textOf } from "../../core/catalogue/product.js";
import type { Store } from "../../store/store.js";

// So many products tell whether a file speaks of them.
const LOOKED_AT = 300_000;

/** Of the values in a file's first rows, those that products have, by the attribute under which they have them. */
export async function knownValues(
  store: Store,
  sample: FileSample,
): Promise<Readonly<Record<KnownAttribute, readonly string[]>>> {
  const all = new Set(valuesToAsk(sample).flatMap((values) => [...values]));
  const wanted = new Map(
    knownAttributes.map((attribute) => [
      attribute,
      new Set([...all].map((text) => comparable(attribute, text)).filter(Boolean)),
    ]),
  );
  const found = new Map<KnownAttribute, Set<string>>(
    knownAttributes.map((attribute) => [attribute, new Set<string>()]),
  );
  let looked = 0;
  for await (const families of store.families()) {
    for (const { members } of families)
      for (const product of members) {
        looked++;
        for (const attribute of knownAttributes) {
          const text = attribute === "sku" ? product.sku : textOf(product, attribute);
          if (text !== undefined && wanted.get(attribute)?.has(comparable(attribute, text)) === true)
            found.get(attribute)?.add(text);
        }
      }
    if (looked > LOOKED_AT) break;
  }
  const of = (attribute: KnownAttribute): readonly string[] => [...(found.get(attribute) ?? [])];
  return {
    sku: of("sku"),
    gtin: of("gtin"),
    mpn: of("mpn"),
    brand: of("brand"),
    manufacturer: of("manufacturer"),
    category: of("category"),
  };
}
