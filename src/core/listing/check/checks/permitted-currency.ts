import { shownText } from "../../../values/show.js";
import { isMoney } from "../../../values/value.js";
import type { FieldCheck } from "../check-kind.js";

/** Prices are in a currency that the channel takes. */
export const permittedCurrency: FieldCheck = {
  name: "permitted-currency",
  for(rule, { definition: { currencies } }) {
    if (rule.field.kind !== "money") return undefined;
    return (value, report) => {
      if (isMoney(value) && !currencies.includes(value.currency))
        report(
          "wrong-currency",
          {
            label: rule.field.label,
            value: shownText(value),
            currency: value.currency,
            permitted: currencies,
          },
          { field: rule },
        );
    };
  },
};
