/**
 * Ids that listings have on a channel, over all products: two that are the same are told wherever the threads met them.
 */
import { skuList } from "../../catalogue/beside/sku-list.js";
import { textRegister } from "../../catalogue/beside/text-register.js";
import type { Sku } from "../../ids.js";

/** A listing's id on a channel, and the SKU that has it. */
export type ListedId = readonly [id: string, sku: Sku];

/** The first SKUs of ids that came before. */
export interface IdsBefore {
  get(id: string): Sku | undefined;
}

/** The ids of one stretch of the catalogue, and what is known of those of all before it. */
export interface IdsOfPart {
  /** Begins a stretch; `before` has the first SKUs of ids that came earlier, at least of those that come again. */
  begin(before?: IdsBefore): void;
  /** The first SKU that has an id, which is given to this one if no other has it. */
  first(id: string, sku: Sku): Sku;
  /** All ids that came first in this stretch. */
  all(): readonly ListedId[];
  /** Those of them that came since this was last asked. */
  fresh(): readonly ListedId[];
  /** Whether an id of this stretch is another SKU's. */
  hasMet(): boolean;
}

/** Begins with the ids of one stretch. */
export function idsOfPart(): IdsOfPart {
  let before: IdsBefore = new Map<string, Sku>();
  let own = new Map<string, Sku>();
  let fresh: ListedId[] = [];
  let hasMet = false;
  return {
    begin(known = new Map<string, Sku>()) {
      before = known;
      own = new Map();
      fresh = [];
      hasMet = false;
    },
    first(id, sku) {
      const other = before.get(id) ?? own.get(id);
      if (other !== undefined) {
        if (other !== sku) hasMet = true;
        return other;
      }
      own.set(id, sku);
      fresh.push([id, sku]);
      return sku;
    },
    all: () => [...own],
    fresh: () => fresh.splice(0),
    hasMet: () => hasMet,
  };
}

/** The ids of a whole catalogue in flat memory, stretch by stretch. */
export interface IdRegister extends IdsBefore {
  /** The first SKUs of those ids that came in an earlier stretch. */
  met(ids: readonly ListedId[]): ReadonlyMap<string, Sku>;
  add(ids: readonly ListedId[]): void;
}

/** Begins with no ids. */
export function idRegister(): IdRegister {
  const register = textRegister();
  const skus = skuList();
  const get = (id: string): Sku | undefined => {
    const first = register.firstOf(id);
    return first === undefined ? undefined : skus.at(first);
  };
  return {
    get,
    met(ids) {
      const found = new Map<string, Sku>();
      for (const [id] of ids) {
        const first = get(id);
        if (first !== undefined) found.set(id, first);
      }
      return found;
    },
    add(ids) {
      for (const [id, sku] of ids) register.add(id, skus.add(sku));
    },
  };
}
