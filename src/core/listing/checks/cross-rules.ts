import type { ListingCheck } from "../check-kind.js";

/** What the definition says must hold between fields. */
export const crossRules: ListingCheck = {
  name: "cross-rules",
  check(listing, _, report) {
    for (const { code, says, holds, severity, place } of listing.plan.rules.crossRules)
      if (holds.run(listing) !== true) report("rule-broken", { rule: code, says }, { severity, place });
  },
};
