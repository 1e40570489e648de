import type { FamilyCheck } from "../check-kind.js";

/** Where members are shown one by one, a text that is the same for all says of none what sets it apart. */
export const sameDescription: FamilyCheck = {
  name: "same-description",
  check({ listings, isShownApart, definition }, reportFor) {
    const field = definition.roles.description;
    const [first] = listings;
    if (field === undefined || first === undefined || !isShownApart || listings.length < 2) return;
    const text = first.value(field.slot);
    if (typeof text !== "string" || listings.some(({ value }) => value(field.slot) !== text)) return;
    const rule = first.plan.bySlot[field.slot]?.rule;
    reportFor(0)(
      "same-description",
      { label: field.label, members: listings.length },
      { severity: "advice", ...(rule === undefined ? {} : { field: rule }) },
    );
  },
};
