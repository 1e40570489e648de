import { axesIn, VARIES_BY } from "../../../catalogue/axes.js";
import { groupFieldOf } from "../../../channel/group-model.js";
import { isAnotherProduct } from "../../../catalogue/another-product.js";
import { textOf } from "../../../catalogue/product.js";
import type { ChannelDefinition } from "../../../channel/definition.js";
import type { ListingCheck } from "../check-kind.js";
import type { Listing } from "../../listing.js";

/** The fields that the live listing has and that a full file would say nothing of. */
const losses = (
  listing: Listing,
  live: Readonly<Record<string, string>>,
  { groups }: Pick<ChannelDefinition, "groups">,
) =>
  listing.plan.fields.flatMap(({ rule }) => {
    const before = live[rule.field.code];
    // The reference to a group is the layout's to make: the leader's, the group row's, or none.
    if (groupFieldOf(groups) === rule.field.code) return [];
    return before !== undefined && listing.value(rule.field.slot) === undefined ? [{ rule, before }] : [];
  });

/** What a build would do to the listing that the channel has already. */
export const againstLedger: ListingCheck<"live"> = {
  name: "against-ledger",
  beyond: ["live"],
  for(_, { live, definition }) {
    if (live === undefined) return undefined;
    const erases = definition.purposeRules.some(
      ({ purpose, blank }) => purpose === "full" && blank === "erase",
    );
    return (listing, report) => {
      const before = live(listing.product.sku);
      if (before === undefined) return;
      const { product, plan } = listing;
      const [name, gtin] = [textOf(product, "name"), textOf(product, "gtin")];
      if (isAnotherProduct(before, { name, gtin }))
        report("sku-became-another", { was: before.name ?? "", now: name ?? "" });
      const { category } = plan.rules;
      if (before.category !== "" && before.category !== category.code)
        report(
          "category-moved",
          {
            before: definition.tree.find(before.category)?.path ?? before.category,
            after: category.path,
          },
          { severity: "warning" },
        );
      const [group, wasIn] = [product.group ?? "", before.group ?? ""];
      if (before.category !== "" && group !== wasIn)
        report("group-moved", { before: wasIn, after: group }, { severity: "warning" });
      const axes = textOf(product, VARIES_BY) ?? "";
      if (before.group !== undefined && before.group === product.group && before.axes !== axes)
        report("axes-changed", { before: axesIn(before.axes), after: axesIn(axes) }, { severity: "warning" });
      if (!erases || before.category !== category.code) return;
      for (const { rule, before: value } of losses(listing, before.values, definition))
        report("would-erase", { label: rule.field.label, value }, { field: rule, severity: "warning" });
    };
  },
};
