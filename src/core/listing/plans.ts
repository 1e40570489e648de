/**
 * Plans: for each pair of our category and the channel's, the fields with their needs, limits and fills, resolved once.
 */
import { categoryRules, type CategoryRules } from "../channel/category-rules.js";
import type { Category } from "../channel/category-tree.js";
import { nearByName } from "../channel/near-categories.js";
import { answerAttribute } from "./fill/answers.js";
import { fillMemo } from "./fill/fill-memo.js";
import { blocksNaming, fillsFor } from "./fill/fill-set.js";
import type { ChannelSetup } from "./channel-setup.js";
import { MemoRoom } from "../text-memo.js";
import type { PlannedCategory, PlannedField, Plans } from "./plan.js";

/** Characters that one channel's fills may remember. */
const ROOM = 8_000_000;

/** The plans of one channel. */
export function plansOf(setup: ChannelSetup): Plans {
  const rules = new Map<string, CategoryRules>();
  const plans = new Map<string, PlannedCategory>();
  const room = new MemoRoom(ROOM);
  const namesProducts = setup.fills.some(({ scope }) => scope === "products");
  const rulesOf = (category: Category): CategoryRules => {
    const known = rules.get(category.code);
    if (known !== undefined) return known;
    const resolved = categoryRules(setup.definition, category);
    rules.set(category.code, resolved);
    return resolved;
  };
  const hints = new Map<string, readonly string[]>();
  return {
    hints(ourCategory) {
      const known = hints.get(ourCategory);
      if (known !== undefined) return known;
      const found = nearByName(setup.definition.tree, ourCategory).map(({ path }) => path);
      hints.set(ourCategory, found);
      return found;
    },
    for(category, ourCategory, sku) {
      const key = `${category.code}\u0000${ourCategory}\u0000${namesProducts ? blocksNaming(setup.fills, sku) : ""}`;
      const known = plans.get(key);
      if (known !== undefined) return known;
      const resolved = rulesOf(category);
      const fills = fillsFor(setup.fills, category, ourCategory, sku);
      const fields = resolved.fields.map((rule): PlannedField => {
        const fill = fills[rule.field.slot];
        return {
          rule,
          fill,
          memo: fillMemo(fill, room),
          answer: setup.attributes.slot(answerAttribute(rule.field.code)),
        };
      });
      const bySlot: (PlannedField | undefined)[] = [];
      for (const planned of fields) bySlot[planned.rule.field.slot] = planned;
      const fillable = fields.filter(({ fill, answer }) => fill !== undefined || answer !== undefined);
      const plan = { rules: resolved, fields, fillable, bySlot };
      plans.set(key, plan);
      return plan;
    },
  };
}
