import { Decimal } from "decimal.js";

// 40 digits carry any price, weight or rate of the trade through a division without a visible rounding.
const Exact = Decimal.clone({ precision: 40, rounding: Decimal.ROUND_HALF_UP, toExpNeg: -30, toExpPos: 30 });

export type { Decimal };

/** A canonical text has so many places at most; what a division leaves behind them is rounded when it is written. */
export const MOST_PLACES = 20;
const plainNumber = /^[+-]?\d{1,30}(\.\d{1,20})?$/;

/** An exact decimal from canonical text (`-12.50`); undefined when the text is anything else. */
export const decimal = (text: string): Decimal | undefined =>
  plainNumber.test(text) ? new Exact(text) : undefined;

/** An exact decimal from a whole number of ours. */
export const whole = (count: number): Decimal => new Exact(count);

/** Whether a value is an exact decimal. */
export const isDecimal = (value: unknown): value is Decimal => value instanceof Exact;

/** The shortest exact text, without exponent, up to {@link MOST_PLACES} places: `12.5`. */
export const decimalText = (value: Decimal): string =>
  value.decimalPlaces() > MOST_PLACES ? value.toDecimalPlaces(MOST_PLACES).toFixed() : value.toFixed();

/** Text with a fixed count of places, rounded half up: `12.50`. */
export const fixedText = (value: Decimal, places: number): string => value.toFixed(places);

/** How many decimal places the value needs, up to {@link MOST_PLACES}. */
export const decimalPlaces = (value: Decimal): number => Math.min(value.decimalPlaces(), MOST_PLACES);
