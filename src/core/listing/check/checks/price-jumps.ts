/** Prices that leave those that were sent last further behind than the channel's file allows, each in its own currency. */
import type { PlannedCategory, PlannedField } from "../../plan.js";
import type { ChannelSetup } from "../../channel-setup.js";
import { withoutMark } from "../../../catalogue/vocabulary.js";
import { calculate } from "../../../language/operations.js";
import { money } from "../../../values/money.js";
import { readValue } from "../../../values/read.js";
import { shownText } from "../../../values/show.js";
import { isDecimal } from "../../../values/decimal.js";
import { isMoney, type Money } from "../../../values/value.js";
import type { ListingCheck } from "../check-kind.js";

const prices: ReadonlySet<string> = new Set(["price", "sale_price"]);

function percentApart(before: Money, after: Money): number {
  const apart = calculate(
    "/",
    money(after.amount.minus(before.amount).abs().times(100), after.currency),
    before,
  );
  return isDecimal(apart) ? apart.toNumber() : 0;
}

function moneyIn(text: string | undefined): Money | undefined {
  const reading = readValue("money", text ?? "");
  return "value" in reading && isMoney(reading.value) ? reading.value : undefined;
}

/** The fields that show a buyer what the product costs: the channel's own price, and all that are made of our prices. */
function shown(
  { fillable }: PlannedCategory,
  { definition, attributes }: Pick<ChannelSetup, "definition" | "attributes">,
): readonly PlannedField[] {
  const isPrice = (slot: number): boolean => prices.has(withoutMark(attributes.names[slot] ?? ""));
  return fillable.filter(
    ({ rule: { field }, fill }) =>
      field.kind === "money" &&
      (field === definition.roles.price || fill?.program.reads.some(isPrice) === true),
  );
}

/** Holds a listing whose price left the one sent last by more than a person allows. */
export const priceJumps: ListingCheck<"lastPrices"> = {
  name: "price-jumps",
  beyond: ["lastPrices"],
  for(plan, setup) {
    const limit = setup.prices?.greatestChange;
    const { lastPrices, files } = setup;
    if (limit === undefined || lastPrices === undefined) return undefined;
    const fields = shown(plan, setup);
    if (fields.length === 0) return undefined;
    return (listing, report) => {
      const sent = lastPrices(listing.product.sku);
      if (sent === undefined) return;
      for (const { rule } of fields) {
        const [before, after] = [moneyIn(sent[rule.field.code]), listing.value(rule.field.slot)];
        if (before === undefined || !isMoney(after) || before.currency !== after.currency) continue;
        const percent = percentApart(before, after);
        if (percent > limit)
          report(
            "price-jump",
            {
              label: rule.field.label,
              before: shownText(before),
              after: shownText(after),
              percent: Math.round(percent),
              limit,
              file: files.policy,
            },
            { field: rule },
          );
      }
    };
  },
};
