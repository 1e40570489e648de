/** Which families a check must look at again: those that changed, and those that what changed reaches. */
import type { Beyond } from "../../core/listing/check/check-kind.js";
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

/** Products that share a barcode now. */
export async function sharingIn(store: Store): Promise<readonly Sharing[]> {
  const shared = (await store.sharedBarcodes()).map((products) => products.map(({ sku }) => sku));
  const families = await store.familyNumbers(shared.flat());
  let next = 0;
  return shared.map((skus) => ({
    skus: JSON.stringify(skus),
    families: families.slice(next, (next += skus.length)),
  }));
}

/** The families of which something else may be found now, in catalogue order; undefined where they are not known, or many. */
export async function changedSince(
  store: Store,
  before: Ties,
  sharing: readonly Sharing[],
): Promise<readonly number[] | undefined> {
  const most = Math.max(1, Math.floor(before.state.newest / FEW));
  const touched = await store.familiesSince(before.state, most);
  if (touched === undefined) return undefined;
  const all = new Set([...touched, ...before.always]);
  if (touched.length > 0) addBundles(all, await ofParts(store, before.bundles));
  for (const follow of Object.values(reaching)) follow(all, { touched: new Set(touched), before, sharing });
  return all.size > most ? undefined : [...all].sort((a, b) => a - b);
}

/** What is known of a change, to see what it reaches. */
interface Change {
  readonly touched: ReadonlySet<number>;
  readonly before: Ties;
  readonly sharing: readonly Sharing[];
}

/** Touched itself: whatever changes it is a revision, which says of what products. */
const isTouched = (): void => undefined;

/**
 * How a change is followed to the families that it reaches, for each thing that checks and stages look at beyond a family.
 * Whoever lets a check see something new says here how it is followed.
 */
const reaching: { readonly [Seen in Beyond]: (all: Set<number>, change: Change) => void } = {
  barcodeTwins: (all, { touched, before, sharing }) => addSharing(all, touched, before.sharing, sharing),
  // A sending is a revision of the products that it sent, an answer one of those that it spoke of.
  live: isTouched,
  lastRefusal: isTouched,
  lastPrices: isTouched,
  // Ids that meet are looked for over all that is kept, whenever any can (`kept-work.ts`).
  ids: isTouched,
};

/** The families of bundles, with those of their parts. */
async function ofParts(
  store: Store,
  bundles: readonly Bundles[],
): Promise<readonly (readonly [family: number, parts: readonly number[]])[]> {
  const families = await store.familyNumbers(bundles.flatMap(({ parts }) => parts));
  let next = 0;
  return bundles.map(({ family, parts }) => [family, families.slice(next, (next += parts.length))]);
}

/** A bundle changes with its parts, and one of bundles with theirs. */
function addBundles(all: Set<number>, bundles: Awaited<ReturnType<typeof ofParts>>): void {
  for (let before = -1; before < all.size;) {
    before = all.size;
    for (const [family, parts] of bundles) if (parts.some((part) => all.has(part))) all.add(family);
  }
}

/** Who shares a barcode changes with those who share it. */
function addSharing(
  all: Set<number>,
  touched: ReadonlySet<number>,
  ...lists: readonly (readonly Sharing[])[]
): void {
  const known = lists.map((list) => new Set(list.map(({ skus }) => skus)));
  for (const { skus, families } of lists.flat()) {
    const isSame = known.every((list) => list.has(skus));
    if (isSame && !families.some((family) => touched.has(family))) continue;
    for (const family of families) all.add(family);
  }
}
