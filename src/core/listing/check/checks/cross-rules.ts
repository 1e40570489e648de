import type { ListingCheck } from "../check-kind.js";

/** What the definition says must hold between fields. */
export const crossRules: ListingCheck = {
  name: "cross-rules",
  check(listing, _, report) {
    // What was given and could not be taken is told as such: a rule that misses it would tell the same fault again.
    const untaken = new Set(
      listing.problems
        .map(({ field: { field } }) => field.slot)
        .filter((slot) => listing.value(slot) === undefined),
    );
    for (const { code, says, holds, severity, place } of listing.plan.rules.crossRules)
      if (!(untaken.size > 0 && holds.reads.some((slot) => untaken.has(slot))) && holds.run(listing) !== true)
        report("rule-broken", { rule: code, says }, { severity, place });
  },
};
