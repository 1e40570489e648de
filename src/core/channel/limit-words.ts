/** What a field takes, in words: for notes, help and messages. */
import type { CategoryField } from "./category-rules.js";
import { kindFacts } from "../values/kinds.js";
import { countText } from "../diagnostics/phrases.js";

const SHOWN_VALUES = 6;

/** What a field takes in a category, in words: kind, unit, bounds, the first of its values. */
export function limitWords({ field, limits }: CategoryField): readonly string[] {
  const {
    minLength,
    maxLength,
    counted = "characters",
    maxItems,
    minPixels,
    min,
    max,
    pattern,
    values,
  } = limits;
  const [one, several] = kindFacts[field.kind].words;
  const bounds =
    min !== undefined && max !== undefined
      ? `from ${min.toFixed()} to ${max.toFixed()}`
      : min !== undefined
        ? `at least ${min.toFixed()}`
        : max !== undefined
          ? `at most ${max.toFixed()}`
          : "";
  return [
    field.list ? `several ${several}` : one,
    ...(field.unit === undefined ? [] : [`in ${field.unit.code}`]),
    ...(minLength === undefined ? [] : [`at least ${minLength} ${counted}`]),
    ...(maxLength === undefined ? [] : [`at most ${maxLength} ${counted}`]),
    ...(maxItems === undefined ? [] : [`at most ${maxItems} of them`]),
    ...(minPixels === undefined ? [] : [`pictures of at least ${minPixels} × ${minPixels} pixels`]),
    ...(bounds === "" ? [] : [bounds]),
    ...(field.decimals === undefined ? [] : [countText(field.decimals, "decimal")]),
    ...(pattern === undefined ? [] : [`of the form ${pattern.source}`]),
    ...(values === undefined
      ? []
      : [
          `one of ${values.values.length}: ${values.values
            .slice(0, SHOWN_VALUES)
            .map(({ value }) => value)
            .join(", ")}${values.values.length > SHOWN_VALUES ? ", …" : ""}`,
        ]),
  ];
}
