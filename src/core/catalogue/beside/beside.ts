import type { Diagnostic } from "../../diagnostics/diagnostic.js";
import type { Place } from "../../diagnostics/place.js";
import { asSku } from "../../ids.js";
import type { Family } from "../family.js";
import type { Origin } from "../record.js";
import { alikeNames } from "./alike-names.js";
import type { BesideCheck } from "./beside-check.js";
import { copiedDescriptions } from "./copied-descriptions.js";
import { FactsReader, FactsWriter, type Facts } from "./facts.js";
import { sharedPictures } from "./shared-pictures.js";
import { skuList } from "./sku-list.js";

/** Every check of one product beside all others, whatever the channel. */
const checks: readonly (() => BesideCheck)[] = [alikeNames, sharedPictures, copiedDescriptions];

/** Writes down what the checks must know of one family after the other. */
export interface BesideFacts {
  add(family: Family): void;
  take(): Facts;
}

export const besideFacts = (): BesideFacts => {
  const writing = checks.map((check) => check());
  const facts = new FactsWriter();
  return {
    add(family) {
      const [first] = family.members;
      if (first === undefined) return;
      facts.text(first.sku);
      for (const check of writing) check.write(family, facts);
    },
    take: () => facts.take(),
  };
};

/** Takes what was written of one family after the other through all checks. */
export interface Beside {
  /** What shows of each family of a part of the catalogue, as it is asked for. */
  take(part: Facts): () => readonly Diagnostic[];
  end(): readonly Diagnostic[];
}

export const besideChecks = (placeOf: (origin: Origin, attribute: string) => Place): Beside => {
  const running = checks.map((check) => check());
  const skus = skuList();
  return {
    take(part) {
      const facts = new FactsReader(part);
      return () => {
        const first = asSku(facts.text());
        const family = { first, number: skus.add(first), skus, placeOf };
        return running.flatMap((check) => check.take(facts, family));
      };
    },
    end: () => running.flatMap((check) => check.end()),
  };
};
