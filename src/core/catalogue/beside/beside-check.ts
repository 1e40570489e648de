import type { Diagnostic } from "../../diagnostics/diagnostic.js";
import type { Place } from "../../diagnostics/place.js";
import type { Sku } from "../../ids.js";
import type { Family } from "../family.js";
import type { Origin } from "../record.js";
import type { FactsReader, FactsWriter } from "../plain-facts.js";
import type { SkuList } from "./sku-list.js";

/** The family whose facts come next. */
export interface BesideFamily {
  /** Its first member, which speaks for it. */
  readonly first: Sku;
  /** Its number in `skus`. */
  readonly number: number;
  readonly skus: SkuList;
  placeOf(origin: Origin, attribute: string): Place;
}

/**
 * Looks at products beside those of other families, in one pass and flat memory. What it must know of a family is
 * written down by any thread; one reads all of it, in catalogue order.
 */
export interface BesideCheck {
  /** Writes down what is to be known of a family. */
  write(family: Family, facts: FactsWriter): void;
  /** Reads what was written of one; gives what shows at once. */
  take(facts: FactsReader, family: BesideFamily): readonly Diagnostic[];
  /** What shows only when all were seen. */
  end(): readonly Diagnostic[];
}
