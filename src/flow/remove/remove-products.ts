/** Takes products out of the catalogue, and tells what hangs on them. */
import { readPart } from "../../core/catalogue/bundle.js";
import { itemsOf } from "../../core/catalogue/list-text.js";
import { textOf, type Product } from "../../core/catalogue/product.js";
import type { Sku } from "../../core/ids.js";
import { REMOVAL, type Store } from "../../store/store.js";
import type { Workspace } from "../../workspace/workspace.js";
import { editPlan, oneAct } from "../one-act.js";
import type { WritableCatalogue } from "../open-catalogue.js";

/** What else hangs on products that are to go. */
export interface Hangers {
  /** Bundles that name one of them as a part. */
  readonly bundles: readonly { readonly sku: Sku; readonly part: string }[];
  /** Channels that were sent some of them, with how many. */
  readonly sent: readonly { readonly channel: string; readonly listings: number }[];
  /** Groups of which they are all members there are. */
  readonly emptied: readonly string[];
}

/** What was taken out. */
export interface Removed {
  readonly skus: readonly Sku[];
  readonly revisions: readonly number[];
  readonly hangers: Hangers;
}

const BATCH = 500;

async function sentOn(store: Store, channel: string, skus: readonly Sku[]): Promise<number> {
  const ledger = store.ledgerOf(channel);
  let count = 0;
  for (let from = 0; from < skus.length; from += BATCH)
    for (const entry of (await ledger.of({ skus: skus.slice(from, from + BATCH) })).values())
      if (entry.listing.withdrawn !== true) count++;
  return count;
}

/** Goes through the catalogue once for what names the products, and for who of their groups stays. */
async function hangersOf(workspace: Workspace, store: Store, skus: readonly Sku[]): Promise<Hangers> {
  const going = new Set<string>(skus);
  const bundles: { sku: Sku; part: string }[] = [];
  const emptied: string[] = [];
  const look = (product: Product): void => {
    const parts = textOf(product, "bundle_of");
    if (parts === undefined || going.has(product.sku)) return;
    const part = itemsOf(parts).find((one) => going.has(one.trim()) || going.has(readPart(one).sku));
    if (part !== undefined) bundles.push({ sku: product.sku, part });
  };
  for await (const families of store.families())
    for (const { group, members } of families) {
      members.forEach(look);
      if (group !== undefined && members.length > 0 && members.every(({ sku }) => going.has(sku)))
        emptied.push(group);
    }
  const sent: { channel: string; listings: number }[] = [];
  for (const channel of workspace.channelsInUse) {
    const listings = await sentOn(store, channel, skus);
    if (listings > 0) sent.push({ channel, listings });
  }
  return { bundles, sent, emptied };
}

/** Takes products out of the catalogue: all that any layer says of them. It is one act, and can be undone. */
export async function removeProducts(
  open: WritableCatalogue,
  skus: readonly Sku[],
  { at, dryRun }: { readonly at: string; readonly dryRun: boolean },
): Promise<Removed> {
  const { workspace, store } = open;
  const hangers = await hangersOf(workspace, store, skus);
  const byLayer = new Map<string, Sku[]>();
  for (const sku of skus)
    for (const layer of await store.layersOf(sku)) byLayer.set(layer, [...(byLayer.get(layer) ?? []), sku]);
  const revisions: number[] = [];
  await oneAct(
    open,
    async (transaction) => {
      for (const [layer, own] of byLayer) {
        const writer = await transaction.revision(editPlan({ layer, file: REMOVAL, at }, []));
        await writer.drop(own);
        const counts = { read: own.length, added: 0, changed: own.length, unchanged: 0, rejected: 0 };
        const revision = await writer.finish(counts);
        if (revision !== undefined) revisions.push(revision);
      }
    },
    { isTrial: dryRun },
  );
  return { skus, revisions, hangers };
}
