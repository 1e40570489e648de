import type { AttributeIndex } from "../core/catalogue/attribute-index.js";
import { diagnostic, type Diagnostic } from "../core/diagnostics/diagnostic.js";
import { nearest } from "../core/values/nearest.js";
import { Refusal } from "../core/diagnostics/refusal.js";
import type { Store } from "../store/store.js";
import type { Workspace } from "../workspace/workspace.js";

/** That no product has a SKU, with those that a person can have meant. */
export const unknownSku = async (sku: string, store: Store): Promise<Diagnostic> =>
  diagnostic("unknown-sku", { sku, nearest: nearest(sku, await store.skusNear(sku)) });

/** Refuses SKUs that nobody knows, all at once. */
export const refuseUnknownSkus = async (skus: Iterable<string>, store: Store): Promise<void> => {
  const unknown: Diagnostic[] = [];
  for (const sku of skus)
    if ((await store.product(sku)) === undefined) unknown.push(await unknownSku(sku, store));
  if (unknown.length > 0) throw new Refusal(unknown);
};

/** Refuses a channel that the workspace does not use; none is fine where none is asked for. */
export const refuseUnused = (channel: string | undefined, { channelsInUse }: Workspace): void => {
  if (channel !== undefined && !channelsInUse.includes(channel))
    throw new Refusal([diagnostic("channel-not-in-use", { channel, inUse: channelsInUse })]);
};

/** The attributes of a list with commas between; those that nobody knows are refused, all at once. */
export const attributesIn = (list: string, attributes: AttributeIndex): readonly string[] => {
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
};
