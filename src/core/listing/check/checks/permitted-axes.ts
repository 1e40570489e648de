import { axisRuleFor } from "../../../channel/axis-rules.js";
import type { FamilyCheck } from "../check-kind.js";

/** A family varies only by what its category permits, by so many axes and with so many members. */
export const permittedAxes: FamilyCheck = {
  name: "permitted-axes",
  check({ listings, axes, definition }, reportFor) {
    if (definition.axisRules.length === 0 || axes.length === 0 || listings.length < 2) return;
    listings.forEach(({ plan }, index) => {
      const rule = axisRuleFor(definition, plan.rules.category);
      if (rule === undefined) return;
      const { place, mostAxes, mostMembers } = rule;
      const wrong = axes.filter((axis) => !rule.axes.includes(axis));
      if (wrong.length > 0)
        reportFor(index)("axis-not-permitted", { axes: wrong, permitted: rule.axes }, { place });
      // A category that takes no variations says so once.
      else if (mostAxes !== undefined && axes.length > mostAxes)
        reportFor(index)("too-many-axes", { limit: mostAxes, actual: axes.length, axes }, { place });
      if (mostAxes !== 0 && mostMembers !== undefined && listings.length > mostMembers)
        reportFor(index)("too-many-members", { limit: mostMembers, actual: listings.length }, { place });
    });
  },
};
