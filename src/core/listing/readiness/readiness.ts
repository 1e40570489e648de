/** How much of what is asked is there: shares of required and recommended fields. */
import type { ChannelDefinition } from "../../channel/definition.js";
import { isError, type Diagnostic } from "../../diagnostics/diagnostic.js";
import { isAskedOf, needFor } from "../demand.js";
import type { Listing } from "../listing.js";

/** So many fields are asked for, and so many of them are there and right. */
export interface Share {
  readonly asked: number;
  readonly filled: number;
}

/** How much of what a channel requires and recommends is there. */
export interface Shares {
  readonly required: Share;
  readonly recommended: Share;
}

/** A listing's shares. A field with an error in `findings` holds a value that the channel would refuse: it is not there. */
export function sharesOf(
  listing: Listing,
  definition: ChannelDefinition,
  findings: readonly Diagnostic[] = [],
): Shares {
  const wrong = new Set(findings.filter(isError).map(({ field }) => field));
  const shares = { required: { asked: 0, filled: 0 }, recommended: { asked: 0, filled: 0 } };
  for (const { rule } of listing.plan.fields) {
    const { need } = needFor(rule, listing);
    if ((need !== "required" && need !== "recommended") || !isAskedOf(rule, listing, definition)) continue;
    shares[need].asked++;
    const { slot, code, defaultValue } = rule.field;
    const isThere = listing.value(slot) !== undefined || defaultValue !== "";
    if (isThere && !wrong.has(code)) shares[need].filled++;
  }
  return shares;
}

/** Nothing asked, nothing there. */
export const noShares: Shares = { required: { asked: 0, filled: 0 }, recommended: { asked: 0, filled: 0 } };

/** Two together. */
export const addShares = (a: Shares, b: Shares): Shares => ({
  required: addShare(a.required, b.required),
  recommended: addShare(a.recommended, b.recommended),
});

const addShare = (a: Share, b: Share): Share => ({
  asked: a.asked + b.asked,
  filled: a.filled + b.filled,
});

/** In whole percent, rounded down: 100 means all. */
export const percentOfShare = ({ asked, filled }: Share): number =>
  asked === 0 ? 100 : Math.floor((filled * 100) / asked);

/** Of what is required and recommended together. */
export const percentOf = ({ required, recommended }: Shares): number =>
  percentOfShare(addShare(required, recommended));
