import { shownText } from "../../../values/show.js";
import type { ListingCheck } from "../check-kind.js";
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
  (fill?.program.reads ?? []).flatMap((slot) => {
    const cell = product.unread?.(slot);
    const attribute = product.attributes.names[slot] ?? "";
    return cell === undefined || product.text(slot) !== undefined
      ? []
      : [{ attribute, written: cell.written }];
  });

/** Required and recommended fields are filled; fields that are not allowed are blank. */
export const demandedFields: ListingCheck = {
  name: "demanded-fields",
  check(listing, { files, definition }, report) {
    const unreadable = new Set(listing.problems.map(({ field }) => field));
    for (const { rule, fill } of listing.plan.fields) {
      // A value that could not be taken is reported as such: the field is not also missing.
      if (unreadable.has(rule)) continue;
      const { need, place } = needFor(rule, listing);
      const { label, example, slot, defaultValue } = rule.field;
      const value = listing.value(slot);
      // What the channel fills in itself is not missing; what only variations have is not asked of others.
      if (value === undefined && (defaultValue !== "" || !isAskedOf(rule, listing, definition))) continue;
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
    }
  },
};
