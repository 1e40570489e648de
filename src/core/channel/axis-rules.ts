import { withAncestors, type Category } from "./category-tree.js";
import type { AxisRule, ChannelDefinition } from "./definition.js";

/** What members of a group may differ in within a category: the nearest scope's rule. */
export function axisRuleFor({ axisRules }: ChannelDefinition, category: Category): AxisRule | undefined {
  for (const { code } of withAncestors(category)) {
    const found = axisRules.find(({ scope }) => scope === code);
    if (found !== undefined) return found;
  }
  return axisRules.find(({ scope }) => scope === "*");
}

/** The axes of a group that its category takes, in the group's own order, as many as it takes at once. */
export function axesTaken(
  axes: readonly string[],
  { axes: permitted, mostAxes }: AxisRule,
): readonly string[] {
  return axes.filter((axis) => permitted.includes(axis)).slice(0, mostAxes ?? axes.length);
}
