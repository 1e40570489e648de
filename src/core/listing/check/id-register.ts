import { skuList } from "../../catalogue/beside/sku-list.js";
import { textRegister } from "../../catalogue/beside/text-register.js";
import { canonicalText } from "../../values/show.js";
import type { FamilyCheck } from "./check-kind.js";
import type { ChannelSetup } from "../channel-setup.js";

/** Whether a channel knows our listings by their SKUs themselves. */
export const idsAreSkus = ({ definition: { identifiedBy }, fills, attributes }: ChannelSetup): boolean =>
  fills
    .flatMap((block) => block.fills)
    .filter(({ field }) => field.code === identifiedBy)
    .every(({ program }) => program.isJust !== undefined && program.isJust === attributes.slot("sku"));

/**
 * No two listings of a channel have the same id there: the second would overwrite the first. Ids that are the SKUs
 * themselves are as unique as these; others are remembered in flat memory, from listing to listing of one run.
 */
export const idRegister = (setup: ChannelSetup): FamilyCheck => {
  const { identifiedBy } = setup.definition;
  const isSku = idsAreSkus(setup);
  const ids = textRegister();
  const skus = skuList();
  return {
    name: "id-register",
    check({ listings }, reportFor) {
      if (isSku) return;
      listings.forEach((listing, index) => {
        const rule = listing.plan.fields.find((planned) => planned.rule.field.code === identifiedBy)?.rule;
        const value = rule === undefined ? undefined : listing.value(rule.field.slot);
        if (rule === undefined || value === undefined) return;
        const text = canonicalText(value);
        const { first, count } = ids.add(text, skus.add(listing.product.sku));
        if (count > 1)
          reportFor(index)(
            "repeated-id",
            { label: rule.field.label, value: text, other: skus.at(first) },
            { field: rule },
          );
      });
    },
  };
};
