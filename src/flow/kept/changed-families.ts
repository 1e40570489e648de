import type { CatalogueState, Store } from "../../store/store.js";
import type { Bundles } from "./family-log.js";

/** Products that share a barcode, and their families. */
export interface Sharing {
  readonly skus: string;
  readonly families: readonly number[];
}

/** What tells which families a change of others reaches. */
export interface Ties {
  readonly state: CatalogueState;
  readonly bundles: readonly Bundles[];
  readonly sharing: readonly Sharing[];
  /** Families that are looked at each time. */
  readonly always: readonly number[];
}

/** Of more changed products than one in so many, all are looked at. */
const FEW = 10;

export const sharingIn = async (store: Store): Promise<readonly Sharing[]> => {
  const shared = (await store.sharedBarcodes()).map((products) => products.map(({ sku }) => sku));
  const families = await store.familyNumbers(shared.flat());
  let next = 0;
  return shared.map((skus) => ({
    skus: JSON.stringify(skus),
    families: families.slice(next, (next += skus.length)),
  }));
};

/** The families of which something else may be found now, in catalogue order; undefined where they are not known, or many. */
export const changedSince = async (
  store: Store,
  before: Ties,
  sharing: readonly Sharing[],
): Promise<readonly number[] | undefined> => {
  const most = Math.max(1, Math.floor(before.state.newest / FEW));
  const touched = await store.familiesSince(before.state, most);
  if (touched === undefined) return undefined;
  const all = new Set([...touched, ...before.always]);
  if (touched.length > 0) addBundles(all, await ofParts(store, before.bundles));
  addSharing(all, new Set(touched), before.sharing, sharing);
  return all.size > most ? undefined : [...all].sort((a, b) => a - b);
};

/** The families of bundles, with those of their parts. */
const ofParts = async (
  store: Store,
  bundles: readonly Bundles[],
): Promise<readonly (readonly [family: number, parts: readonly number[]])[]> => {
  const families = await store.familyNumbers(bundles.flatMap(({ parts }) => parts));
  let next = 0;
  return bundles.map(({ family, parts }) => [family, families.slice(next, (next += parts.length))]);
};

/** A bundle changes with its parts, and one of bundles with theirs. */
const addBundles = (all: Set<number>, bundles: Awaited<ReturnType<typeof ofParts>>): void => {
  for (let before = -1; before < all.size;) {
    before = all.size;
    for (const [family, parts] of bundles) if (parts.some((part) => all.has(part))) all.add(family);
  }
};

/** Who shares a barcode changes with those who share it. */
const addSharing = (
  all: Set<number>,
  touched: ReadonlySet<number>,
  ...lists: readonly (readonly Sharing[])[]
): void => {
  const known = lists.map((list) => new Set(list.map(({ skus }) => skus)));
  for (const { skus, families } of lists.flat()) {
    const isSame = known.every((list) => list.has(skus));
    if (isSame && !families.some((family) => touched.has(family))) continue;
    for (const family of families) all.add(family);
  }
};
