import { textOf } from "../catalogue/product.js";
import type { FileRow } from "../listing/file-family.js";
import { liveListing, type LiveListing } from "../listing/live-listing.js";
import { textIn, type PurposeFacts } from "./purpose.js";

/** What the ledger keeps of a row: a full one is all that the channel has; any other changes what it says. */
export const noted = (row: FileRow, facts: PurposeFacts): LiveListing | undefined => {
  const { listing } = row;
  if (listing === undefined) return undefined;
  const values = Object.fromEntries(
    facts.definition.fields.flatMap((field) => {
      const text = textIn(row, field);
      return text === "" ? [] : [[field.code, text]];
    }),
  );
  const now: LiveListing = {
    ...liveListing(listing, values),
    ...(row.kind === "group" ? { isGroup: true } : {}),
  };
  const before = facts.live(row.sku);
  if (facts.purpose === "full" || before === undefined) return now;
  const { price } = facts.definition.roles;
  const saysPrice = price !== undefined && row.value(price) !== undefined;
  return {
    ...before,
    price: saysPrice ? textOf(listing.product, "price") : before.price,
    values: { ...before.values, ...values },
  };
};
