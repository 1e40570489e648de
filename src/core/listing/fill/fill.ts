/** Fills a listing: each field of its plan in a scope of its own. */
import { addAll } from "../../many.js";
import { textOf } from "../../catalogue/product.js";
import { categoryFieldOf } from "../../channel/definition.js";
import type { CategoryField } from "../../channel/category-rules.js";
import type { Value } from "../../values/value.js";
import type { ChannelSetup } from "../channel-setup.js";
import { coerce } from "./coerce.js";
import { FillScope, type FilledGroup, type GroupFields, type SharedByGroup } from "./fill-scope.js";
import type { Filled } from "./filled.js";
import type { GroupView } from "./group-view.js";
import type { FillProblem } from "../fill-problem.js";
import type { Listing, PricedProduct } from "../listing.js";
import { permittedFor } from "./permitted.js";

/** The category as the channel's files name it. */
const shownCategory = ({ plan }: PricedProduct, { categoryBy }: ChannelSetup["definition"]): string =>
  categoryBy === "code" ? plan.rules.category.code : plan.rules.category.path;

const noProblems: readonly FillProblem[] = [];

/** Whether a field takes any one text as it is. */
const isPlainText = ({ field, limits }: CategoryField): boolean =>
  (field.kind === "text" || field.kind === "html") && !field.list && limits.values === undefined;

/** What the fills of one listing read, and how what they give comes into the fields. */
export function scopeFor(
  priced: PricedProduct,
  setup: ChannelSetup,
  shared: SharedByGroup,
  group?: GroupFields,
  view?: GroupView,
): FillScope {
  const { definition } = setup;
  const settle = (given: Value, rule: CategoryField): Filled => {
    if (typeof given === "string" && isPlainText(rule)) return { value: given, problems: noProblems };
    const ourCategory = textOf(priced.product, "category");
    const coerced = coerce(given, rule, (term) => permittedFor(setup, rule, ourCategory, term));
    if (!("problem" in coerced)) return { value: coerced.value, problems: noProblems };
    const { written, problem } = coerced;
    return { value: undefined, problems: [{ field: rule, written, problem }] };
  };
  const scope = new FillScope(priced, shared, settle, group, view);
  // The placement fills the category's field: for the listing, and for fills that ask it.
  const field = categoryFieldOf(definition);
  if (field !== undefined) scope.preset(field.slot, shownCategory(priced, definition));
  return scope;
}

/** Works out each field in a scope; what does not fit becomes a problem. */
export function listingIn(scope: FillScope, priced: PricedProduct): Listing {
  let problems: FillProblem[] | undefined;
  const { product, plan, notes, axes } = priced;
  for (const planned of plan.fillable) {
    const filled = scope.field(planned);
    if (filled.problems.length > 0) addAll((problems ??= []), filled.problems);
  }
  return {
    product,
    plan,
    notes,
    axes,
    problems: problems ?? noProblems,
    value: (slot) => scope.at(slot)?.value,
    filled: (slot) => scope.at(slot),
  };
}

/** Runs each field's fill and brings its value into the field's kind; fields of the group are filled for the group. */
export const fill = (priced: PricedProduct, setup: ChannelSetup, group: FilledGroup): Listing =>
  listingIn(scopeFor(priced, setup, group.shared, group.fields), priced);
