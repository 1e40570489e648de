import { textOf } from "../catalogue/product.js";
import { categoryFieldOf } from "../channel/definition.js";
import type { FileRow } from "../listing/shape/file-family.js";
import type { LiveListing } from "../listing/live-listing.js";
import { liveListing } from "../listing/as-sent.js";
import { textIn, type PurposeFacts } from "./purpose.js";

/** What of a listing the channel takes over from an amending row beside its values. */
const amendedFacts = (
  row: FileRow,
  now: LiveListing,
  { only, definition }: PurposeFacts,
): Partial<LiveListing> => {
  const { name, gtin, category, group, axes } = now;
  if (only === undefined) return { name, gtin, category, group, axes };
  const field = categoryFieldOf(definition);
  // A row of some fields says where the listing stands only where that is one of them.
  return field !== undefined && row.value(field) !== undefined ? { category } : {};
};

/** What the ledger keeps of a row: a full one is all that the channel has; any other changes what it says. */
export const noted = (row: FileRow, facts: PurposeFacts): LiveListing | undefined => {
  const { listing } = row;
  if (listing === undefined) return undefined;
  const { definition, fields, purpose, rule } = facts;
  const values = Object.fromEntries(
    definition.fields.flatMap((field) => {
      const text = textIn(row, field);
      return text === "" ? [] : [[field.code, text]];
    }),
  );
  const now: LiveListing = {
    ...liveListing(listing, values),
    ...(row.kind === "group" ? { isGroup: true } : {}),
  };
  const before = facts.live(row.sku);
  if (purpose === "full" || before === undefined) return now;
  const { price } = definition.roles;
  const saysPrice = price !== undefined && row.value(price) !== undefined;
  // Where a blank erases, the file's blank fields are gone; elsewhere they are as they were.
  const inFile = (code: string): boolean =>
    rule.may.length === 0 || [...fields.may].some((field) => field.code === code);
  const kept =
    rule.blank === "erase"
      ? Object.fromEntries(Object.entries(before.values).filter(([code]) => !inFile(code)))
      : before.values;
  return {
    ...before,
    ...(purpose === "amend" ? amendedFacts(row, now, facts) : {}),
    price: saysPrice ? textOf(listing.product, "price") : before.price,
    values: { ...kept, ...values },
  };
};
