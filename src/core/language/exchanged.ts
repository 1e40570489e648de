import { money, payable } from "../values/money.js";
import type { Rates } from "../values/rates.js";
import type { CalendarDate, Money } from "../values/value.js";
import { cannot, type Cannot } from "./trouble.js";

/** A price in another currency by the user's rate of the day, rounded to what can be paid in it (ISO 4217). */
export function exchanged(price: Money, to: string, rates: Rates, day: CalendarDate): Money | Cannot {
  if (price.currency === to) return price;
  const rate = rates.find(price.currency, to, day);
  if (rate === undefined) return cannot({ trouble: "no-rate", from: price.currency, to, day: day.iso });
  return payable(money(price.amount.times(rate.times).div(rate.by), to));
}
