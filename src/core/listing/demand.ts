/** What a category asks of this very listing: needs by their conditions, axes, what belongs to a group alone. */
import { groupFieldsOf } from "../channel/layout-formats/layout-formats.js";
import { statedAxes } from "../catalogue/axes.js";
import { groupFieldOf } from "../channel/group-model.js";
import type { ProductView } from "../catalogue/product.js";
import type { CategoryField, ConditionalNeed } from "../channel/category-rules.js";
import type { ChannelDefinition } from "../channel/definition.js";
import type { Need } from "../channel/field.js";
import type { Place } from "../diagnostics/place.js";
import type { Listing } from "./listing.js";

const strength: Readonly<Record<Need, number>> = {
  optional: 0,
  recommended: 1,
  required: 2,
  "not allowed": 3,
};

/** The need of the case that this listing is in: the strongest whose condition holds; where none does, the plain one. */
export function needFor(
  rule: CategoryField,
  listing: Listing,
): { readonly need: Need; readonly place: Place } {
  const { conditionalNeeds } = rule;
  if (conditionalNeeds.length === 0) return rule;
  const holding = conditionalNeeds.filter(({ when }) => when.run(listing) === true);
  const [first = rule, ...others] = holding;
  return others.reduce<Pick<ConditionalNeed, "need" | "place">>(
    (strongest, next) => (strength[next.need] > strength[strongest.need] ? next : strongest),
    first,
  );
}

/** The attributes that the listing's group varies by. */
export const axesOf = ({ product }: { readonly product: ProductView }): readonly string[] =>
  statedAxes(product);

/**
 * Whether a field is asked of a listing at all: what only variations have is not asked of others, and the reference to a
 * group, or the group's name, not of a product without one.
 */
export function isAskedOf(
  { field }: CategoryField,
  { product }: { readonly product: ProductView },
  definition: Pick<ChannelDefinition, "groups" | "layouts">,
): boolean {
  if (product.group === undefined && isOfGroups(field, definition)) return false;
  if (field.axes.length === 0) return true;
  const axes = axesOf({ product });
  return field.axes.some((axis) => axes.includes(axis));
}

const isOfGroups = (
  field: CategoryField["field"],
  { groups, layouts }: Pick<ChannelDefinition, "groups" | "layouts">,
): boolean =>
  groupFieldOf(groups) === field.code || layouts.some((layout) => groupFieldsOf(layout).includes(field));
