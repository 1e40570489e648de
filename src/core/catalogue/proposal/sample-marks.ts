/** What cells show of the marks of their numbers and the order of their days: proof, or that there is none. */
import type { DateOrder } from "../../values/date.js";
import type { DecimalMark } from "../../values/number.js";

// Three digits behind a mark can be thousands; one, two or four and more cannot, nor do any behind a zero or behind four
// digits; and what stands twice parts thousands.
const comma = /\d,(?:\d{1,2}|\d{4,})(?!\d)|\d\.\d{3},\d|(?<![\d.])0,\d|\d{4,},\d|\d\.\d{3}\.\d{3}(?!\d)/;
const point = /\d\.(?:\d{1,2}|\d{4,})(?!\d)|\d,\d{3}\.\d|(?<![\d,])0\.\d|\d{4,}\.\d|\d,\d{3},\d{3}(?!\d)/;

/** The decimal mark that cells show; undefined when they show none, or both. */
export function detectDecimalMark(cells: readonly string[]): DecimalMark | undefined {
  const [commas, points] = [
    cells.filter((cell) => comma.test(cell)).length,
    cells.filter((cell) => point.test(cell)).length,
  ];
  if (commas === 0 && points === 0) return undefined;
  // A stray cell of the other kind is a fault of that cell, not of the file.
  if (commas > points * 9) return ",";
  return points > commas * 9 ? "." : undefined;
}

const forSure = {
  decimals: { ",": /\d,(?:\d{1,2}|\d{4,})(?!\d)/, ".": /\d\.(?:\d{1,2}|\d{4,})(?!\d)/ },
  threeDecimals: {
    ",": /(?<![\d.])0,\d{3}(?!\d)|\d{4,},\d{3}(?!\d)/,
    ".": /(?<![\d,])0\.\d{3}(?!\d)|\d{4,}\.\d{3}(?!\d)/,
  },
  thousands: { ",": /\d,\d{3}(?:\.\d|,\d{3}(?!\d))/, ".": /\d\.\d{3}(?:,\d|\.\d{3}(?!\d))/ },
} as const;
const threeBehind = {
  ",": /^\D{0,4}[+-]?[1-9]\d{0,2},\d{3}(?!\d)/,
  ".": /^\D{0,4}[+-]?[1-9]\d{0,2}\.\d{3}(?!\d)/,
} as const;

/** What says how a column's numbers are read. */
export interface ColumnMarks {
  /** The file's decimal mark; undefined where nothing tells it. */
  readonly mark: DecimalMark | undefined;
  /** Whether the source states it, rather than the file's first rows. */
  readonly isStated: boolean;
  /** Whether numbers of the format are typed, so that one with a comma is a text among them. */
  readonly areTyped: boolean;
}

/**
 * Of which marks nothing says whether three digits behind them are decimals or thousands: the column's other numbers say
 * otherwise, or there is nothing to go by.
 */
export function openMarksIn(cells: readonly string[], { mark, isStated, areTyped }: ColumnMarks): string {
  if (mark === undefined && !areTyped) return ",.";
  const decimal = mark ?? ".";
  const other = decimal === "." ? "," : ".";
  const count = (pattern: RegExp): number => cells.filter((cell) => pattern.test(cell)).length;
  const hasThree = count(forSure.threeDecimals[decimal]) > 0;
  const usual = count(forSure.decimals[decimal]);
  const three = count(threeBehind[decimal]);
  const isOddOne = !isStated && !areTyped && !hasThree && usual > 0 && three * 2 <= usual;
  const areGrouped = count(forSure.thousands[other]) > 0;
  const areUngrouped = count(/(?<!\d)\d{4,}(?!\d)/) > 0;
  const isOtherOpen = count(forSure.decimals[other]) > 0 || (!areGrouped && (areTyped || areUngrouped));
  return (isOddOne ? decimal : "") + (isOtherOpen ? other : "");
}

// Between points the day comes first, whoever writes it: they prove nothing of other marks.
const numeric = /^(\d{1,2})[/-](\d{1,2})[/-]\d{4}/;

/** The order of day and month that cells prove: a number above 12 can only be a day. */
export function detectDateOrder(cells: readonly string[]): DateOrder | undefined {
  const pairs = cells.flatMap((cell) => {
    const match = numeric.exec(cell.trim());
    return match === null ? [] : [[Number(match[1]), Number(match[2])] as const];
  });
  const [dayFirst, monthFirst] = [
    pairs.some(([first]) => first > 12),
    pairs.some(([, second]) => second > 12),
  ];
  if (dayFirst === monthFirst) return undefined;
  return dayFirst ? "dmy" : "mdy";
}
