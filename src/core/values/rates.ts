/** The user's own exchange rates by day. */
import { whole, type Decimal } from "./decimal.js";
import type { CalendarDate } from "./value.js";

/** One line of the user's rate table: from this day on, one unit of `from` is worth `rate` units of `to`. */
export interface RateRow {
  readonly day: string;
  readonly from: string;
  readonly to: string;
  readonly rate: Decimal;
}

/**
 * A rate as what an amount is multiplied with, and what it is divided by then: the inverse of a rate would be cut before it
 * is multiplied, and half a penny lost.
 */
export interface Rate {
  readonly times: Decimal;
  readonly by: Decimal;
}

/** Exchange rates by day: the latest that is not after the day counts. */
export interface Rates {
  find(from: string, to: string, day: CalendarDate): Rate | undefined;
}

const one = whole(1);
const same: Rate = { times: one, by: one };

/** Makes rows ready to be asked. */
export function ratesOf(rows: readonly RateRow[]): Rates {
  const byPair = new Map<string, RateRow[]>();
  // Of two rows of one day the later in the table counts.
  for (const row of [...rows].reverse()) {
    const pair = `${row.from} ${row.to}`;
    const own = byPair.get(pair);
    if (own === undefined) byPair.set(pair, [row]);
    else own.push(row);
  }
  for (const own of byPair.values()) own.sort((a, b) => (a.day < b.day ? 1 : a.day > b.day ? -1 : 0));
  const latest = (from: string, to: string, iso: string): RateRow | undefined =>
    byPair.get(`${from} ${to}`)?.find(({ day }) => day <= iso);
  return {
    find(from, to, { iso }) {
      if (from === to) return same;
      const stated = latest(from, to, iso);
      const inverse = latest(to, from, iso);
      // The table may state a pair in one direction only; where it has both, the later day counts.
      if (stated !== undefined && (inverse === undefined || inverse.day <= stated.day))
        return { times: stated.rate, by: one };
      return inverse === undefined ? undefined : { times: one, by: inverse.rate };
    },
  };
}

/** No table: nothing converts. */
export const noRates: Rates = { find: (from, to) => (from === to ? same : undefined) };
