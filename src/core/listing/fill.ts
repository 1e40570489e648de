import { textOf } from "../catalogue/product.js";
import { fieldNamed } from "../channel/definition.js";
import type { MaybeBlank } from "../values/value.js";
import type { ChannelSetup } from "./channel-setup.js";
import { coerce } from "./coerce.js";
import type { FillProblem, Listing, PlacedProduct } from "./listing.js";
import type { PlannedField } from "./plan.js";

/** Runs each field's fill and brings its value into the field's kind; what does not fit becomes a problem. */
export const fill = (placed: PlacedProduct, setup: ChannelSetup): Listing => {
  const values: MaybeBlank[] = [];
  const problems: FillProblem[] = [];
  const { product, plan } = placed;
  const { categoryField } = setup.definition;
  const ourCategory = textOf(product, "category");
  for (const { rule, fill: filling } of plan.fields) {
    const given = filling?.program.run(product);
    if (given === undefined || given === "") continue;
    const coerced = coerce(given, rule, (term) => translate(setup, rule, ourCategory, term));
    if ("problem" in coerced)
      problems.push({ field: rule, written: coerced.written, problem: coerced.problem });
    else values[rule.field.slot] = coerced.value;
  }
  if (categoryField !== undefined) {
    const field = fieldNamed(setup.definition, categoryField);
    if (field !== undefined) values[field.slot] = plan.rules.category.path;
  }
  return { product, plan, problems, value: (slot) => values[slot] };
};

/** Our term in the channel's words: the lexicon first, then the definition's own values, labels and synonyms. */
const translate = (
  { lexicon }: ChannelSetup,
  { field, limits }: PlannedField["rule"],
  ourCategory: string | undefined,
  term: string,
): string | undefined => {
  const ours = lexicon.find(field.code, ourCategory, term);
  if (limits.values === undefined) return ours ?? term;
  return limits.values.match(ours ?? term);
};
