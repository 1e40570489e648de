import type { FamilyCheck } from "../check-kind.js";

/** The members of a group stand in one category of the channel: elsewhere they come apart, or the channel refuses some. */
export const tornGroup: FamilyCheck = {
  name: "torn-group",
  check({ listings, isShownApart }, reportFor) {
    const [first] = listings;
    if (first === undefined) return;
    const { category } = first.plan.rules;
    listings.forEach(({ plan }, index) => {
      if (plan.rules.category === category) return;
      reportFor(index)(
        "torn-group",
        { category: plan.rules.category.path, other: first.product.sku, otherCategory: category.path },
        { severity: isShownApart ? "advice" : "warning" },
      );
    });
  },
};
