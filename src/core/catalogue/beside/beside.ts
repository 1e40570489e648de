/**
 * Products beside all others: any thread writes down what is to be known of a family (`plain-facts.ts`), one reads all
 * of it in order and takes it through the checks of this folder.
 */
import type { Diagnostic } from "../../diagnostics/diagnostic.js";
import type { Place } from "../../diagnostics/place.js";
import { asSku } from "../../ids.js";
import type { Family } from "../family.js";
import type { Origin } from "../record.js";
import { alikeNames } from "./alike-names.js";
import type { BesideCheck } from "./beside-check.js";
import { copiedDescriptions } from "./copied-descriptions.js";
import type { FactsReader, FactsWriter } from "../plain-facts.js";
import { sharedPictures } from "./shared-pictures.js";
import { skuList } from "./sku-list.js";

/** Every check of one product beside all others, whatever the channel. */
const checks: readonly (() => BesideCheck)[] = [alikeNames, sharedPictures, copiedDescriptions];

/** Writes down what the checks must know of a family. */
export function besideFacts(): (family: Family, facts: FactsWriter) => void {
  const writing = checks.map((check) => check());
  return (family, facts) => {
    facts.text(family.members[0]?.sku ?? "");
    for (const check of writing) check.write(family, facts);
  };
}

/** Takes what was written of one family after the other through all checks. */
export interface Beside {
  /** What shows of the next family at once. */
  take(facts: FactsReader): readonly Diagnostic[];
  /** What shows only when all were seen. */
  end(): readonly Diagnostic[];
}

/** All checks of products beside each other; what they report comes in catalogue order. */
export function besideChecks(placeOf: (origin: Origin, attribute: string) => Place): Beside {
  const running = checks.map((check) => check());
  const skus = skuList();
  return {
    take(facts) {
      const first = asSku(facts.text());
      const family = { first, number: skus.add(first), skus, placeOf };
      return running.flatMap((check) => check.take(facts, family));
    },
    end: () => running.flatMap((check) => check.end()),
  };
}
