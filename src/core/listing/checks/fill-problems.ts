import { nearest } from "../../diagnostics/nearest.js";
import type { ListingCheck } from "../check-kind.js";

/** Values that a field could not take: of another kind, or not among the permitted ones. */
export const fillProblems: ListingCheck = {
  name: "fill-problems",
  check({ problems }, { files }, report) {
    for (const { field: rule, written, problem } of problems) {
      const { label } = rule.field;
      if (problem !== "unknown-value") {
        report("wrong-kind", { label, value: written, problem }, { field: rule });
        continue;
      }
      const values = rule.limits.values?.values.map(({ value }) => value) ?? [];
      const facts = { label, value: written, nearest: nearest(written, values), lexicon: files.lexicon };
      report("unknown-value", facts, { field: rule });
    }
  },
};
