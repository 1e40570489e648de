import type { ListingCheck } from "../check-kind.js";

/** What the definition says must hold between fields. */
export const crossRules: ListingCheck = {
  name: "cross-rules",
  beyond: [],
  for({ rules: { crossRules: rules } }) {
    if (rules.length === 0) return undefined;
    return (listing, report) => {
      // What was given and could not be taken is told as such: a rule that misses it would tell the same fault again.
      const untaken = listing.problems
        .map(({ field: { field } }) => field.slot)
        .filter((slot) => listing.value(slot) === undefined);
      for (const { code, says, holds, severity, place } of rules)
        if (!holds.reads.some((slot) => untaken.includes(slot)) && holds.run(listing) !== true)
          report("rule-broken", { rule: code, says }, { severity, place });
    };
  },
};
