/** Units of numbers that stand alone: by the column's name, else by what amounts are likely. */
import { decimal } from "../../values/decimal.js";
import { fold } from "../../values/text.js";
import { unitOf } from "../../values/units.js";
import { attributeKind } from "../vocabulary.js";
import type { SampleColumn } from "./sample-column.js";
import type { ProposedAttribute } from "./source-proposal.js";

/** Units of bare numbers: the one that a column's name states, else one that fits the amounts. */
export function unitsOf(
  attributes: readonly ProposedAttribute[],
  columns: readonly SampleColumn[],
): Readonly<Record<string, string>> {
  return Object.fromEntries(
    attributes.flatMap(({ attribute, columns: read, expression }) => {
      const column = columns.find((one) => one.column === read[0]);
      if (column === undefined || attributeKind(attribute).kind !== "measure") return [];
      // Where cells have units of their own, one without is no number of any unit.
      if (column.shape.withUnit > 0.5) return [];
      if (expression.startsWith("compound(") || expression.startsWith('"')) return [];
      const stated =
        column.name.unit ?? (expression.startsWith("side(") ? lengthIn(column.column) : undefined);
      return [[attribute, stated ?? usualUnit(attribute, column)]];
    }),
  );
}

/** The unit of length that a heading ends in, or has in brackets: "Box, in". */
function lengthIn(heading: string): string | undefined {
  const words = fold(heading).split(" ");
  const named = [
    /[([]\s*(\p{L}{1,3})\s*[)\]]/u.exec(heading)?.[1],
    words.length > 1 ? words.at(-1) : undefined,
  ];
  for (const word of named) {
    const unit = word === undefined ? undefined : unitOf(word);
    if (unit?.dimension === "length") return unit.code;
  }
  return undefined;
}

function usualUnit(attribute: string, { shape }: SampleColumn): string {
  const amounts = shape.samples.flatMap((text) => decimal(text.replace(",", "."))?.toNumber() ?? []);
  const middle = amounts.sort((a, b) => a - b)[amounts.length >> 1] ?? 0;
  const areWhole = amounts.length > 0 && amounts.every(Number.isInteger);
  if (attribute.includes("weight")) return areWhole && middle >= 100 ? "g" : "kg";
  if (attribute === "unit_quantity") return "pc";
  return areWhole && middle >= 300 ? "mm" : "cm";
}
