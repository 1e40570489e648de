/** A field's permitted values, found by text, by synonym, by form; near ones for messages. */
import type { Place } from "../diagnostics/place.js";
import { nearest } from "../values/nearest.js";
import { termKey } from "../values/text.js";
import { TERM_LIMIT, termForms, type TermForm } from "./term-forms.js";

/** One permitted value. */
export interface PermittedValue {
  readonly value: string;
  readonly label: string;
  readonly synonyms: readonly string[];
}

/** A field's permitted values, found by exact text, by folded text, by a synonym of the definition, or by another spelling. */
export interface ValueList {
  readonly name: string;
  readonly place: Place;
  readonly values: readonly PermittedValue[];
  /** The permitted value that a text means without any choice left, or undefined. */
  match(text: string): string | undefined;
  /** The values that are written much like a text, nearest first. */
  near(text: string): readonly string[];
}

const REMEMBERED = 10_000;

/** Makes a list ready to be asked. */
export function valueList(name: string, place: Place, values: readonly PermittedValue[]): ValueList {
  const exact = new Set(values.map(({ value }) => value));
  const folded = new Map<string, string>();
  // Own values win over labels, labels over synonyms; of two alike the first in the file.
  const learn = (text: string, value: string): void => {
    const key = termKey(text);
    if (key !== "" && !folded.has(key)) folded.set(key, value);
  };
  for (const { value } of values) learn(value, value);
  for (const { value, label } of values) learn(label, value);
  for (const { value, synonyms } of values) for (const synonym of synonyms) learn(synonym, value);
  const forms = new Map<TermForm, ReadonlyMap<string, string | undefined>>();
  const byForm = (form: TermForm): ReadonlyMap<string, string | undefined> => {
    const known = forms.get(form);
    if (known !== undefined) return known;
    const index = formIndex(values, form);
    forms.set(form, index);
    return index;
  };
  const spelled = new Map<string, string | undefined>();
  const bySpelling = (text: string): string | undefined => {
    if (text.length > TERM_LIMIT) return undefined;
    if (spelled.has(text)) return spelled.get(text);
    const found = termForms.reduce<string | undefined>((match, form) => {
      const key = match === undefined ? form.of(text) : undefined;
      return key === undefined ? match : byForm(form).get(key);
    }, undefined);
    if (spelled.size < REMEMBERED) spelled.set(text, found);
    return found;
  };
  const close = new Map<string, readonly string[]>();
  return {
    name,
    place,
    values,
    near(text) {
      const known = close.get(text);
      if (known !== undefined) return known;
      const found = nearest(
        text,
        values.map(({ value }) => value),
      );
      if (close.size < REMEMBERED) close.set(text, found);
      return found;
    },
    match: (text) => (exact.has(text) ? text : (folded.get(termKey(text)) ?? bySpelling(text))),
  };
}

/** Values by one of their forms; a form that two values share tells neither, unless one of them is the value itself. */
function formIndex(
  values: readonly PermittedValue[],
  form: TermForm,
): ReadonlyMap<string, string | undefined> {
  const index = new Map<string, string | undefined>();
  const learn = (texts: (value: PermittedValue) => readonly string[]): void => {
    const round = new Map<string, string | undefined>();
    for (const one of values)
      for (const text of texts(one)) {
        const key = form.of(text);
        if (key === undefined || index.has(key)) continue;
        round.set(key, round.has(key) && round.get(key) !== one.value ? undefined : one.value);
      }
    for (const [key, value] of round) index.set(key, value);
  };
  learn(({ value }) => [value]);
  learn(({ label, synonyms }) => [label, ...synonyms].filter((text) => text !== ""));
  return form.wanted.every((key) => index.has(key)) ? index : new Map();
}
