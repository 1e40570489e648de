import { textOf } from "../catalogue/product.js";
import { categoryFieldOf } from "../channel/definition.js";
import type { MaybeBlank } from "../values/value.js";
import type { ChannelSetup } from "./channel-setup.js";
import { coerce } from "./coerce.js";
import { FillScope, type Filled, type Shared } from "./fill-scope.js";
import type { FillProblem, Listing, PricedProduct } from "./listing.js";
import { permittedFor } from "./permitted.js";

/** The category as the channel's files name it. */
const shownCategory = ({ plan }: PricedProduct, { categoryBy }: ChannelSetup["definition"]): string =>
  categoryBy === "code" ? plan.rules.category.code : plan.rules.category.path;

/** What the fills of one listing read, and how what they give comes into the fields. */
export const scopeFor = (priced: PricedProduct, setup: ChannelSetup, shared: Shared): FillScope => {
  const ourCategory = textOf(priced.product, "category");
  const { definition } = setup;
  const scope = new FillScope(priced, shared, (given, rule): Filled => {
    const coerced = coerce(given, rule, (term) => permittedFor(setup, rule, ourCategory, term));
    if (!("problem" in coerced)) return { value: coerced.value, problems: [] };
    const { written, problem } = coerced;
    return { value: undefined, problems: [{ field: rule, written, problem }] };
  });
  // The placement fills the category's field: for the listing, and for fills that ask it.
  const field = categoryFieldOf(definition);
  if (field !== undefined) scope.preset(field.slot, shownCategory(priced, definition));
  return scope;
};

/** Runs each field's fill and brings its value into the field's kind; what does not fit becomes a problem. */
export const fill = (priced: PricedProduct, setup: ChannelSetup, shared: Shared): Listing => {
  const values: MaybeBlank[] = [];
  const problems: FillProblem[] = [];
  const { product, plan, notes } = priced;
  const scope = scopeFor(priced, setup, shared);
  for (const planned of plan.fields) {
    const filled = scope.field(planned);
    if (filled.value !== undefined) values[planned.rule.field.slot] = filled.value;
    if (filled.problems.length > 0) problems.push(...filled.problems);
  }
  const category = categoryFieldOf(setup.definition);
  if (category !== undefined) values[category.slot] = shownCategory(priced, setup.definition);
  return { product, plan, notes, problems, value: (slot) => values[slot] };
};
