/** Advice behind a fault of an expression: what was probably meant, how a text becomes a number. */
import { nearest } from "../values/nearest.js";
import { isCurrency } from "../values/currencies.js";
import { unitCodes } from "../values/units.js";
import { functionNamed } from "./functions/functions.js";
import type { ResultKind, Shape } from "./kind.js";

/** What an unknown name may have been meant as, where no name is near. */
export function nameAdvice(name: string, close: readonly string[]): string {
  const called = functionNamed(name);
  if (called !== undefined)
    return `"${name}" is a function: write ${name}(${called.parameters.length === 0 ? "" : "…"})`;
  const [base = "", mark] = name.split("@");
  if (mark !== undefined && close.includes(base))
    return isCurrency(mark)
      ? `write "${base} in ${mark}", or make it by a price rule of the channel`
      : `no product has it in this language yet; without a language: ${base}`;
  return close.length === 0 ? `a text stands in double quotes: "${name}"` : "";
}

/** How a text becomes what a function wants. */
const readers: Partial<Readonly<Record<ResultKind, string>>> = {
  number: "number(…)",
  measure: 'measure(…, "kg")',
  date: "date(…)",
};

/** How a text that stands where another kind is due becomes one. */
export function readingHint(actual: ResultKind, wanted: ResultKind, isWrittenOut: boolean): string {
  if (actual === "text" && wanted === "number" && isWrittenOut) return "; numbers stand without quotes";
  const reader = actual === "text" ? readers[wanted] : undefined;
  return reader === undefined ? "" : `; ${reader} reads one from a text`;
}

/** The unit whose code is nearest to one that nobody knows. */
export function closeUnit(written: string): string {
  const [close] = nearest(written, unitCodes(), 1);
  return close === undefined ? "" : `; nearest: ${close}`;
}

const eitherIs = (a: Shape, b: Shape, kind: ResultKind): boolean => a.kind === kind || b.kind === kind;

/** What makes two values comparable that are not. */
export function comparingHint(a: Shape, b: Shape): string {
  if (a.currency !== undefined && b.currency !== undefined && a.currency !== b.currency)
    return `; convert one with "in ${a.currency}"`;
  if (eitherIs(a, b, "text") && eitherIs(a, b, "number")) return "; read the text with number(…)";
  if (!eitherIs(a, b, "number")) return "";
  if (eitherIs(a, b, "money")) return '; write money(5, "GBP"), or compare amount(…)';
  return eitherIs(a, b, "measure") ? '; write measure(5, "kg"), or compare amount(…)' : "";
}

/** What makes two values ready to be added. */
export function sumHint(a: Shape, b: Shape): string {
  if (!eitherIs(a, b, "number")) return comparingHint(a, b);
  if (eitherIs(a, b, "money")) return '; write money(2.50, "GBP") for an amount';
  return eitherIs(a, b, "measure") ? '; write measure(200, "g") for a measure' : "";
}
