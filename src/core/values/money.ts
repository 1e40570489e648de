import type { Decimal } from "./decimal.js";
import type { Money } from "./value.js";

export const money = (amount: Decimal, currency: string): Money => ({ kind: "money", amount, currency });
