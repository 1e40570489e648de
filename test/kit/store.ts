import { keptListing } from "../../src/core/listing/live-text.js";
import type { LiveListing } from "../../src/core/listing/live-listing.js";
import type { LedgerNotes } from "../../src/store/ledger.js";
import { join } from "node:path";
import type { Doubt } from "../../src/core/catalogue/cell-reader.js";
import { textOf } from "../../src/core/catalogue/product.js";
import { CLEARED, LIST_SEPARATOR, RETRACTED } from "../../src/core/catalogue/record.js";
import { openStore } from "../../src/store/open-store.js";
import type { LayerName, RecordFate, RevisionPlan, Store } from "../../src/store/store.js";
import { temporaryFolder } from "./run.js";

export const storeIn = (folder: string, layers: readonly LayerName[]): Promise<Store> =>
  openStore({ path: join(folder, "store.db"), shownPath: "store.db", layers });

/** A new store whose layers are named lowest first; `name@channel` is a layer for one channel alone. */
export const newStore = (...layers: readonly string[]): Promise<Store> =>
  storeIn(
    temporaryFolder(),
    layers.map((name) => {
      const [layer = "", channel] = name.split("@");
      return channel === undefined ? { layer } : { layer, channel };
    }),
  );

const word = (text: string): string =>
  text === "(none)" ? CLEARED : text === "(back)" ? RETRACTED : text.replaceAll("+", LIST_SEPARATOR);

/** Records written as text: the attributes, then a line a record, cells between commas; `@` begins a group's own. */
export const put = async (
  store: Store,
  layer: string,
  table: string,
  plan: Partial<RevisionPlan> & { readonly doubts?: readonly Doubt[]; readonly drop?: boolean } = {},
): Promise<{
  readonly fates: readonly RecordFate[];
  readonly vanished: readonly string[];
  readonly revision: number | undefined;
}> => {
  const [header = "", ...lines] = table
    .trim()
    .split("\n")
    .map((line) => line.trim());
  const transaction = await store.begin();
  try {
    const writer = await transaction.revision({
      kind: "import",
      layer,
      source: layer,
      file: `${layer}.csv`,
      at: "2026-11-25T08:00:00.000Z",
      columns: header.split(",").map((attribute) => ({ attribute, column: `Column ${attribute}` })),
      keys: ["sku"],
      mode: "both",
      compare: "layer",
      replace: false,
      tellChanges: false,
      ...plan,
    });
    const fates = await writer.put(
      lines.map((line, index) => ({
        kind: line.startsWith("@") ? "group" : "product",
        row: index + 2,
        texts: line.replace(/^@/, "").split(",").map(word),
        doubts: plan.doubts ?? [],
      })),
    );
    const vanished: string[] = [];
    if (plan.replace === true) await writer.vanished(plan.drop === true, (sku) => vanished.push(sku));
    const revision = await writer.finish({
      read: lines.length,
      added: 0,
      changed: 0,
      unchanged: 0,
      rejected: 0,
    });
    await transaction.commit();
    return { fates, vanished, revision };
  } catch (error) {
    await transaction.rollback();
    throw error;
  }
};

/** What a product is now: the values of some attributes, "-" where there is none. */
export const shown = async (
  store: Store,
  sku: string,
  attributes: string,
  channel?: string,
): Promise<string> => {
  const product = await store.product(sku, channel);
  if (product === undefined) return "no product";
  return attributes
    .split(",")
    .map((attribute) => (textOf(product, attribute) ?? "-").replaceAll(LIST_SEPARATOR, "+"))
    .join(",");
};

/** Every family as `group: members`, in catalogue order. */
export const familiesOf = async (store: Store): Promise<readonly string[]> => {
  const found: string[] = [];
  for await (const batch of store.families())
    for (const { group, members } of batch)
      found.push(`${group ?? "-"}: ${members.map(({ sku }) => sku).join(" ")}`);
  return found;
};

/** Notes listings of a build, one family after the other. */
export const noteAll = async (
  notes: LedgerNotes,
  listings: readonly (readonly [sku: string, listing: LiveListing])[],
): Promise<void> => {
  for (const [number, [sku, listing]] of listings.entries())
    await notes.note(number, [keptListing(sku, listing)]);
};
