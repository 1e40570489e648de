import { textOf } from "../catalogue/product.js";
import { LIST_SEPARATOR } from "../catalogue/record.js";
import type { Field } from "../channel/field.js";
import { readValue } from "../values/read.js";
import { canonicalText } from "../values/show.js";
import type { MaybeBlank, Value } from "../values/value.js";
import type { Listing } from "./listing.js";

/** What a channel was last sent of one listing: canonical texts. */
export interface LiveListing {
  readonly name: string | undefined;
  readonly gtin: string | undefined;
  readonly price: string | undefined;
  /** The channel's category, by code. */
  readonly category: string;
  /** What its group varied by. */
  readonly axes: string;
  readonly group: string | undefined;
  /** Whether it is a group's own row, under a SKU that was made for it. */
  readonly isGroup?: true;
  /** Whether it was ended there; its SKU stays known. */
  readonly withdrawn?: true;
  /** Values by field code; what was blank is not there. */
  readonly values: Readonly<Record<string, string>>;
}

/** All that a listing is filled with. */
const valuesOf = (listing: Listing): LiveListing["values"] => {
  const values: Record<string, string> = {};
  for (const { rule } of listing.plan.fields) {
    const value = listing.value(rule.field.slot);
    if (value !== undefined) values[rule.field.code] = canonicalText(value);
  }
  return values;
};

/** A listing as the ledger keeps it, with the values that a file says of it. */
export const liveListing = (listing: Listing, values = valuesOf(listing)): LiveListing => {
  const { product, plan } = listing;
  return {
    name: textOf(product, "name"),
    gtin: textOf(product, "gtin"),
    price: textOf(product, "price"),
    category: plan.rules.category.code,
    axes: textOf(product, "varies_by") ?? "",
    group: product.group,
    values,
  };
};

/** What a channel has in a field, as the value that it was: every layout writes it as it first did. */
export const liveValue = ({ values }: Pick<LiveListing, "values">, field: Field): MaybeBlank => {
  const text = values[field.code];
  if (text === undefined || text === "") return undefined;
  const one = (part: string): Value => {
    const reading = readValue(field.kind, part);
    return "value" in reading ? reading.value : part;
  };
  return field.list ? text.split(LIST_SEPARATOR).map(one) : one(text);
};
