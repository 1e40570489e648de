import { shownText } from "../../../values/show.js";
import type { ListingCheck, Report } from "../check-kind.js";
import type { PlannedField } from "../../plan.js";
import type { CategoryField } from "../../../channel/category-rules.js";
import { isAskedOf, needFor } from "../../demand.js";
import type { Fill } from "../../fill/fill-set.js";
import type { Listing } from "../../listing.js";

/** The attributes that a blank field would be filled from, and that the product lacks. */
const lackedBy = ({ product }: Listing, fill: Fill | undefined): readonly string[] =>
  (fill?.program.reads ?? [])
    .filter((slot) => product.text(slot) === undefined)
    .map((slot) => product.attributes.names[slot] ?? "")
    .filter(Boolean);

/** Cells that a blank field would be filled from, and that could not be read. */
const unreadFor = (
  { product }: Listing,
  fill: Fill | undefined,
): readonly { readonly attribute: string; readonly written: string }[] =>
  (product.hasUnread ? (fill?.program.reads ?? []) : []).flatMap((slot) => {
    const cell = product.unread(slot);
    const attribute = product.attributes.names[slot] ?? "";
    return cell === undefined || product.text(slot) !== undefined
      ? []
      : [{ attribute, written: cell.written }];
  });

/** Whether the field must be blank in some case. */
const canBeUnwanted = ({ need, conditionalNeeds }: CategoryField): boolean =>
  need === "not allowed" || conditionalNeeds.some((one) => one.need === "not allowed");

/** Required and recommended fields are filled; fields that are not allowed are blank. */
export const demandedFields: ListingCheck = {
  name: "demanded-fields",
  beyond: [],
  for({ fields }, { files, definition }) {
    const asking = fields
      .filter(({ rule }) => rule.need !== "optional" || rule.conditionalNeeds.length > 0)
      .map((planned) => ({
        planned,
        slot: planned.rule.field.slot,
        isOnlyMissed: !canBeUnwanted(planned.rule),
      }));
    const test = ({ rule, fill }: PlannedField, listing: Listing, report: Report): void => {
      const { label, example, slot, defaultValue } = rule.field;
      const value = listing.value(slot);
      // What the channel fills in itself is not missing.
      if (value === undefined && defaultValue !== "") return;
      // A value that could not be taken is reported as such: the field is not also missing.
      if (listing.problems.some(({ field }) => field === rule)) return;
      const { need, place } = needFor(rule, listing);
      // What only variations have is not asked of others.
      if (value === undefined && !isAskedOf(rule, listing, definition)) return;
      const about = { field: rule, place };
      if (value === undefined) {
        const unread = unreadFor(listing, fill);
        if (need === "required")
          report(
            "missing-required",
            {
              label,
              example,
              fills: files.fills,
              reads: lackedBy(listing, fill),
              hasFill: fill !== undefined,
              ...(unread.length > 0 ? { unread } : {}),
            },
            about,
          );
        const [first] = need === "required" ? [] : unread;
        if (first !== undefined)
          report("unread-source", { label, ...first }, { ...about, severity: "warning" });
        else if (need === "recommended")
          report("missing-recommended", { label, example }, { ...about, severity: "advice" });
      } else if (need === "not allowed") report("not-allowed", { label, value: shownText(value) }, about);
    };
    return (listing, report) => {
      // An optional field is looked at, too, where the cell that would fill it could not be read.
      if (listing.product.hasUnread) for (const planned of fields) test(planned, listing, report);
      else
        for (const { planned, slot, isOnlyMissed } of asking)
          // What is there and may be there needs no second look.
          if (!isOnlyMissed || listing.value(slot) === undefined) test(planned, listing, report);
    };
  },
};
