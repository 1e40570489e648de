import { categoryRules, type CategoryField } from "../../core/channel/category-rules.js";
import { withAncestors, type Category } from "../../core/channel/category-tree.js";
import type { ChannelDefinition } from "../../core/channel/definition.js";
import { fold } from "../../core/values/text.js";
import { limitWords } from "../../core/channel/limit-words.js";

/** All that any category of a branch asks of each field; the first that gives it values speaks for it. */
export const branchRules = (
  definition: ChannelDefinition,
  branch: Category,
): ReadonlyMap<string, CategoryField> => {
  const rules = new Map<string, CategoryField>();
  for (const category of definition.tree.all) {
    if (!withAncestors(category).includes(branch)) continue;
    for (const rule of categoryRules(definition, category).fields) {
      const known = rules.get(rule.field.code);
      if (known === undefined || (known.limits.values === undefined && rule.limits.values !== undefined))
        rules.set(rule.field.code, rule);
    }
  }
  return rules;
};

/** A rule in words, for the note on a column's head. */
export const describe = (rule: CategoryField): string => {
  const { field, need } = rule;
  return [
    `${field.code}: ${need}`,
    limitWords(rule).join(", "),
    ...(field.example === "" ? [] : [`Such as: ${field.example}`]),
    ...(field.help === "" ? [] : [field.help]),
  ].join("\n");
};

/** `Garden & Outdoor Living` as a part of a file name. */
export const slug = (name: string): string => fold(name).replaceAll(" ", "-");
