/** Sentences as claims. */
import { trust } from "./trust.js";
import { needInSentence, needOf, type NeedMarks, type NeedSaid } from "./need-words.js";
import { readSentence } from "./sentence.js";
import type { Claim, Fact, PaperPlace } from "./claim.js";
import { valuesText } from "./claim.js";

/** A need as claims: itself, and its condition in words. */
export function needClaims(
  said: NeedSaid | undefined,
  confidence: number,
  from: PaperPlace,
  because: string,
): readonly Claim[] {
  if (said === undefined) return [];
  // A condition in words is a question: what it means is for a person to write down.
  const surely = said.when === "" ? confidence : Math.min(confidence, trust.inWords);
  const need: Claim = { fact: "need", value: said.need, confidence: surely, from, because };
  return said.when === ""
    ? [need]
    : [need, { fact: "when", value: said.when, confidence: trust.inWords, from, because }];
}

/** Reads a text that rules a field, and says what it claims of it. */
export function saidClaims(
  text: string,
  confidence: number,
  from: PaperPlace,
  because: string,
): readonly Claim[] {
  const said = readSentence(text);
  const claims: Claim[] = [];
  const claim = (fact: Fact, value: string | number | undefined, weight = 1): void => {
    if (value !== undefined)
      claims.push({ fact, value: String(value), confidence: confidence * weight, from, because });
  };
  claim("kind", said.kind);
  claim("min_length", said.minLength);
  claim("max_length", said.maxLength);
  claim("counted", said.counted);
  claim("max_items", said.maxItems);
  if (said.maxItems !== undefined && said.maxItems > 1) claim("list", "yes", trust.withSentence);
  claim("min", said.min);
  claim("max", said.max);
  claim("decimals", said.decimals);
  claim("unit", said.unit);
  claim("date", said.date);
  claim("min_pixels", said.pixels);
  if (said.values !== undefined) claim("values", valuesText(said.values), trust.withSentence);
  const between = separatorIn(text);
  if (between !== undefined) {
    claim("joined_by", between);
    claim("list", "yes", trust.withSentence);
  }
  return claims;
}

/** A text that may also say whether the field must be filled. */
export function ruleClaims(
  text: string,
  confidence: number,
  from: PaperPlace,
  because: string,
): readonly Claim[] {
  return [
    ...saidClaims(text, confidence, from, because),
    ...needClaims(needInSentence(text), confidence * trust.needInSentence, from, because),
  ];
}

/** The same of a cell that may hold a mark. */
export function needCell(
  text: string,
  marks: NeedMarks,
  confidence: number,
  from: PaperPlace,
  because: string,
): readonly Claim[] {
  const claims = needClaims(needOf(text, marks), confidence, from, because);
  // `0..5` says how often, too.
  const [, most = ""] = /^[01]\s*(?:\.\.|-|…|:|,)\s*(\d+|n|m|\*|∞|unbounded)$/i.exec(text.trim()) ?? [];
  if (most === "" || most === "1") return claims;
  const list: Claim = { fact: "list", value: "yes", confidence, from, because };
  return [
    ...claims,
    list,
    ...(/^\d+$/.test(most) ? [{ ...list, fact: "max_items" as const, value: most }] : []),
  ];
}

const separators: readonly (readonly [RegExp, string])[] = [
  [
    /\b(?:separated|divided|split|joined|getrennt|trennen|séparée?s?|séparer|separad[oa]s?)\b[^.]{0,25}(?:semicolons?|semikolons?|strichpunkte?n?|points?-virgules?|punto y coma|;)/iu,
    ";",
  ],
  [
    /\b(?:separated|divided|split|joined|getrennt|trennen|séparée?s?|séparer|separad[oa]s?)\b[^.]{0,25}(?:commas?|kommas?|kommata|virgules?|comas?|,)/iu,
    ",",
  ],
  [
    /\b(?:separated|divided|split|joined|getrennt|trennen|séparée?s?|séparer|separad[oa]s?)\b[^.]{0,25}(?:pipes?|vertical bars?|strokes?|senkrechte[nr]? striche?n?|barres? verticales?|barras? verticales?|\|)/iu,
    "|",
  ],
  [/\b(?:comma|komma)[- ](?:separated|getrennt)/iu, ","],
  [/\b(?:semicolon|semikolon)[- ](?:separated|getrennt)/iu, ";"],
];

/** The mark that a rule wants between several values of one cell. */
const separatorIn = (text: string): string | undefined =>
  separators.find(([pattern]) => pattern.test(text))?.[1];
