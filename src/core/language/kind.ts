/** Kinds of what an expression yields, and their shapes: with the currency or dimension where it is known. */
import { kindFacts } from "../values/kinds.js";
import type { AttributeKind } from "../values/attribute-kind.js";
import type { Dimension } from "../values/units.js";
import type { Kind } from "../values/value.js";

/** What an expression yields, as far as the checker tells them apart. `any` fits everywhere. */
export type ResultKind = "text" | "number" | "money" | "measure" | "date" | "yes-no" | "list" | "any";

/** A result kind, with the currency of a price and the dimension of a measure where they are known before any product is. */
export interface Shape {
  readonly kind: ResultKind;
  readonly currency?: string | undefined;
  readonly dimension?: Dimension | undefined;
}

/** The result kind of an attribute or field. */
export const resultKind = (kind: Kind, list: boolean): ResultKind => (list ? "list" : kindFacts[kind].nature);

const lengths = new Set(["width", "height", "depth", "package_width", "package_height", "package_depth"]);
const masses = new Set(["weight", "package_weight"]);

/** The shape of an attribute: `price@EUR` is in euro, a weight is a mass. */
export function attributeShape(name: string, { kind, list }: AttributeKind): Shape {
  const result = resultKind(kind, list);
  if (result === "money") {
    const currency = name.split("@")[1];
    return currency === undefined ? { kind: result } : { kind: result, currency };
  }
  if (lengths.has(name)) return { kind: result, dimension: "length" };
  return masses.has(name) ? { kind: result, dimension: "mass" } : { kind: result };
}

/** Whether what yields one kind may stand where another is wanted. */
export const fits = (actual: ResultKind, wanted: ResultKind): boolean =>
  actual === wanted || actual === "any" || wanted === "any";

/** Anything but a list reads as text where a text is wanted. */
export const fitsText = (actual: ResultKind): boolean => actual !== "list";

/** Whether two prices or two measures can never meet: other currencies, other dimensions. */
export function areApart(a: Shape, b: Shape): boolean {
  return (
    a.kind === b.kind &&
    ((a.currency !== undefined && b.currency !== undefined && a.currency !== b.currency) ||
      (a.dimension !== undefined && b.dimension !== undefined && a.dimension !== b.dimension))
  );
}

const articles: Readonly<Record<ResultKind, string>> = {
  text: "a text",
  number: "a number",
  money: "an amount of money",
  measure: "a measure",
  date: "a date",
  "yes-no": "yes or no",
  list: "a list",
  any: "a value",
};

/** A kind with its article, for messages. */
export const kindWords = (kind: ResultKind): string => articles[kind];

const dimensionWords: Readonly<Record<Dimension, string>> = {
  mass: "a weight",
  length: "a length",
  area: "an area",
  volume: "a volume",
  energy: "an energy",
  power: "a power",
  time: "a time",
  count: "a count",
};

/** As exact as is known: `a length`, `an amount in EUR`. */
export function shapeWords({ kind, currency, dimension }: Shape): string {
  if (currency !== undefined) return `an amount in ${currency}`;
  return dimension === undefined ? kindWords(kind) : dimensionWords[dimension];
}
