import type { ListingCheck } from "../check-kind.js";

/** No other product that goes to the channel has the same barcode: the channel would take both for one thing. */
export const sharedBarcode: ListingCheck = {
  name: "shared-barcode",
  check(listing, { barcodeTwins }, report) {
    const { product, plan } = listing;
    const others = barcodeTwins(product);
    if (others.length === 0) return;
    for (const { rule } of plan.fields) {
      const value = rule.field.kind === "gtin" ? listing.value(rule.field.slot) : undefined;
      if (typeof value === "string")
        report("shared-barcode", { label: rule.field.label, value, others }, { field: rule });
    }
  },
};
