/** A listing as the ledger keeps it: one text, compared by its bytes. */
import { bareObject } from "../own.js";
import type { LiveListing } from "./live-listing.js";

/** Between a field's code and its value. */
const BETWEEN = "\u001c";
/** Behind each part. */
const END = "\u001d";

// eslint-disable-next-line no-control-regex
const marks = /[\u001c\u001d]/;
// eslint-disable-next-line no-control-regex
const everyMark = /[\u001c\u001d]/g;

const part = (text: string): string => (marks.test(text) ? text.replace(everyMark, " ") : text);

/** What of a listing its text begins with. */
export type LiveFacts = Pick<LiveListing, "name" | "gtin" | "price" | "category" | "axes">;

/** A listing's facts and, behind them, its values, each added by {@link valueText}. */
export const factsText = ({ name = "", gtin = "", price = "", category, axes }: LiveFacts): string =>
  part(name) + END + part(gtin) + END + part(price) + END + part(category) + END + part(axes) + END;

/** One field's value in a listing's text. */
export const valueText = (code: string, value: string): string => code + BETWEEN + part(value) + END;

function valuesIn(text: string, start: number): LiveListing["values"] {
  const values = bareObject<string>();
  for (let from = start; from < text.length;) {
    const [middle, end] = [text.indexOf(BETWEEN, from), text.indexOf(END, from)];
    // eslint-disable-next-line house/data-names -- a bare object has no name of the language
    values[text.slice(from, middle)] = text.slice(middle + 1, end);
    from = end + 1;
  }
  return values;
}

/** A listing as the ledger keeps it: one text, and beside it what the ledger itself looks at. */
export interface KeptListing {
  readonly sku: string;
  readonly group: string | undefined;
  readonly isGroup: boolean;
  readonly withdrawn: boolean;
  readonly text: string;
}

/** A listing as the ledger keeps it. */
export function keptListing(sku: string, listing: LiveListing): KeptListing {
  let text = factsText(listing);
  const { values, group } = listing;
  for (const code in values)
    // eslint-disable-next-line house/data-names -- its own names, one after the other
    text += valueText(code, values[code] ?? "");
  return { sku, group, isGroup: listing.isGroup === true, withdrawn: listing.withdrawn === true, text };
}

/** The listing that was kept; its values are taken apart when one of them is asked for, since most never are. */
export function listingKept({ text, group, isGroup, withdrawn }: Omit<KeptListing, "sku">): LiveListing {
  let from = 0;
  const next = (): string => {
    const end = text.indexOf(END, from);
    const found = text.slice(from, end);
    from = end + 1;
    return found;
  };
  const [name, gtin, price, category, axes] = [next(), next(), next(), next(), next()];
  const start = from;
  let values: LiveListing["values"] | undefined;
  return {
    name: name || undefined,
    gtin: gtin || undefined,
    price: price || undefined,
    category,
    axes,
    group,
    ...(isGroup ? { isGroup } : {}),
    ...(withdrawn ? { withdrawn } : {}),
    get values() {
      return (values ??= valuesIn(text, start));
    },
  };
}
