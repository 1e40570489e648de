import type { Place } from "../diagnostics/place.js";
import { fold } from "../values/text.js";

export interface PermittedValue {
  readonly value: string;
  readonly label: string;
  readonly synonyms: readonly string[];
}

/** A field's permitted values, found by exact text, by folded text, or by a synonym of the definition. */
export interface ValueList {
  readonly name: string;
  readonly place: Place;
  readonly values: readonly PermittedValue[];
  /** The permitted value that a text means without any choice left, or undefined. */
  match(text: string): string | undefined;
}

export const valueList = (name: string, place: Place, values: readonly PermittedValue[]): ValueList => {
  const exact = new Set(values.map(({ value }) => value));
  const folded = new Map<string, string>();
  // Own values win over labels, labels over synonyms; of two alike the first in the file.
  const learn = (text: string, value: string): void => {
    const key = fold(text);
    if (key !== "" && !folded.has(key)) folded.set(key, value);
  };
  for (const { value } of values) learn(value, value);
  for (const { value, label } of values) learn(label, value);
  for (const { value, synonyms } of values) for (const synonym of synonyms) learn(synonym, value);
  return { name, place, values, match: (text) => (exact.has(text) ? text : folded.get(fold(text))) };
};
