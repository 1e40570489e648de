/** One product on each channel, with every reason. */
import type { Product } from "../../core/catalogue/product.js";
import type { Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { ChannelSetup } from "../../core/listing/channel-setup.js";
import { productOf, type Outcome } from "../../core/listing/listing.js";
import { pipelineFor } from "../../core/listing/pipeline.js";
import type { Store } from "../../store/store.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { unknownSku } from "../refusals.js";
import { provenanceIn } from "../run-channels.js";
import { isFindingMeant, type Narrowing } from "./narrowing.js";

/** Where a product stands on one channel. */
export interface ProductStanding {
  readonly setup: ChannelSetup;
  readonly outcome: Outcome;
  /** Those of its findings that were asked for. */
  readonly findings: readonly Diagnostic[];
}

/** A product with where it stands. */
export interface CheckedProduct {
  readonly product: Product;
  readonly standings: readonly ProductStanding[];
}

/** Where one product stands on each channel, with every reason; refuses a SKU that nobody knows. */
export async function checkProduct(
  sku: string,
  channels: readonly WorkspaceChannel[],
  store: Store,
  narrowing: Narrowing,
): Promise<CheckedProduct> {
  const family = await store.familyOf(sku);
  const product = family?.members.find((member) => member.sku === sku);
  if (family === undefined || product === undefined) throw new Refusal([await unknownSku(sku, store)]);
  const provenance = await provenanceIn(store);
  const standings: ProductStanding[] = [];
  for (const { setup, recall } of channels) {
    await recall([family]);
    const outcome = pipelineFor(setup, provenance)(family).find((one) => productOf(one).sku === sku);
    if (outcome !== undefined)
      standings.push({ setup, outcome, findings: outcome.findings.filter(isFindingMeant(narrowing)) });
  }
  return { product, standings };
}
