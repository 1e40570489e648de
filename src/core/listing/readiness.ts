import { axesOf, isAskedOf, needFor } from "./demand.js";
import type { Listing } from "./listing.js";

/** How much of what a channel demands or recommends a listing has, in whole percent. */
export const readinessOf = (listing: Listing): number => {
  const axes = axesOf(listing);
  let [asked, filled] = [0, 0];
  for (const { rule } of listing.plan.fields) {
    const { need } = needFor(rule, listing);
    if ((need !== "required" && need !== "recommended") || !isAskedOf(rule, axes)) continue;
    asked++;
    if (listing.value(rule.field.slot) !== undefined || rule.field.defaultValue !== "") filled++;
  }
  return asked === 0 ? 100 : Math.floor((filled * 100) / asked);
};
