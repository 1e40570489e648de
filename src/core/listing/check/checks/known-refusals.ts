import type { Field } from "../../../channel/field.js";
import { groupFieldOf, hasGroupsOwn } from "../../../channel/group-model.js";
import { canonicalText } from "../../../values/show.js";
import { fold } from "../../../values/text.js";
import type { ListingCheck } from "../check-kind.js";

/** What a channel refused before is told before it is sent again. */
export const knownRefusals: ListingCheck<"lastRefusal"> = {
  name: "known-refusals",
  beyond: ["lastRefusal"],
  for({ bySlot, fields }, { refusals, lastRefusal, definition, files }) {
    const told = refusals.flatMap((one) => {
      const slot = one.contains === "" ? undefined : definition.fieldNames.find(one.field)?.slot;
      const planned = slot === undefined ? undefined : bySlot[slot];
      return planned === undefined ? [] : [{ ...one, rule: planned.rule, minded: fold(one.contains) }];
    });
    const isLeftOut = ({ code, level }: Field): boolean =>
      code === groupFieldOf(definition.groups) || (level === "group" && hasGroupsOwn(definition.groups));
    if (told.length === 0 && lastRefusal === undefined) return undefined;
    return (listing, report) => {
      for (const { rule, minded, contains, means, act } of told) {
        const value = listing.value(rule.field.slot);
        if (value === undefined || !fold(canonicalText(value)).includes(minded)) continue;
        const facts = { label: rule.field.label, contains, means, act, file: files.refusals };
        report("known-refusal", facts, { field: rule, severity: "warning" });
      }
      const before = lastRefusal?.(listing.product.sku);
      if (before === undefined) return;
      const { values, at, message } = before;
      const isSame = fields.every(({ rule }) => {
        const refused = values[rule.field.code];
        const value = listing.value(rule.field.slot);
        // What the shape of a group leaves out of a row says nothing of it; any other blank may be what was refused.
        if (refused === undefined) return value === undefined || isLeftOut(rule.field);
        return value !== undefined && canonicalText(value) === refused;
      });
      const field =
        before.field === "" ? undefined : bySlot[definition.fieldNames.find(before.field)?.slot ?? -1]?.rule;
      if (isSame)
        report(
          "refused-before",
          { at, message },
          { severity: "warning", ...(field === undefined ? {} : { field }) },
        );
    };
  },
};
