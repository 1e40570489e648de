import { canonicalText } from "../../values/show.js";
import type { FamilyCheck } from "./check-kind.js";
import type { ChannelSetup } from "../channel-setup.js";

/** Whether a channel knows our listings by their SKUs themselves, which are as unique as ids have to be. */
export function idsAreSkus({ definition: { identifiedBy }, fills, attributes }: ChannelSetup): boolean {
  return fills
    .flatMap((block) => block.fills)
    .filter(({ field }) => field.code === identifiedBy)
    .every(({ program }) => program.isJust !== undefined && program.isJust === attributes.slot("sku"));
}

/**
 * No two listings of a channel have the same id there: the second would overwrite the first. Ids that are the SKUs
 * themselves are as unique as these.
 */
export function repeatedIds(setup: ChannelSetup): FamilyCheck {
  const { identifiedBy } = setup.definition;
  const isSku = idsAreSkus(setup);
  return {
    name: "repeated-ids",
    check({ listings }, reportFor) {
      if (isSku) return;
      listings.forEach((listing, index) => {
        const rule = listing.plan.fields.find((planned) => planned.rule.field.code === identifiedBy)?.rule;
        const value = rule === undefined ? undefined : listing.value(rule.field.slot);
        if (rule === undefined || value === undefined) return;
        const text = canonicalText(value);
        const { sku } = listing.product;
        const other = setup.ids.first(text, sku);
        if (other !== sku)
          reportFor(index)("repeated-id", { label: rule.field.label, value: text, other }, { field: rule });
      });
    },
  };
}
