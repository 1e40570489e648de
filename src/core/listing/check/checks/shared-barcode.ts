import type { ListingCheck } from "../check-kind.js";

/** No other product that goes to the channel has the same barcode: the channel would take both for one thing. */
export const sharedBarcode: ListingCheck<"barcodeTwins"> = {
  name: "shared-barcode",
  beyond: ["barcodeTwins"],
  for({ fields }, { barcodeTwins }) {
    const barcodes = fields.filter(({ rule }) => rule.field.kind === "gtin");
    if (barcodes.length === 0) return undefined;
    return (listing, report) => {
      const others = barcodeTwins(listing.product);
      if (others.length === 0) return;
      for (const { rule } of barcodes) {
        const value = listing.value(rule.field.slot);
        if (typeof value === "string")
          report("shared-barcode", { label: rule.field.label, value, others }, { field: rule });
      }
    };
  },
};
