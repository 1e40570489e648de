/** A condition in words as an expression over the channel's fields. */
import { plainWords } from "./plain-words.js";
import { valuesOf } from "./claim.js";
import type { LearnedField } from "./learned.js";

const given =
  /\b(?:is|are|was)? ?(?:given|filled(?: in)?|set|present|entered|provided|not (?:blank|empty)|used|angegeben|ausgefullt|gefullt|vorhanden|gesetzt|renseigne\p{L}*|rempli\p{L}*|indique\p{L}*|present\p{L}*|indica\p{L}*|rellen\p{L}*|informa\p{L}*)\b/u;
const introduces = /\b(?:if|when|where|wenn|falls|sofern|si|lorsque|quand|cuando|en caso de que|whenever)\b/u;

/**
 * A channel's condition in words as an expression over its fields: `required if Sale price is given` is
 * `sale_price is given`. Undefined where no single field is named, or what is asked of it is not understood.
 */
export function conditionOf(words: string, fields: readonly LearnedField[]): string | undefined {
  const text = plainWords(words);
  const start = introduces.exec(text);
  if (start === null) return undefined;
  const rest = text.slice(start.index + start[0].length);
  const named = fields
    .flatMap((field) => [field.label, field.name].map((name) => ({ field, name: plainWords(name) })))
    .filter(({ name }) => name.length > 2 && ` ${rest} `.includes(` ${name} `))
    .sort((a, b) => b.name.length - a.name.length);
  const [best] = named;
  if (best === undefined) return undefined;
  const others = new Set(
    named.filter(({ name }) => !best.name.includes(name)).map(({ field }) => field.code),
  );
  others.delete(best.field.code);
  if (others.size > 0) return undefined;
  const behind = rest.replace(best.name, " ");
  const value = valuesOf(best.field.facts.get("values")?.value ?? "").find((one) =>
    ` ${behind} `.includes(` ${plainWords(one)} `),
  );
  const { code, facts } = best.field;
  if (value !== undefined && !/\b(?:not|nicht|pas|no es|ne)\b/.test(behind))
    return facts.get("kind")?.value === "yes-no"
      ? `${code} = ${isYes(value) ? "yes" : "no"}`
      : `${code} = "${value.replaceAll('"', '\\"')}"`;
  return given.test(behind) ? `${code} is given` : undefined;
}

const isYes = (value: string): boolean => /^(?:y|yes|ja|j|oui|o|s[ií]|true|1|x)/i.test(value);
