import { categoryRules, type CategoryField, type CategoryRules } from "../channel/category-rules.js";
import type { Category } from "../channel/category-tree.js";
import { answerAttribute } from "./answers.js";
import { blocksNaming, fillsFor, type Fill } from "./fill-set.js";
import type { ChannelSetup } from "./channel-setup.js";

/** A field that a category has, with the fill that serves it. */
export interface PlannedField {
  readonly rule: CategoryField;
  readonly fill: Fill | undefined;
  /** The attribute that holds a person's own answer for this field; where a product has it, it stands over the fill. */
  readonly answer: number | undefined;
}

/** All that is the same for every product of one of our categories that goes to one of the channel's. */
export interface PlannedCategory {
  readonly rules: CategoryRules;
  readonly fields: readonly PlannedField[];
  /** The planned field at a field's slot. */
  readonly bySlot: readonly (PlannedField | undefined)[];
}

/** Plans are made once for a pair of categories and kept: products only look theirs up. */
export interface Plans {
  for(category: Category, ourCategory: string, sku: string): PlannedCategory;
}

export const plansOf = (setup: ChannelSetup): Plans => {
  const rules = new Map<string, CategoryRules>();
  const plans = new Map<string, PlannedCategory>();
  const namesProducts = setup.fills.some(({ scope }) => scope === "products");
  const rulesOf = (category: Category): CategoryRules => {
    const known = rules.get(category.code);
    if (known !== undefined) return known;
    const resolved = categoryRules(setup.definition, category);
    rules.set(category.code, resolved);
    return resolved;
  };
  return {
    for(category, ourCategory, sku) {
      const key = `${category.code}\u0000${ourCategory}\u0000${namesProducts ? blocksNaming(setup.fills, sku) : ""}`;
      const known = plans.get(key);
      if (known !== undefined) return known;
      const resolved = rulesOf(category);
      const fills = fillsFor(setup.fills, category, ourCategory, sku);
      const fields = resolved.fields.map((rule) => ({
        rule,
        fill: fills[rule.field.slot],
        answer: setup.attributes.slot(answerAttribute(rule.field.code)),
      }));
      const bySlot: (PlannedField | undefined)[] = [];
      for (const planned of fields) bySlot[planned.rule.field.slot] = planned;
      const plan = { rules: resolved, fields, bySlot };
      plans.set(key, plan);
      return plan;
    },
  };
};
