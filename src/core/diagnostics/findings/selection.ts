import { correctIt } from "../act.js";
import { asOne, byField, nothing, listingFinding } from "../finding.js";
import { listed, quote } from "../phrases.js";

/** Our own decisions not to list a product. */
export const selection = {
  "not-selected": listingFinding<{ readonly condition: string }>({
    says: ({ condition }) => `it does not meet the channel's condition: ${condition}`,
    ofMany: asOne,
    apart: ({ condition }) => condition,
    act: correctIt,
    asks: nothing,
  }),
  "marked-off": listingFinding<{ readonly attribute: string; readonly marks: readonly string[] }>({
    says: ({ attribute, marks }) =>
      attribute === "listed"
        ? "its listed says no; to list it, say yes there, or take the word away"
        : attribute === "keep_off"
          ? `the product's own keep_off says ${listed(marks)}; to list it, take the mark away`
          : `the product's own list_on says ${listed(marks)} only; to list it here as well, add the channel there`,
    ofMany: ({ attribute }) => `the product's own ${attribute} keeps it off this channel`,
    apart: ({ attribute }) => attribute,
    act: correctIt,
    asks: nothing,
  }),
  "digital-left-out": listingFinding<Record<string, never>>({
    says: (_, files) => `it is a digital good, and ${files.policy} leaves those out (selection: digital: no)`,
    ofMany: asOne,
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
  "hazard-left-out": listingFinding<{ readonly hazard: string; readonly taken: readonly string[] }>({
    says: ({ hazard, taken }, files) =>
      `its hazard is ${quote(hazard)}, and ${files.policy} ${taken.length === 0 ? "takes no hazardous goods" : `takes only ${listed(taken)}`} (selection: hazards)`,
    ofMany: (_, files) => `it has a hazard that ${files.policy} does not take (selection: hazards)`,
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
  "country-left-out": listingFinding<{
    readonly sold: readonly string[];
    readonly countries: readonly string[];
  }>({
    says: ({ sold, countries }) =>
      `it may be sold in ${listed(sold.map((code) => code.toUpperCase()))} only, the channel sells in ${listed(countries)}`,
    ofMany: ({ countries }) => `it may not be sold in ${listed(countries)}`,
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
  "below-least-price": listingFinding<{ readonly price: string; readonly least: string }>({
    says: ({ price, least }) =>
      `its price ${price} is below ${least}, the least for this channel (selection: least_price)`,
    ofMany: ({ least }) => `its price is below ${least}, the least for this channel (selection: least_price)`,
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
  "below-least-readiness": listingFinding<{ readonly percent: number; readonly least: number }>({
    says: ({ percent, least }, files) =>
      `it has ${percent}% of what the channel requires and recommends, and ${files.policy} wants ${least}% (selection: least_readiness)`,
    ofMany: ({ least }) =>
      `it has less than ${least}% of what the channel requires and recommends (selection: least_readiness)`,
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
} as const;
