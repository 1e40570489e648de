/** What all categories of a branch ask, for the head of its workbook. */
import { categoryRules, type CategoryField } from "../../core/channel/category-rules.js";
import { withAncestors, type Category } from "../../core/channel/category-tree.js";
import type { ChannelDefinition } from "../../core/channel/definition.js";
import { onceFor } from "../../core/once-for.js";
import { fold } from "../../core/values/text.js";
import { limitWords } from "../../core/channel/limit-words.js";

/** What a branch asks of each field, by the field's code. */
export type BranchRules = ReadonlyMap<string, CategoryField>;

/** All that any category of a branch asks of each field; the first that gives it values speaks for it. Worked out once for all books. */
export const branchRules: (definition: ChannelDefinition, branch: Category) => BranchRules = onceFor(
  (definition, branch) => {
    const rules = new Map<string, CategoryField>();
    // Categories without rules of their own have the very list of the one above: it is read once.
    const read = new Set<readonly CategoryField[]>();
    for (const category of definition.tree.all) {
      if (!withAncestors(category).includes(branch)) continue;
      const { fields } = categoryRules(definition, category);
      if (read.has(fields)) continue;
      read.add(fields);
      for (const rule of fields) {
        const before = rules.get(rule.field.code);
        if (before === undefined || (before.limits.values === undefined && rule.limits.values !== undefined))
          rules.set(rule.field.code, rule);
      }
    }
    return rules;
  },
);

/** A rule in words, for the note on a column's head. */
export function describe(rule: CategoryField): string {
  const { field, need } = rule;
  return [
    `${field.code}: ${need}`,
    limitWords(rule).join(", "),
    ...(field.example === "" ? [] : [`Such as: ${field.example}`]),
    ...(field.help === "" ? [] : [field.help]),
  ].join("\n");
}

/** `Garden & Outdoor Living` as a part of a file name. */
export const slug = (name: string): string => fold(name).replaceAll(" ", "-");
