import { decimal, type Decimal } from "./decimal.js";

/** What parts a number's decimals. */
export type DecimalMark = "." | ",";

const grouped = {
  ".": /^[+-]?\d{1,3}(?:[,'\u202f ]\d{3})+(?:\.\d+)?$/,
  ",": /^[+-]?\d{1,3}(?:[.'\u202f ]\d{3})+(?:,\d+)?$/,
} as const;
const plain = { ".": /^[+-]?(?:\d+\.?\d*|\.\d+)$/, ",": /^[+-]?(?:\d+,?\d*|,\d+)$/ } as const;

/**
 * A number as people write it, under a stated decimal mark; groups of three may be set apart.
 * `12,50` under the mark `.` is refused, not guessed at.
 */
export function readNumber(text: string, mark: DecimalMark = "."): Decimal | undefined {
  const direct = decimal(text);
  if (direct !== undefined && (mark === "." || !text.includes("."))) return direct;
  if (!plain[mark].test(text) && !grouped[mark].test(text)) return undefined;
  const digits =
    mark === "." ? text.replace(/[,'\u202f ]/g, "") : text.replace(/[.'\u202f ]/g, "").replace(",", ".");
  return decimal(digits.replace(/^([+-]?)\./, "$10.").replace(/\.$/, ""));
}
