/** What the ledger keeps of a row, by the purpose of its file. */
import { textOf } from "../catalogue/product.js";
import { categoryFieldOf } from "../channel/definition.js";
import type { FileRow } from "../listing/shape/file-family.js";
import type { LiveListing } from "../listing/live-listing.js";
import { factsOf, liveListing } from "../listing/as-sent.js";
import type { Listing } from "../listing/listing.js";
import { factsText, keptListing, valueText, type KeptListing } from "../listing/live-text.js";
import { textIn, type PurposeFacts } from "./purpose.js";

/** What of a listing the channel takes over from an amending row beside its values. */
function amendedFacts(
  row: FileRow,
  now: LiveListing,
  { only, definition }: PurposeFacts,
): Partial<LiveListing> {
  const { name, gtin, category, group, axes } = now;
  if (only === undefined) return { name, gtin, category, group, axes };
  const field = categoryFieldOf(definition);
  // A row of some fields says where the listing stands only where that is one of them.
  return field !== undefined && row.value(field) !== undefined ? { category } : {};
}

/** A row of which all holds that it says: its values are not gathered, they become text at once. */
function wholeRow(row: FileRow, listing: Listing, { definition }: PurposeFacts): KeptListing {
  let text = factsText(factsOf(listing));
  for (const field of definition.fields) {
    const value = textIn(row, field);
    if (value !== "") text += valueText(field.code, value);
  }
  return {
    sku: row.sku,
    group: listing.product.group,
    isGroup: row.kind === "group",
    withdrawn: false,
    text,
  };
}

/** What the ledger keeps of a row: a full one is all that the channel has; any other changes what it says. */
export function noted(row: FileRow, facts: PurposeFacts): KeptListing | undefined {
  const { listing } = row;
  if (listing === undefined) return undefined;
  const before = facts.live(row.sku);
  if (facts.purpose === "full" || before === undefined) return wholeRow(row, listing, facts);
  return keptListing(row.sku, changedBy(row, listing, before, facts));
}

/** What the channel has, with what a row says of it. */
function changedBy(row: FileRow, listing: Listing, before: LiveListing, facts: PurposeFacts): LiveListing {
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
}
