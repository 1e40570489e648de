import { withAncestors, type Category } from "./category-tree.js";
import type { AxisRule, ChannelDefinition } from "./definition.js";

/** What members of a group may differ in within a category: the nearest scope's rule. */
export const axisRuleFor = ({ axisRules }: ChannelDefinition, category: Category): AxisRule | undefined => {
  const scopes = [...withAncestors(category).map(({ code }) => code as string), "*"];
  return axisRules
    .filter(({ scope }) => scopes.includes(scope))
    .sort((a, b) => scopes.indexOf(a.scope) - scopes.indexOf(b.scope))[0];
};

/** The axes of a group that its category takes, in the group's own order, as many as it takes at once. */
export const axesTaken = (
  axes: readonly string[],
  { axes: permitted, mostAxes }: AxisRule,
): readonly string[] => axes.filter((axis) => permitted.includes(axis)).slice(0, mostAxes ?? axes.length);
