import { correctIt, giveColumn, placeIt } from "../act.js";
import { asOne, byField, nothing, listingFinding } from "../finding.js";
import { orNearest, quote } from "../phrases.js";

/** Where a product goes on a channel. */
export const placement = {
  "no-category": listingFinding<Record<string, never>>({
    says: () => "the product has no category in the catalogue; give it one, then place that category",
    ofMany: asOne,
    apart: byField,
    act: () => giveColumn(["category"]),
    asks: nothing,
  }),
  unplaced: listingFinding<{
    readonly ourCategory: string;
    readonly nearest: readonly string[];
    readonly placements: string;
  }>({
    says: ({ ourCategory, nearest, placements }) =>
      `${quote(ourCategory)} has no place on the channel${orNearest(nearest)} (see "lexicant place", or add a row to ${placements})`,
    ofMany: asOne,
    apart: ({ ourCategory }) => ourCategory,
    act: ({ ourCategory }, { channel }) => placeIt(channel, ourCategory),
    asks: nothing,
  }),
  /** A decision about a category that no product is in, or a SKU that none has. */
  "idle-placement": listingFinding<{
    readonly ourCategory: string;
    readonly sku: string;
    readonly nearest: readonly string[];
  }>({
    says: ({ ourCategory, sku, nearest }) =>
      sku === ""
        ? `this row places ${quote(ourCategory)}, and no product is in that category${orNearest(nearest)}`
        : `this row places ${quote(sku)}, and no product has that SKU`,
    ofMany: asOne,
    apart: ({ ourCategory, sku }) => (sku === "" ? ourCategory : sku),
    act: correctIt,
    asks: nothing,
  }),
  "retired-category": listingFinding<{
    readonly code: string;
    /** The version of the definition that retired it. */
    readonly since: string;
    /** The path of the category that takes its place, and its code; blank where there is none. */
    readonly successor: string;
    readonly successorCode: string;
  }>({
    says: ({ code, since, successor, successorCode }) =>
      successor === ""
        ? `the category ${quote(code)} was retired with version ${since} and nothing takes its place; place it anew`
        : `the category ${quote(code)} was retired with version ${since}; ${quote(successor)} (${successorCode}) takes its place: "lexicant place CHANNEL --successors" follows it`,
    ofMany: asOne,
    apart: ({ code }) => code,
    act: ({ code }, { channel }) => placeIt(channel, code),
    asks: nothing,
  }),
} as const;
