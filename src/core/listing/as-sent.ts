import { VARIES_BY } from "../catalogue/axes.js";
import { textOf } from "../catalogue/product.js";
import { canonicalText } from "../values/show.js";
import type { Listing } from "./listing.js";
import type { LiveListing } from "./live-listing.js";
import type { LiveFacts } from "./live-text.js";

/** All that a listing is filled with. */
function valuesOf(listing: Listing): LiveListing["values"] {
  const values: Record<string, string> = {};
  for (const { rule } of listing.plan.fields) {
    const value = listing.value(rule.field.slot);
    if (value !== undefined) values[rule.field.code] = canonicalText(value);
  }
  return values;
}

/** What the ledger keeps of a listing's product and place. */
export const factsOf = ({ product, plan }: Listing): LiveFacts => ({
  name: textOf(product, "name"),
  gtin: textOf(product, "gtin"),
  price: textOf(product, "price"),
  category: plan.rules.category.code,
  axes: textOf(product, VARIES_BY) ?? "",
});

/** A listing as the ledger keeps it, with the values that a file says of it. */
export const liveListing = (listing: Listing, values = valuesOf(listing)): LiveListing => ({
  ...factsOf(listing),
  group: listing.product.group,
  values,
});
