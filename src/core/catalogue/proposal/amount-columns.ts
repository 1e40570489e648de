/** Columns that tell amounts together: a price and its currency, net and gross, by number of pieces, before and after a reduction. */
import { fold } from "../../values/text.js";
import { attributeKind, WAS_PRICE } from "../vocabulary.js";
import { ownAttribute } from "../own-attribute.js";
import { columnExpression } from "./expressions.js";
import { isGross, isNet, netMeaning, piecesFrom } from "./price-columns.js";
import type { SampleColumn } from "./sample-column.js";
import {
  type Combine,
  best,
  combination,
  proposed,
  type Combination,
  areParts,
  nearestTo,
} from "./combination.js";

/** A price beside the price before its reduction: shops keep the two either way round, and fill the second always or rarely. */
export const prices: Combine = (columns) => {
  const price = best(columns, "price");
  const was = best(columns, WAS_PRICE);
  if (price === undefined || was === undefined) return [];
  const [now, before] = [columnExpression(price.column), columnExpression(was.column)];
  return [
    combination(
      [
        proposed("price", `regular_price(${now}, ${before})`, [price, was], 0.84),
        proposed("sale_price", `reduced_price(${now}, ${before})`, [price, was], 0.84),
      ],
      [price, was],
    ),
  ];
};

const first = /^(?:from|start|starts|von|ab|du|desde|van|vanaf|od|valid from|gültig von)$/;

const last = /^(?:to|until|till|end|ends|bis|au|hasta|tot|do|valid until|valid to|gültig bis)$/;

/** Days beside a reduced price: from when, and until when it holds. */
export const offerDays: Combine = (columns) => {
  if (columns.every(({ name }) => name.attribute !== "sale_price" && name.attribute !== WAS_PRICE)) return [];
  return columns.flatMap((column): readonly Combination[] => {
    const words = fold(column.column);
    const attribute = first.test(words) ? "sale_from" : last.test(words) ? "sale_until" : undefined;
    if (attribute === undefined || column.shape.date < 0.8) return [];
    return [combination([proposed(attribute, columnExpression(column.column), [column], 0.9)], [column])];
  });
};

/** A currency code in a column of its own, beside prices without one. */
export const currencies: Combine = (columns) => {
  const found = columns.filter(
    ({ shape, name }) =>
      shape.currencyCode > 0.9 &&
      shape.filled > 0 &&
      (name.attribute === undefined || attributeKind(name.attribute).kind === "money"),
  );
  const [currency] = found;
  if (currency === undefined) return [];
  const priced = columns.filter(
    ({ name, shape, column }) =>
      found.every((one) => one.column !== column) &&
      ["price", "list_price", "sale_price", "cost"].includes(name.attribute ?? "") &&
      (name.certainty >= 0.8 || found.some((one) => areParts(one.column, column))) &&
      shape.moneySign < 0.5 &&
      name.currency === undefined,
  );
  if (priced.length === 0) return [];
  const attributes = priced.map((price) =>
    proposed(
      price.name.attribute ?? "",
      `"{${columnExpression(price.column)}} {${columnExpression((nearestTo(price, found) ?? currency).column)}}"`,
      [price, nearestTo(price, found) ?? currency],
      0.9,
    ),
  );
  return [{ ...combination(attributes, [...priced, ...found]), currency }];
};

/** Net and gross prices, which the prices beside them tell from weights, and what is paid from what is asked. */
export const nets: Combine = (columns) => {
  const isPriced = ({ shape, name }: SampleColumn): boolean =>
    shape.filled > 0 &&
    name.unit === undefined &&
    Math.max(shape.money, shape.number * 0.9) >= 0.6 &&
    shape.moneySign < 0.5;
  const bare = columns.filter(
    (column) => isPriced(column) && (isNet(lastWords(column)) || isGross(lastWords(column))),
  );
  const ofCurrency = ({ name }: SampleColumn, attribute: string): readonly SampleColumn[] =>
    columns.filter(
      (one) => !bare.includes(one) && one.name.attribute === attribute && one.name.currency === name.currency,
    );
  const isWeighed = columns.some(
    ({ name, column }) => !bare.some((one) => one.column === column) && name.attribute === "package_weight",
  );
  return bare.flatMap((column): readonly Combination[] => {
    const [listed] = ofCurrency(column, "list_price");
    const others = bare.filter((one) => one !== column && one.name.currency === column.name.currency);
    const isOfMoney = listed !== undefined || column.name.currency !== undefined || column.shape.money >= 0.9;
    if (!isOfMoney || (isWeighed && listed === undefined)) return [];
    const hasPrice = ofCurrency(column, "price").length > 0 || others.some((one) => isGross(lastWords(one)));
    const base = isGross(lastWords(column)) ? "price" : netMeaning(column, listed, hasPrice);
    const { currency } = column.name;
    const attribute = currency === undefined ? base : `${base}@${currency}`;
    const sureness = listed === undefined ? 0.7 : 0.84;
    return [
      combination([proposed(attribute, columnExpression(column.column), [column], sureness)], [column]),
    ];
  });
};

const lastWords = ({ label }: SampleColumn): string =>
  fold((label.split(" / ").at(-1) ?? label).split("/")[0] ?? "");

/** Prices from so many pieces on: that of the fewest is the plain one, the others are the shop's own. */
export const tiers: Combine = (columns) => {
  const found = columns
    .flatMap((column) => {
      const pieces = piecesFrom(column.label.split(" / ").at(-1) ?? "");
      return pieces === undefined ? [] : [{ column, pieces }];
    })
    .sort((a, b) => a.pieces - b.pieces);
  const [least] = found;
  if (least === undefined || found.length < 2 || least.pieces > 1) return [];
  const listed = columns.find(({ name }) => name.attribute === "list_price");
  const hasPrice = columns.some(({ name }) => name.attribute === "price" && name.certainty >= 0.9);
  const attribute = netMeaning(least.column, listed, hasPrice);
  const own = found.slice(1).map(({ column }) => ({
    ...proposed(ownAttribute(column.column), columnExpression(column.column), [column], 0),
    known: false,
    ownKind: "money" as const,
  }));
  return [
    combination(
      [proposed(attribute, columnExpression(least.column.column), [least.column], 0.75), ...own],
      found.map(({ column }) => column),
    ),
  ];
};
