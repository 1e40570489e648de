import { withNearest } from "../../../diagnostics/with-nearest.js";
import { troubleCode } from "../../../diagnostics/trouble-code.js";
import type { ListingCheck } from "../check-kind.js";
import { needFor } from "../../demand.js";

/** Values that a field could not take: of another kind, or not among the permitted ones. */
export const fillProblems: ListingCheck = {
  name: "fill-problems",
  beyond: [],
  for:
    (_, { files }) =>
    (listing, report) => {
      const { problems, value } = listing;
      for (const found of problems) {
        const { field: rule } = found;
        const { label, slot } = rule.field;
        if ("trouble" in found) {
          // Where the fill gave a value all the same, a part of it is missing and the person should know. What belongs to a
          // group and has no one value there is left blank, where the channel can do without.
          const isMissed =
            found.trouble.trouble === "members-differ"
              ? needFor(rule, listing).need === "required"
              : value(slot) === undefined;
          const severity = isMissed ? "error" : "warning";
          report(troubleCode(found.trouble), { label, trouble: found.trouble }, { field: rule, severity });
          continue;
        }
        const { written, problem } = found;
        if (problem !== "unknown-value") {
          report("wrong-kind", { label, value: written, problem }, { field: rule });
          continue;
        }
        const facts = withNearest(
          { label, value: written, lexicon: files.lexicon },
          () => rule.limits.values?.near(written) ?? [],
        );
        report("unknown-value", facts, { field: rule });
      }
    },
};
