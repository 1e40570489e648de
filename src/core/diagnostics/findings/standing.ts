import { correctIt } from "../act.js";
import { byField, nothing, type FieldFact, listingFinding } from "../finding.js";
import { quote, withArticle } from "../phrases.js";

/** A listing beside what the channel has of it, and what the file of one purpose needs. */
export const standing = {
  "group-moved": listingFinding<{ readonly before: string; readonly after: string }>({
    says: ({ before, after }) =>
      `it was sent ${before === "" ? "on its own" : `in the group ${quote(before)}`} and now ${after === "" ? "stands on its own" : `belongs to ${quote(after)}`}; where the channel does not move listings, end the old one first`,
    ofMany: () =>
      "it was sent in another group than it belongs to now; where the channel does not move listings, end the old one first",
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
  "would-erase": listingFinding<FieldFact & { readonly value: string }>({
    says: ({ label, value }) =>
      `${label} is blank now, and the channel has ${quote(value)}: a full file would take it away; fill it, or leave it to an amend file`,
    ofMany: ({ label }) =>
      `${label} is blank now and the channel has a value: a full file would take it away; fill it, or leave it to an amend file`,
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
  "category-moved": listingFinding<{ readonly before: string; readonly after: string }>({
    says: ({ before, after }) =>
      `it was sent to ${quote(before)} and now goes to ${quote(after)}: the channel will take it for a new listing`,
    ofMany: () =>
      "it goes to another category than it was sent to: the channel will take it for a new listing",
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
  "axes-changed": listingFinding<{ readonly before: readonly string[]; readonly after: readonly string[] }>({
    says: ({ before, after }) =>
      `its group was sent varying by ${before.join(" and ") || "nothing"} and now varies by ${after.join(" and ") || "nothing"}; end the old group there first`,
    ofMany: () => "its group varies by something else than when it was sent; end the old group there first",
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
  "sku-became-another": listingFinding<{ readonly was: string; readonly now: string }>({
    says: ({ was, now }) =>
      `the channel knows this SKU as ${quote(was)}, with another barcode; give ${quote(now)} an SKU of its own`,
    ofMany: () => "the channel knows this SKU as another product; give the new one an SKU of its own",
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
  "never-sent": listingFinding<{ readonly purpose: string }>({
    says: ({ purpose }) =>
      `the channel was never sent it, and ${withArticle(purpose)} file speaks of what the channel has; a full file comes first`,
    ofMany: ({ purpose }) =>
      `the channel was never sent them, and ${withArticle(purpose)} file speaks of what the channel has; a full file comes first`,
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
  "lacks-for-purpose": listingFinding<{ readonly purpose: string; readonly labels: readonly string[] }>({
    says: ({ purpose, labels }) =>
      `it has no ${labels.join(" and no ")}, which each row of ${withArticle(purpose)} file must have`,
    ofMany: ({ purpose, labels }) =>
      `they have no ${labels.join(" or no ")}, which each row of ${withArticle(purpose)} file must have`,
    apart: ({ labels }) => labels.join(" "),
    act: correctIt,
    asks: nothing,
  }),
} as const;
