import type { Diagnostic } from "../../diagnostics/diagnostic.js";
import type { Place } from "../../diagnostics/place.js";
import type { Family } from "../family.js";
import type { Product } from "../product.js";
import { alikeNames } from "./alike-names.js";
import type { BesideCheck } from "./beside-check.js";
import { copiedDescriptions } from "./copied-descriptions.js";
import { sharedPictures } from "./shared-pictures.js";
import { skuList } from "./sku-list.js";

/** Every check of one product beside all others, whatever the channel. */
const checks: readonly (() => BesideCheck)[] = [alikeNames, sharedPictures, copiedDescriptions];

/** Takes one family after the other through all checks. */
export interface Beside {
  take(family: Family): readonly Diagnostic[];
  end(): readonly Diagnostic[];
}

export const besideChecks = (placeOf: (product: Product, attribute: string) => Place | undefined): Beside => {
  const running = checks.map((check) => check());
  const skus = skuList();
  return {
    take(family) {
      const [first] = family.members;
      if (first === undefined) return [];
      const number = skus.add(first.sku);
      return running.flatMap((check) => check.take({ family, first, number, skus, placeOf }));
    },
    end: () => running.flatMap((check) => check.end()),
  };
};
