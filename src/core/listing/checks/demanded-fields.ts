import { textOf } from "../../catalogue/product.js";
import { LIST_SEPARATOR } from "../../catalogue/record.js";
import type { CategoryField, ConditionalNeed } from "../../channel/category-rules.js";
import type { Need } from "../../channel/field.js";
import type { Place } from "../../diagnostics/place.js";
import { shownText } from "../../values/show.js";
import type { ListingCheck } from "../check-kind.js";
import type { Fill } from "../fill-set.js";
import type { Listing } from "../listing.js";

const strength: Readonly<Record<Need, number>> = {
  optional: 0,
  recommended: 1,
  required: 2,
  "not allowed": 3,
};

/** The need of the case that this listing is in: the strongest whose condition holds; where none does, the plain one. */
const needFor = (rule: CategoryField, listing: Listing): { readonly need: Need; readonly place: Place } => {
  const holding = rule.conditionalNeeds.filter(({ when }) => when.run(listing) === true);
  const [first = rule, ...others] = holding;
  return others.reduce<Pick<ConditionalNeed, "need" | "place">>(
    (strongest, next) => (strength[next.need] > strength[strongest.need] ? next : strongest),
    first,
  );
};

/** The attributes that a blank field would be filled from. */
const readNames = ({ product }: Listing, fill: Fill | undefined): readonly string[] =>
  (fill?.program.reads ?? []).map((slot) => product.attributes.names[slot] ?? "").filter(Boolean);

/** Required and recommended fields are filled; fields that are not allowed are blank. */
export const demandedFields: ListingCheck = {
  name: "demanded-fields",
  check(listing, { files }, report) {
    const axes = textOf(listing.product, "varies_by")?.split(LIST_SEPARATOR) ?? [];
    const unreadable = new Set(listing.problems.map(({ field }) => field));
    for (const { rule, fill } of listing.plan.fields) {
      // A value that could not be taken is reported as such: the field is not also missing.
      if (unreadable.has(rule)) continue;
      const { need, place } = needFor(rule, listing);
      const { label, example, slot, defaultValue } = rule.field;
      const value = listing.value(slot);
      // What the channel fills in itself is not missing; what only variations have is not asked of others.
      const isAsked = rule.field.axes.length === 0 || rule.field.axes.some((axis) => axes.includes(axis));
      if (value === undefined && (defaultValue !== "" || !isAsked)) continue;
      const about = { field: rule, place };
      if (value === undefined) {
        if (need === "required")
          report(
            "missing-required",
            { label, example, fills: files.fills, reads: readNames(listing, fill) },
            about,
          );
        if (need === "recommended")
          report("missing-recommended", { label, example }, { ...about, severity: "advice" });
      } else if (need === "not allowed") report("not-allowed", { label, value: shownText(value) }, about);
    }
  },
};
