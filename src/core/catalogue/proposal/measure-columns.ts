/** Columns that tell one measure or size together: a number and its unit, three sides, pounds and ounces. */
import { ownOf } from "../../own.js";
import { fold } from "../../values/text.js";
import { unitOf } from "../../values/units.js";
import { attributeKind } from "../vocabulary.js";
import { columnName } from "./column-name.js";
import { columnExpression } from "./expressions.js";
import { type Combine, proposed, combination, type Combination, meansOf, nearestTo } from "./combination.js";

const ofParcel = /\b(?:package|pack|packed|parcel|shipping|carton|box|delivery|gross|paket|versand|colis)\b/;

const sideLetters: Readonly<Record<string, string>> = {
  w: "width",
  width: "width",
  b: "width",
  breite: "width",
  breedte: "width",
  larg: "width",
  largeur: "width",
  ancho: "width",
  an: "width",
  anch: "width",
  szer: "width",
  l: "depth",
  length: "depth",
  länge: "depth",
  lengte: "depth",
  longueur: "depth",
  d: "depth",
  depth: "depth",
  t: "depth",
  tiefe: "depth",
  diepte: "depth",
  p: "depth",
  prof: "depth",
  fondo: "depth",
  f: "depth",
  h: "height",
  height: "height",
  höhe: "height",
  hoogte: "height",
  haut: "height",
  hauteur: "height",
  alto: "height",
  al: "height",
  alt: "height",
};

const inThrees = /(\p{L}+)\.?\s*[x×*/]\s*(\p{L}+)\.?\s*[x×*/]\s*(\p{L}+)/iu;

/** The sides in the order that a heading says, such as "W x D x H"; length, width and height where it says none. */
function sidesIn(heading: string): readonly string[] {
  const named = (inThrees.exec(heading) ?? []).slice(1).map((word) => ownOf(sideLetters, word.toLowerCase()));
  const known = named.flatMap((side) => side ?? []);
  return new Set(known).size === 3 ? known : ["depth", "width", "height"];
}

/** `30 x 20 x 12 cm`: three sides. */
export const sizes: Combine = (columns) =>
  columns
    .filter(({ shape }) => shape.triple > 0.6)
    .slice(0, 2)
    .map((column) => {
      const prefix = ofParcel.test(fold(column.column)) ? "package_" : "";
      const sides = sidesIn(column.column).map((attribute, index) =>
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
export const compounds: Combine = (columns) =>
  [
    ["lb", "oz"],
    ["ft", "in"],
  ].flatMap(([larger = "", smaller = ""]) =>
    columns.flatMap((big): readonly Combination[] => {
      const { attribute } = big.name;
      if (big.name.unit !== larger || attribute === undefined) return [];
      const isBare = (column: string): boolean => unitOf(column.trim())?.code === smaller;
      const small =
        columns.find(({ index, column }) => index === big.index + 1 && isBare(column)) ??
        columns.find(
          ({ name, column }) => name.unit === smaller && name.attribute === attribute && !isBare(column),
        );
      if (small === undefined) return [];
      const expression = `compound(${columnExpression(big.column)}, "${larger}", ${columnExpression(small.column)}, "${smaller}")`;
      return [combination([proposed(attribute, expression, [big, small], 0.95)], [big, small])];
    }),
  );

const unitWords = /^(.*?) ?\b(?:unit|uom|unit of measure|einheit|unité)$/;

/** A unit in a column of its own. */
export const units: Combine = (columns) =>
  columns.flatMap((unit): readonly Combination[] => {
    const about = unitWords.exec(fold(unit.column))?.[1] ?? (unit.column.includes("/") ? "" : undefined);
    if (about === undefined || unit.shape.unitName < 0.8) return [];
    // One unit beside several sides is that of each.
    const inPath = unit.column.replace(/[^/]*$/, "");
    const measured = columns.filter(
      ({ column, name }) => column.startsWith(inPath) && inPath !== "" && meansOf("", name.attribute),
    );
    if (measured.length > 1)
      return [
        combination(
          measured.map((one) =>
            proposed(
              one.name.attribute ?? "",
              `"{${columnExpression(one.column)}} {${columnExpression(unit.column)}}"`,
              [one, unit],
              0.9,
            ),
          ),
          [...measured, unit],
        ),
      ];
    const value =
      columns.find(
        ({ column, name }) =>
          column !== unit.column &&
          (fold(column) === about || fold(column) === `${about} value` || name.words === about),
      ) ??
      nearestTo(
        unit,
        columns.filter(({ name }) => name.unit === undefined && meansOf(about, name.attribute)),
      );
    const attribute = value?.name.attribute;
    if (value === undefined || attribute === undefined) return [];
    const expression = `"{${columnExpression(value.column)}} {${columnExpression(unit.column)}}"`;
    return [combination([proposed(attribute, expression, [value, unit], 0.9)], [value, unit])];
  });

/** A number and its unit as the two parts of one thing, whatever the parts are called: `weight: { n: 2, u: kg }`. */
export const partsOfMeasure: Combine = (columns) =>
  columns.flatMap((unit): readonly Combination[] => {
    if (!unit.column.includes("/") || unit.shape.unitName < 0.8 || unit.shape.filled === 0) return [];
    const within = unit.column.slice(0, unit.column.lastIndexOf("/") + 1);
    const steps = unit.label.split(" / ");
    const about = columnName(steps.slice(0, steps.length > 1 ? -1 : 1).join(" / ")).attribute;
    const parts = columns.filter(
      ({ column, shape }) =>
        column !== unit.column &&
        column.startsWith(within) &&
        !column.slice(within.length).includes("/") &&
        shape.number > 0.6,
    );
    const [amount] = parts;
    if (amount === undefined || parts.length > 1 || about === undefined) return [];
    if (attributeKind(about).kind !== "measure") return [];
    const expression = `"{${columnExpression(amount.column)}} {${columnExpression(unit.column)}}"`;
    return [combination([proposed(about, expression, [amount, unit], 0.9)], [amount, unit])];
  });
