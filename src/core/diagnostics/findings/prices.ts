import { changePrices } from "../act.js";
import { byField, nothing, type BoundFact, listingFinding } from "../finding.js";

/** The channel's own bounds of prices. */
export const prices = {
  "price-too-low": listingFinding<BoundFact>({
    says: ({ attribute, price, bound, moved }, files) =>
      moved
        ? `${attribute} ${price} is below the lowest allowed and was raised to ${bound}`
        : `${attribute} ${price} is below ${bound}, the lowest that ${files.policy} allows; change the price, the rule or the bound`,
    ofMany: ({ attribute, moved }, files) =>
      `${attribute} is below the lowest that ${files.policy} allows${moved ? " and was raised to it" : "; change the price, the rule or the bound"}`,
    apart: ({ attribute }) => attribute,
    act: (_, { channel }) => changePrices(channel),
    asks: nothing,
  }),
  "price-too-high": listingFinding<BoundFact>({
    says: ({ attribute, price, bound, moved }, files) =>
      moved
        ? `${attribute} ${price} is above the highest allowed and was lowered to ${bound}`
        : `${attribute} ${price} is above ${bound}, the highest that ${files.policy} allows; change the price, the rule or the bound`,
    ofMany: ({ attribute, moved }, files) =>
      `${attribute} is above the highest that ${files.policy} allows${moved ? " and was lowered to it" : "; change the price, the rule or the bound"}`,
    apart: ({ attribute }) => attribute,
    act: (_, { channel }) => changePrices(channel),
    asks: nothing,
  }),
  "price-jump": listingFinding<{
    readonly label: string;
    readonly before: string;
    readonly after: string;
    readonly percent: number;
    readonly limit: number;
    readonly file: string;
  }>({
    says: ({ label, before, after, percent, limit, file }) =>
      `${label} goes from ${before}, which was sent last, to ${after}: ${percent}%, and ${file} allows ${limit}%; if it is meant, build with --confirm-prices and its SKU`,
    ofMany: ({ label, limit, file }) =>
      `${label} differs by more than ${limit}% from the one sent last (${file}); where it is meant, build with --confirm-prices and the SKUs, or all`,
    apart: byField,
    act: (_, { channel }) => changePrices(channel),
    asks: nothing,
  }),
} as const;
