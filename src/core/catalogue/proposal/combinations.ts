/**
 * Columns that speak together: a price and its currency, a number and its unit, pictures side by side, options and
 * their values. Each way sees the columns that the ones before it left.
 */
import { ownOf } from "../../own.js";
import { fold } from "../../values/text.js";
import { unitOf } from "../../values/units.js";
import { attributeKind } from "../vocabulary.js";
import { columnName } from "./column-name.js";

import { WAS_PRICE } from "../vocabulary.js";
import { ownAttribute } from "../own-attribute.js";
import { columnExpression, listExpression, textExpression } from "./expressions.js";
import { isGross, isNet, netMeaning, piecesFrom } from "./price-columns.js";
import type { SampleColumn } from "./sample-column.js";
import type { ProposedAttribute, ProposedPair } from "./source-proposal.js";

/** What several columns, or one column with several values in it, say together; the columns are used up by it. */
export interface Combination {
  readonly attributes: readonly ProposedAttribute[];
  readonly pairs: readonly ProposedPair[];
  readonly used: readonly SampleColumn[];
  /** The column that tells the currency of others. */
  readonly currency?: SampleColumn;
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
const sizes: Combine = (columns) =>
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
const compounds: Combine = (columns) =>
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

/** One column a level of the category path. */
const levels: Combine = (columns) => {
  const found = columns
    .filter(
      ({ name, shape }) =>
        ((name.attribute === "category" && name.number !== undefined) ||
          isLevel(name.words + (name.number === undefined ? "" : ` ${name.number}`))) &&
        shape.url < 0.5,
    )
    .sort((a, b) => (a.name.number ?? 0) - (b.name.number ?? 0));
  const [first] = found;
  if (first === undefined) return [];
  const top = columns.find(
    ({ name }) => name.attribute === "category" && name.number === undefined && name.certainty >= 0.9,
  );
  const isBelow =
    /^(?:sub|sous|unter|onder|pod|sotto)/.test(first.name.words) || (first.name.number ?? 1) > 1;
  const all = top === undefined || found.includes(top) || !isBelow ? found : [top, ...found];
  if (all.length < 2) return [];
  const expression = `path(${listExpression(all.map(({ column }) => column))})`;
  return [combination([proposed("category", expression, all, 0.9)], all)];
};
const isLevel = (words: string): boolean =>
  levelName.test(words.toLowerCase().trim()) || levelName.test(fold(words));

const levelName =
  /^(?:department|dept|section|reparto|sottoreparto|abteilung|rayon|sous rayon|afdeling|dział|seccion|sección|departamento|level|category level|(?:sub|sous|unter|onder|pod|sotto) ?(?:category|section|group|catégorie|categorie|famille|rayon|kategorie|gruppe|warengruppe|categoría|categoria|familia|sección|grupo|groep|rubriek|kategoria|grupa)|kategorie ?ebene|ebene|warengruppe|niveau|nivel|poziom|main group|sub group|hauptgruppe|main category|hauptkategorie|famille principale|hoofdgroep|grupa główna|kategoria gł[oó]wna|catégorie principale|categorie principale|categoría principal|categoria principal|hoofdcategorie)(?: \d)?$/;

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
        proposed("price", `regular_price(${now}, ${before})`, [price, was], 0.84),
        proposed("sale_price", `reduced_price(${now}, ${before})`, [price, was], 0.84),
      ],
      [price, was],
    ),
  ];
};

const best = (columns: readonly SampleColumn[], attribute: string): SampleColumn | undefined =>
  columns
    .filter(({ name }) => name.attribute === attribute && name.currency === undefined)
    .sort((a, b) => b.name.certainty - a.name.certainty)[0];

function meansOf(about: string, attribute: string | undefined): boolean {
  if (attribute === undefined || attributeKind(attribute).kind !== "measure") return false;
  return about === "" || columnName(about).attribute === attribute;
}

/** The column whose name or path has most of another's beginning; the nearer one of several. */
function nearestTo(to: SampleColumn, columns: readonly SampleColumn[]): SampleColumn | undefined {
  const shared = ({ column }: SampleColumn): number => {
    let at = 0;
    while (at < column.length && column[at] === to.column[at]) at++;
    return column.includes("/") || to.column.includes("/") ? at : 0;
  };
  const away = ({ index }: SampleColumn): number => Math.abs(index - to.index);
  return columns
    .filter((column) => column !== to)
    .sort((a, b) => shared(b) - shared(a) || away(a) - away(b))[0];
}

const unitWords = /^(.*?) ?\b(?:unit|uom|unit of measure|einheit|unité)$/;

const first = /^(?:from|start|starts|von|ab|du|desde|van|vanaf|od|valid from|gültig von)$/;
const last = /^(?:to|until|till|end|ends|bis|au|hasta|tot|do|valid until|valid to|gültig bis)$/;

/** Days beside a reduced price: from when, and until when it holds. */
const offerDays: Combine = (columns) => {
  if (columns.every(({ name }) => name.attribute !== "sale_price" && name.attribute !== WAS_PRICE)) return [];
  return columns.flatMap((column): readonly Combination[] => {
    const words = fold(column.column);
    const attribute = first.test(words) ? "sale_from" : last.test(words) ? "sale_until" : undefined;
    if (attribute === undefined || column.shape.date < 0.8) return [];
    return [combination([proposed(attribute, columnExpression(column.column), [column], 0.9)], [column])];
  });
};

/** A unit in a column of its own. */
const units: Combine = (columns) =>
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

/** Whether two paths are parts of one thing. */
const areParts = (one: string, other: string): boolean =>
  one.includes("/") && one.replace(/[^/]*$/, "") === other.replace(/[^/]*$/, "");

/** A currency code in a column of its own, beside prices without one. */
const currencies: Combine = (columns) => {
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
const nets: Combine = (columns) => {
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
const tiers: Combine = (columns) => {
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

const placeWord =
  /(?:^| )(?:depot|depots|warehouse|store|shop|branch|location|lager|filiale|laden|keller|magasin|entrepot|dépôt|magazzino|deposito|negozio|almacen|almacén|tienda|magazijn|winkel|magazyn|sklep|stock)(?: |$)/;

/** What is reserved, broken or on its way is not for sale. */
const notForSale =
  /reserv|réserv|block|sperr|defekt|defect|broken|retour|return|transit|unterwegs|order|bestell|consign|kommission|unlisted|(?:^| )(?:next|coming|expected|due|zulauf|erwartet|prochain|proxim|prossim|volgende)(?: |$)/;

/** Pieces by place, side by side: what there is of all, but for those that are not for sale. */
const places: Combine = (columns) => {
  const named = columns.filter(
    ({ label, shape }) =>
      placeWord.test(fold(label)) && shape.whole > 0.8 && shape.filled > 0 && shape.averageLength < 6,
  );
  const isOther = (column: SampleColumn): boolean =>
    !named.includes(column) && !notForSale.test(fold(column.label));
  const isCounted = ({ name }: SampleColumn): boolean =>
    name.attribute === "quantity" && name.certainty >= 0.9;
  if (named.length < 2 || columns.some((column) => isOther(column) && isCounted(column))) return [];
  const found = named.filter(({ label }) => !notForSale.test(fold(label)));
  const expression = `total(${found.map(({ column }) => columnExpression(column)).join(", ")})`;
  return [combination([proposed("quantity", expression, found, 0.6)], named)];
};

/** A number and its unit as the two parts of one thing, whatever the parts are called: `weight: { n: 2, u: kg }`. */
const partsOfMeasure: Combine = (columns) =>
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

const nameEnd = /^(.*?) ?\b(?:names?|titles?|labels?|is called)$/;
const valueEnd = /^(.*?) ?\b(?:value|values|is|setting|choice)$/;
const about =
  /\b(?:options?|attributes?|propert(?:y|ies)|variations?|variants?|features?|axis|axes|differs|specifications?|specs?|merkmale?|eigenschaft(?:en)?|attribut|traits?|kenmerk(?:en)?|caractéristiques?|características?|cech[ay])\b/;

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

/** Columns in twos by what they hold: words for what members differ in, and beside each its value. */
const axisPairs: Combine = (columns) => {
  const names = columns.filter(
    ({ shape, name }) =>
      shape.filled > 0 && shape.axisName > 0.7 && (name.attribute === undefined || name.certainty < 0.9),
  );
  const taken = new Set<SampleColumn>();
  const found = names.flatMap((name): readonly Combination[] => {
    const value = columns.find(({ index }) => index === name.index + 1);
    if (value === undefined || names.includes(value) || value.shape.filled === 0) return [];
    taken.add(name).add(value);
    return [{ attributes: [], pairs: [{ name: name.column, value: value.column }], used: [name, value] }];
  });
  // A second pair of the same words with another number may be blank in the first rows.
  const stem = (column: string): string => fold(column).replace(/ ?\d+$/, "");
  const further = columns.flatMap((name): readonly Combination[] => {
    const value = columns.find(({ index }) => index === name.index + 1);
    const isLike = found.some(
      ({ used: [n, v] }) =>
        n !== undefined &&
        v !== undefined &&
        stem(n.column) === stem(name.column) &&
        stem(v.column) === stem(value?.column ?? ""),
    );
    if (value === undefined || taken.has(name) || !isLike) return [];
    return [{ attributes: [], pairs: [{ name: name.column, value: value.column }], used: [name, value] }];
  });
  return [...found, ...further];
};

/** Every way in which columns speak together; each sees what the ones before it left. */
export function combinations(columns: readonly SampleColumn[]): readonly Combination[] {
  const found: Combination[] = [];
  let left = columns;
  for (const combine of [
    offerDays,
    namedPairs,
    axisPairs,
    compounds,
    sizes,
    levels,
    marked,
    partsOfMeasure,
    units,
    tiers,
    nets,
    places,
    currencies,
    prices,
  ])
    for (const one of combine(left)) {
      if (one.used.some((column) => !left.includes(column))) continue;
      found.push(one);
      left = left.filter((column) => !one.used.includes(column));
    }
  return found;
}
