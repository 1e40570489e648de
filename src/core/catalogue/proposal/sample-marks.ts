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

const numeric = /^(\d{1,2})[/.-](\d{1,2})[/.-]\d{4}/;

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
