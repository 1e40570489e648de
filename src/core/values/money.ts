import { currencyPlaces } from "./currencies.js";
import type { Decimal } from "./decimal.js";
import type { Money } from "./value.js";

/** An amount of a currency. */
export const money = (amount: Decimal, currency: string): Money => ({ kind: "money", amount, currency });

/** An amount rounded to what can be paid in its currency (ISO 4217): pence, whole yen. */
export const payable = ({ amount, currency }: Money): Money =>
  money(amount.toDecimalPlaces(currencyPlaces(currency)), currency);
