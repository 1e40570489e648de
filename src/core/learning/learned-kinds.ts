/**
 * What a kind of value is to learning: which facts of a field have a sense with it, what all evidence together makes of a
 * claim of it, and what of the catalogue fills a field of it. A new kind is a row here; the compiler says which is missing.
 * What a kind is in itself stands in `core/values/kinds.ts`.
 */
import { greatest } from "../many.js";
import { isKind, type Kind } from "../values/value.js";
import { OPEN, type Claim, type Fact } from "./claim.js";
import { trust } from "./trust.js";

/** All that is known where a field's kind is weighed. */
export interface KindEvidence {
  /** Claims of the kind, in the order in which they were read. */
  readonly kinds: readonly Claim[];
  /** Whether a unit that we know is named. */
  readonly hasUnit: boolean;
  /** Whether a list of values is. */
  readonly hasValues: boolean;
}

/** The claim that carries the day, with the kind that it comes to. */
export interface KindVerdict {
  readonly claim: Claim;
  readonly kind: Kind;
  readonly confidence: number;
}

/** What holds of a kind where channels are learned. */
export interface LearnedKind {
  /** Facts that only some kinds have, and this one does. */
  readonly facts: readonly Fact[];
  /** What the surest claim comes to, where it says this kind; it stands as it is where nothing is named here. */
  weigh?(first: Claim, evidence: KindEvidence): KindVerdict;
  /** Whether "at most 80" counts its letters. */
  readonly countsLetters?: true;
  /** What an attribute of this kind fills a field of another with; undefined: nothing. Without it, the attribute itself. */
  fills?(attribute: string, kind: string): string | undefined;
  /** Whether one of it is enough for a field that takes a list. */
  readonly fillsLists?: true;
}

const LENGTHS = ["min_length", "max_length"] as const;
const BOUNDS = ["min", "max"] as const;

const best = (claims: readonly Claim[], kind: Kind): number =>
  greatest(
    claims.filter(({ value }) => value === kind).map(({ confidence }) => confidence),
    0,
  );

const as = (claim: Claim, kind: Kind, confidence = claim.confidence): KindVerdict => ({
  claim,
  kind,
  confidence,
});

/** Another claim as it stands. */
const instead = (claim: Claim, confidence: number): KindVerdict | undefined =>
  isKind(claim.value) ? as(claim, claim.value, confidence) : undefined;

/** A number with a unit is a measure, one that is elsewhere called money is money, a whole one may have decimals. */
const number =
  (kind: "integer" | "decimal") =>
  (first: Claim, { kinds, hasUnit }: KindEvidence): KindVerdict => {
    if (hasUnit && first.confidence > 0)
      return as(first, "measure", Math.max(trust.measureWithUnit, first.confidence));
    if (best(kinds, "money") >= trust.guess)
      return as(first, "money", Math.max(first.confidence, trust.moneyWord));
    const isDecimal = kind === "integer" && best(kinds, "decimal") >= first.confidence - trust.hair;
    return as(first, isDecimal ? "decimal" : kind);
  };

/** Kinds that a text may turn out to be, since their values are texts of a form. */
const forms: readonly string[] = ["gtin", "isbn", "url", "date"] satisfies readonly Kind[];

/** What holds of each kind. */
export const learnedKinds: { readonly [K in Kind]: LearnedKind } = {
  text: {
    facts: [...LENGTHS, "values", "pattern"],
    countsLetters: true,
    weigh: (first, { kinds, hasValues }) => {
      const [hint] = kinds.filter(({ value, confidence }) => forms.includes(value) && confidence >= OPEN);
      return (hint !== undefined && !hasValues ? instead(hint, trust.hint) : undefined) ?? as(first, "text");
    },
  },
  html: { facts: LENGTHS, countsLetters: true },
  choice: {
    facts: [...LENGTHS, "values", "pattern"],
    // A drop-down whose list nobody gave: whatever else is known of it, else a text.
    weigh: (first, { kinds }) => {
      const [next] = kinds
        .filter(({ value }) => value !== "choice")
        .sort((a, b) => b.confidence - a.confidence);
      const other = next !== undefined && next.confidence >= OPEN ? instead(next, trust.guess) : undefined;
      return other ?? as(first, "choice", trust.guessedChoice);
    },
  },
  integer: {
    facts: BOUNDS,
    weigh: number("integer"),
    fills: (attribute, kind) => (["integer", "decimal", "text"].includes(kind) ? attribute : undefined),
  },
  decimal: { facts: [...BOUNDS, "decimals"], weigh: number("decimal") },
  money: {
    facts: [...BOUNDS, "decimals"],
    weigh: (first, { kinds }) =>
      as(
        first,
        "money",
        kinds.length > 1 ? Math.max(trust.moneyTogether, first.confidence) : first.confidence,
      ),
    fillsLists: true,
    fills(attribute, kind) {
      if (kind === "money") return attribute;
      return kind === "decimal" ? `amount(${attribute})` : undefined;
    },
  },
  measure: {
    facts: [...BOUNDS, "decimals", "unit"],
    weigh: (first, { hasUnit }) => (hasUnit ? as(first, "measure") : as(first, "decimal", trust.doubtful)),
    fillsLists: true,
    // Without its unit it would be a number of who knows what.
    fills: (attribute, kind) => (kind === "measure" ? attribute : undefined),
  },
  date: { facts: ["date"], fills: (attribute, kind) => (kind === "date" ? attribute : undefined) },
  "yes-no": { facts: ["values"] },
  url: { facts: [...LENGTHS, "min_pixels"] },
  gtin: { facts: [...LENGTHS, "pattern"] },
  isbn: { facts: LENGTHS },
};

/** Facts that only some kinds have. */
export const factsOfKinds: ReadonlySet<Fact> = new Set(
  Object.values(learnedKinds).flatMap(({ facts }) => facts),
);
