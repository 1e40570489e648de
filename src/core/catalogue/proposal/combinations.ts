import { fold } from "../../values/text.js";

import { WAS_PRICE } from "../vocabulary.js";
import { columnExpression, listExpression, textExpression } from "./expressions.js";
import type { SampleColumn } from "./sample-column.js";
import type { ProposedAttribute, ProposedPair } from "./source-proposal.js";

/** What several columns, or one column with several values in it, say together; the columns are used up by it. */
export interface Combination {
  readonly attributes: readonly ProposedAttribute[];
  readonly pairs: readonly ProposedPair[];
  readonly used: readonly SampleColumn[];
}

type Combine = (columns: readonly SampleColumn[]) => readonly Combination[];

const proposed = (
  attribute: string,
  expression: string,
  columns: readonly SampleColumn[],
  confidence: number,
): ProposedAttribute => ({
  attribute,
  expression,
  columns: columns.map(({ column }) => column),
  confidence,
  samples: columns[0]?.shape.samples ?? [],
  known: true,
});

const combination = (
  attributes: readonly ProposedAttribute[],
  used: readonly SampleColumn[],
): Combination => ({
  attributes,
  pairs: [],
  used,
});

const ofParcel = /\b(?:package|pack|packed|parcel|shipping|carton|box|delivery|gross|paket|versand|colis)\b/;

/** `30 x 20 x 12 cm`: length, width and height. */
const sizes: Combine = (columns) =>
  columns
    .filter(({ shape }) => shape.triple > 0.6)
    .slice(0, 2)
    .map((column) => {
      const prefix = ofParcel.test(fold(column.column)) ? "package_" : "";
      const sides = ["depth", "width", "height"].map((attribute, index) =>
        proposed(
          `${prefix}${attribute}`,
          `side(${columnExpression(column.column)}, ${index + 1})`,
          [column],
          0.75,
        ),
      );
      return combination(sides, [column]);
    });

/** Pounds in one column and ounces in the next, feet and inches. */
const compounds: Combine = (columns) =>
  [
    ["lb", "oz"],
    ["ft", "in"],
  ].flatMap(([larger = "", smaller = ""]) =>
    columns.flatMap((big): readonly Combination[] => {
      const { attribute } = big.name;
      if (big.name.unit !== larger || attribute === undefined) return [];
      const small = columns.find(({ name }) => name.unit === smaller && name.attribute === attribute);
      if (small === undefined) return [];
      const expression = `compound(${columnExpression(big.column)}, "${larger}", ${columnExpression(small.column)}, "${smaller}")`;
      return [combination([proposed(attribute, expression, [big, small], 0.95)], [big, small])];
    }),
  );

/** One column a level of the category path. */
const levels: Combine = (columns) => {
  const found = columns
    .filter(
      ({ name, shape }) =>
        ((name.attribute === "category" && name.number !== undefined) ||
          levelName.test(fold(name.words + (name.number === undefined ? "" : ` ${name.number}`)))) &&
        shape.url < 0.5,
    )
    .sort((a, b) => (a.name.number ?? 0) - (b.name.number ?? 0));
  const [first] = found;
  if (first === undefined || found.length < 2) return [];
  const top = columns.find(
    ({ name }) => name.attribute === "category" && name.number === undefined && name.certainty >= 0.9,
  );
  const isBelow = /^sub|\bsub\b/.test(first.name.words) || (first.name.number ?? 1) > 1;
  const all = top === undefined || found.includes(top) || !isBelow ? found : [top, ...found];
  const expression = `path(${listExpression(all.map(({ column }) => column))})`;
  return [combination([proposed("category", expression, all, 0.9)], all)];
};
const levelName =
  /^(?:level|category level|sub ?category|subsection|sub section|kategorie ?ebene|ebene|warengruppe|niveau|main group|sub group)(?: \d)?$/;

/** A path whose levels are set apart by another mark than ours. */
const marked: Combine = (columns) =>
  columns
    .filter(
      ({ name, shape }) =>
        name.attribute === "category" && shape.pathMark !== undefined && !shape.pathMark.includes(">"),
    )
    .slice(0, 1)
    .map((column) => {
      const mark = textExpression((column.shape.pathMark ?? "").trim());
      return combination(
        [proposed("category", `path(${columnExpression(column.column)}, ${mark})`, [column], 0.9)],
        [column],
      );
    });

/** A price beside the price before its reduction: shops keep the two either way round, and fill the second always or rarely. */
const prices: Combine = (columns) => {
  const price = best(columns, "price");
  const was = best(columns, WAS_PRICE);
  if (price === undefined || was === undefined) return [];
  const [now, before] = [columnExpression(price.column), columnExpression(was.column)];
  return [
    combination(
      [
        proposed("price", `regular_price(${now}, ${before})`, [price, was], 0.85),
        proposed("sale_price", `reduced_price(${now}, ${before})`, [price, was], 0.85),
      ],
      [price, was],
    ),
  ];
};

const best = (columns: readonly SampleColumn[], attribute: string): SampleColumn | undefined =>
  columns
    .filter(({ name }) => name.attribute === attribute && name.currency === undefined)
    .sort((a, b) => b.name.certainty - a.name.certainty)[0];

const unitWords = /^(.*?) ?\b(?:unit|uom|unit of measure|einheit|unité)$/;

/** A unit in a column of its own. */
const units: Combine = (columns) =>
  columns.flatMap((unit): readonly Combination[] => {
    const about = unitWords.exec(fold(unit.column))?.[1];
    if (about === undefined || unit.shape.unitName < 0.8) return [];
    const value = columns.find(
      ({ column, name }) =>
        column !== unit.column &&
        (fold(column) === about || fold(column) === `${about} value` || name.words === about),
    );
    const attribute = value?.name.attribute;
    if (value === undefined || attribute === undefined) return [];
    const expression = `"{${columnExpression(value.column)}} {${columnExpression(unit.column)}}"`;
    return [combination([proposed(attribute, expression, [value, unit], 0.9)], [value, unit])];
  });

/** A currency code in a column of its own, beside prices without one. */
const currencies: Combine = (columns) => {
  const currency = columns.find(
    ({ shape, name }) =>
      shape.currencyCode > 0.9 &&
      shape.filled > 0 &&
      (name.attribute === undefined || name.attribute === "price"),
  );
  if (currency === undefined) return [];
  const priced = columns.filter(
    ({ name, shape, column }) =>
      column !== currency.column &&
      ["price", "list_price", "sale_price", "cost"].includes(name.attribute ?? "") &&
      name.certainty >= 0.8 &&
      shape.moneySign < 0.5 &&
      name.currency === undefined,
  );
  if (priced.length === 0) return [];
  const attributes = priced.map((price) =>
    proposed(
      price.name.attribute ?? "",
      `"{${columnExpression(price.column)}} {${columnExpression(currency.column)}}"`,
      [price, currency],
      0.9,
    ),
  );
  return [combination(attributes, [...priced, currency])];
};

const nameEnd = /^(.*?) ?\b(?:name|title|label|is called)$/;
const valueEnd = /^(.*?) ?\b(?:value|values|is|setting|choice)$/;
const about =
  /\b(?:option|attribute|property|variation|variant|feature|axis|differs|specification|spec|merkmal|eigenschaft|attribut)\b/;

/** Columns in twos: one names an attribute, the other holds its value. */
const namedPairs: Combine = (columns) => {
  const found = columns.flatMap((column): readonly Combination[] => {
    const words = fold(column.column);
    if (!about.test(words)) return [];
    const stem = nameEnd.exec(words.replace(/ (\d+)$/, ""))?.[1];
    const number = / (\d+)$/.exec(words)?.[1];
    const isNumbered = /\d/.test(words);
    const partner = columns.find((other) => {
      const others = fold(other.column);
      if (other.column === column.column || / (\d+)$/.exec(others)?.[1] !== number) return false;
      const stemOf = valueEnd.exec(others.replace(/ (\d+)$/, ""))?.[1];
      return (
        stemOf !== undefined &&
        (stemOf === stem || (stem === undefined && isNumbered && stemOf === words.replace(/ (\d+)$/, "")))
      );
    });
    if (partner === undefined) return [];
    return [
      { attributes: [], pairs: [{ name: column.column, value: partner.column }], used: [column, partner] },
    ];
  });
  return found;
};

/** Every way in which columns speak together; each sees what the ones before it left. */
export const combinations = (columns: readonly SampleColumn[]): readonly Combination[] => {
  const found: Combination[] = [];
  let left = columns;
  for (const combine of [namedPairs, compounds, sizes, levels, marked, units, currencies, prices])
    for (const one of combine(left)) {
      if (one.used.some((column) => !left.includes(column))) continue;
      found.push(one);
      left = left.filter((column) => !one.used.includes(column));
    }
  return found;
};
