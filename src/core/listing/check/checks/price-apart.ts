import { shownText } from "../../../values/show.js";
import { isMoney, type Money } from "../../../values/value.js";
import type { FamilyCheck } from "../check-kind.js";

/** Sizes of one thing differ in price, but hardly by more than this. */
const MOST_TIMES = 8;

/** Whether a ratio is nowhere near the bound: most are, and need no exact division. */
const isNear = (ratio: number): boolean => ratio < MOST_TIMES - 1 && ratio > 1 / (MOST_TIMES - 1);

/** A member's price is not far from those of its group: a point in the wrong place makes it ten or a hundred times. */
export const priceApart: FamilyCheck = {
  name: "price-apart",
  check({ listings, definition }, reportFor) {
    const field = definition.roles.price;
    if (field === undefined || listings.length < 3) return;
    const prices = listings.map(({ value }) => value(field.slot));
    const sorted = prices.filter(isMoney).sort((a, b) => a.amount.comparedTo(b.amount));
    const middle: Money | undefined = sorted[sorted.length >> 1];
    if (middle === undefined || sorted.length < 3 || !middle.amount.gt(0)) return;
    listings.forEach(({ plan }, index) => {
      const own = prices[index];
      if (!isMoney(own) || own.currency !== middle.currency || !own.amount.gt(0)) return;
      if (isNear(own.amount.toNumber() / middle.amount.toNumber())) return;
      const ratio = own.amount.div(middle.amount);
      const times = (ratio.lt(1) ? middle.amount.div(own.amount) : ratio).toDecimalPlaces(1).toNumber();
      const rule = plan.bySlot[field.slot]?.rule;
      if (times >= MOST_TIMES)
        reportFor(index)(
          "price-apart",
          {
            price: shownText(own),
            isBelow: ratio.lt(1),
            middle: shownText(middle),
            times,
            members: listings.length,
          },
          { severity: "warning", ...(rule === undefined ? {} : { field: rule }) },
        );
    });
  },
};
