import type { Kind } from "../values/value.js";

/** What an expression yields, as far as the checker tells them apart. `any` fits everywhere. */
export type ResultKind = "text" | "number" | "money" | "measure" | "date" | "yes-no" | "list" | "any";

/** The result kind of an attribute or field. */
export const resultKind = (kind: Kind, list: boolean): ResultKind => {
  if (list) return "list";
  switch (kind) {
    case "integer":
    case "decimal":
      return "number";
    case "money":
    case "measure":
    case "date":
    case "yes-no":
      return kind;
    default:
      return "text";
  }
};

export const fits = (actual: ResultKind, wanted: ResultKind): boolean =>
  actual === wanted || actual === "any" || wanted === "any";

/** Anything but a list reads as text where a text is wanted. */
export const fitsText = (actual: ResultKind): boolean => actual !== "list";

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

export const kindWords = (kind: ResultKind): string => articles[kind];
