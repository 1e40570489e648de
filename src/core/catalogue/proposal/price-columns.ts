/**
 * Columns of prices that say little by themselves: "net", "gross", and prices from so many pieces on. Which price they are is
 * told by the amounts beside them.
 */
import { decimal } from "../../values/decimal.js";
import { fold } from "../../values/text.js";
import type { SampleColumn } from "./sample-column.js";

/** What a net price is: what the shop pays, or what it asks. */
export type NetMeaning = "cost" | "price";

const net =
  /^(?:(?:prix|preis|price|prezzo|precio|prijs|cena|tarif|tariff|tarifa|tariffa) )?(?:net|nett|netto|neto|nette|ht)(?: (?:prix|preis|price|prezzo|precio|prijs|cena))?$/;
const gross = /^(?:gross|brutto|bruto|lordo)$/;

/** Whether words are no more than that a price, or a weight, is net. */
export const isNet = (words: string): boolean => net.test(words);

/** Whether a name says "gross" and nothing else. */
export const isGross = (words: string): boolean => gross.test(words);

/** Dealers pay about half of what a buyer does: what is nearer to the recommended price is what the shop asks. */
const ASKED = 0.7;

const amounts = (cells: readonly string[]): readonly (number | undefined)[] =>
  cells.map((cell) =>
    decimal(
      cell
        .trim()
        .replace(/['’\s]/g, "")
        .replace(",", "."),
    )?.toNumber(),
  );

/** How much one price is of another, in the middle of the rows that have both; undefined where few have. */
export function ratioOf(own: SampleColumn, other: SampleColumn): number | undefined {
  const [first, second] = [amounts(own.cells), amounts(other.cells)];
  const ratios = first
    .flatMap((amount, at) => {
      const against = second[at];
      return amount === undefined || against === undefined || against === 0 ? [] : [amount / against];
    })
    .sort((a, b) => a - b);
  return ratios.length < 2 ? undefined : ratios[ratios.length >> 1];
}

/** What a net price is, beside a recommended one or a plain price, and by itself. */
export function netMeaning(
  column: SampleColumn,
  listed: SampleColumn | undefined,
  hasPrice: boolean,
): NetMeaning {
  if (hasPrice) return "cost";
  const ratio = listed === undefined ? undefined : ratioOf(column, listed);
  return ratio !== undefined && ratio >= ASKED ? "price" : "cost";
}

const from =
  /^(?:ab|from|a partir de|à partir de|dès|da|desde|a partire da|vanaf|od|from qty|qty|ab menge|min)\s?(\d{1,6})(?: (?:stück|stk|pcs|pieces|pièces|pezzi|st|szt))?$/;

/** The number of pieces from which a column's price holds; undefined where its name says none. */
export function piecesFrom(column: string): number | undefined {
  const found = from.exec(fold(column));
  return found === null ? undefined : Number(found[1]);
}
