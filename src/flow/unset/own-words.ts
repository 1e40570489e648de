/** What was said for one channel alone. */
import { editsFor } from "../../core/catalogue/edits-layer.js";
import { isUnread, takesBack } from "../../core/catalogue/record.js";
import type { Sku } from "../../core/ids.js";
import type { Store } from "../../store/store.js";
import type { Workspace } from "../../workspace/workspace.js";

/** What one layer says of a product for one channel alone. */
export interface OwnWord {
  readonly sku: Sku;
  readonly layer: string;
  readonly attribute: string;
  readonly text: string;
}

/** The layers that a channel alone sees: its edits, and sources that the manifest gives to it. */
const layersOf = (channel: string, { layers }: Workspace): ReadonlySet<string> =>
  new Set([editsFor(channel), ...layers.filter((one) => one.channel === channel).map(({ layer }) => layer)]);

/** What the channel's own layers say of a product, whether or not something higher is seen above it. */
async function wordsOf(sku: Sku, own: ReadonlySet<string>, store: Store): Promise<readonly OwnWord[]> {
  const latest = new Map<string, OwnWord>();
  for (const { attribute, text, place, undone } of await store.opinions(sku)) {
    const key = `${place.layer} ${attribute}`;
    if (undone || text === "" || !own.has(place.layer) || attribute === "sku" || latest.has(key)) continue;
    // What could not be read is no opinion: what the layer said before it holds.
    if (isUnread(text) && !takesBack(text)) continue;
    latest.set(key, { sku, layer: place.layer, attribute, text });
  }
  return [...latest.values()].filter(({ text }) => !takesBack(text));
}

/** All of a channel's own words, or those about some products and attributes; in catalogue order. */
export async function* ownWords(
  workspace: Workspace,
  store: Store,
  channel: string,
  wanted: { readonly skus: ReadonlySet<string>; readonly attributes: ReadonlySet<string> },
): AsyncGenerator<OwnWord> {
  const own = layersOf(channel, workspace);
  for await (const families of store.families())
    for (const family of families) {
      const members = family.membersOn(channel);
      // The same products for all channels: nothing in the family is said for one alone.
      if (members === family.members) continue;
      for (const { sku } of members)
        if (wanted.skus.size === 0 || wanted.skus.has(sku))
          for (const word of await wordsOf(sku, own, store))
            if (wanted.attributes.size === 0 || wanted.attributes.has(word.attribute)) yield word;
    }
}
