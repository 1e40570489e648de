/** Numbers of JSON as they are written: a barcode is no binary number. */
import { Tokenizer } from "@streamparser/json";

/** A number of a JSON file as it is written there: a barcode or an id of twenty digits is no binary float. */
export class WrittenNumber {
  constructor(readonly written: string) {}
}

/** Cuts JSON into tokens whose numbers are {@link WrittenNumber}s. */
export class ExactTokenizer extends Tokenizer {
  constructor() {
    super({ numberBufferSize: 64 });
  }

  // The parser behind it hands values on as they are.
  protected override parseNumber(written: string): number {
    return new WrittenNumber(written) as unknown as number;
  }
}

const parts = /^(-?)(\d+)(?:\.(\d+))?(?:[eE]([+-]?\d+))?$/;

// More digits than any number of the trade has: an exponent beyond it stays as written, and reads as no number.
const MOST_DIGITS = 60;

/** The digits of a number without exponent and without zeros that say nothing: `1.50` is 1.5, `1e3` is 1000. */
export function digitsOf({ written }: WrittenNumber): string {
  const found = parts.exec(written);
  const [, sign = "", whole = "", fraction = "", exponent = "0"] = found ?? [];
  const shift = Number(exponent);
  if (found === null || Math.abs(shift) > MOST_DIGITS || written.length > MOST_DIGITS * 2) return written;
  const digits = whole + fraction;
  const point = whole.length + shift;
  const left =
    point <= 0
      ? "0"
      : digits
          .slice(0, point)
          .padEnd(point, "0")
          .replace(/^0+(?=\d)/, "");
  const right = (point < 0 ? "0".repeat(-point) + digits : digits.slice(point)).replace(/0+$/, "");
  const text = right === "" ? left : `${left}.${right}`;
  return text === "0" ? "0" : sign + text;
}
