import type { CategoryField, CategoryRules } from "../channel/category-rules.js";
import type { Category } from "../channel/category-tree.js";
import type { FillMemo } from "./fill/fill-memo.js";
import type { Fill } from "./fill/fill-set.js";

/** A field that a category has, with the fill that serves it. */
export interface PlannedField {
  readonly rule: CategoryField;
  readonly fill: Fill | undefined;
  /** The attribute that holds a person's own answer for this field; where a product has it, it stands over the fill. */
  readonly answer: number | undefined;
  /** What the fill came to for the texts that it reads; undefined where it reads more than the product's own attributes. */
  readonly memo: FillMemo | undefined;
}

/** All that is the same for every product of one of our categories that goes to one of the channel's. */
export interface PlannedCategory {
  readonly rules: CategoryRules;
  readonly fields: readonly PlannedField[];
  /** Those that something can fill: a fill, or a person's own answer. */
  readonly fillable: readonly PlannedField[];
  /** The planned field at a field's slot. */
  readonly bySlot: readonly (PlannedField | undefined)[];
}

/** Plans are made once for a pair of categories and kept: products only look theirs up. */
export interface Plans {
  for(category: Category, ourCategory: string, sku: string): PlannedCategory;
  /** The channel's categories, by path, that one of ours which has no place can have meant. */
  hints(ourCategory: string): readonly string[];
}
