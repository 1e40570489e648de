/** Names that nobody knows, refused with those that were probably meant. */
import type { AttributeIndex } from "../core/catalogue/attribute-index.js";
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import { pathParts, pathText, selfAndAbove } from "../core/values/category-path.js";
import { textOf } from "../core/catalogue/product.js";
import { nearest } from "../core/values/nearest.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { Store } from "../store/store.js";
import type { Workspace } from "../workspace/workspace.js";

const SEEN = 12;
const NAMED = 3;

/** That no product has a SKU, with those that a person can have meant. */
export async function unknownSku(sku: string, store: Store): Promise<Diagnostic> {
  const near: string[] = [];
  // The store remembers SKUs that nothing names any more, as after an undo.
  for (const one of nearest(sku, await store.skusNear(sku), SEEN))
    if (near.length < NAMED && (await store.product(one)) !== undefined) near.push(one);
  const before = (await store.opinions(sku)).length > 0;
  return diagnostic("unknown-sku", { sku, nearest: near, before });
}

/** Refuses SKUs that nobody knows, all at once. */
export async function refuseUnknownSkus(skus: Iterable<string>, store: Store): Promise<void> {
  const unknown: Diagnostic[] = [];
  for (const sku of skus)
    if ((await store.product(sku)) === undefined) unknown.push(await unknownSku(sku, store));
  if (unknown.length > 0) throw new Refusal(unknown);
}

/** Refuses a channel that the workspace does not use; none is fine where none is asked for. */
export function refuseUnused(channel: string | undefined, { channelsInUse }: Workspace): void {
  if (channel !== undefined && !channelsInUse.includes(channel))
    throw new Refusal([
      diagnostic("channel-not-in-use", {
        channel,
        inUse: channelsInUse,
        nearest: nearest(channel, channelsInUse),
      }),
    ]);
}

/** Refuses a path that no category of ours has or lies below. */
export async function refuseUnknownCategory(path: string, store: Store): Promise<void> {
  const wanted = pathText(pathParts(path));
  const seen = new Set<string>();
  for await (const families of store.families())
    for (const { members } of families)
      for (const product of members) {
        const own = textOf(product, "category");
        if (own === undefined || seen.has(own)) continue;
        if (selfAndAbove(own).includes(wanted)) return;
        seen.add(own);
      }
  const near = nearest(path, new Set([...seen].flatMap(selfAndAbove)));
  throw new Refusal([diagnostic("unknown-own-category", { name: path, nearest: near })]);
}

/** The attributes of a list with commas between; those that nobody knows are refused, all at once. */
export function attributesIn(list: string, attributes: AttributeIndex): readonly string[] {
  const asked = list
    .split(",")
    .map((name) => name.trim())
    .filter(Boolean);
  const unknown = asked.filter((name) => attributes.slot(name) === undefined);
  if (unknown.length === 0) return asked;
  throw new Refusal(
    unknown.map((attribute) =>
      diagnostic("unknown-attribute", { attribute, nearest: nearest(attribute, attributes.names) }),
    ),
  );
}
