/** Weighs all claims of a field: what several sources say is surer, what something speaks against is less sure. */
import { trust } from "./trust.js";
import { decimal } from "../values/decimal.js";
import { unitOf } from "../values/units.js";
import { readYesNo } from "../values/yes-no.js";
import { isKind } from "../values/value.js";
import { facts, OPEN, valuesOf, type Claim, type Fact } from "./claim.js";
import { factsOfKinds, learnedKinds } from "./learned-kinds.js";

/** What was settled for a fact, and what spoke against it. */
export interface Settled extends Claim {
  readonly against: readonly Claim[];
  /** Whether a person said so. */
  readonly isCorrected: boolean;
}

/** What was settled of a field. */
export type SettledFacts = ReadonlyMap<Fact, Settled>;

const settled = (claim: Claim, against: readonly Claim[] = []): Settled => ({
  ...claim,
  against,
  isCorrected: false,
});

function sameValue(fact: Fact, one: string, other: string): boolean {
  if (one === other) return true;
  if (fact === "values") {
    const [a, b] = [new Set(valuesOf(one)), new Set(valuesOf(other))];
    return a.size === b.size && [...a].every((value) => b.has(value));
  }
  const [a, b] = [decimal(one), decimal(other)];
  return a !== undefined && b !== undefined && a.eq(b);
}

/** Facts of which the surest is taken and the others say nothing against it. */
const plainly = new Set<Fact>(["label", "help", "example", "open", "counted", "joined_by"]);

/** Takes what is best shown; what speaks against it costs confidence. */
function settleFact(fact: Fact, claims: readonly Claim[]): Settled | undefined {
  const groups: Claim[][] = [];
  for (const claim of claims) {
    const same = groups.find(([first]) => first !== undefined && sameValue(fact, first.value, claim.value));
    if (same === undefined) groups.push([claim]);
    else same.push(claim);
  }
  const scored = groups
    .map((own) => {
      const sources = new Set(own.map(({ because }) => because)).size;
      const best = own.reduce((a, b) => (b.confidence > a.confidence ? b : a));
      return { best, score: Math.min(trust.most, best.confidence + trust.furtherSource * (sources - 1)) };
    })
    .sort((a, b) => b.score - a.score);
  const [first, second] = scored;
  if (first === undefined) return undefined;
  if (fact === "help") {
    const longest = claims.reduce((a, b) => (b.value.length > a.value.length ? b : a));
    return settled(longest);
  }
  if (second === undefined || plainly.has(fact)) return settled({ ...first.best, confidence: first.score });
  const against = scored
    .slice(1)
    .map(({ best }) => best)
    .filter(({ confidence }) => confidence >= OPEN);
  // A shorter list that the longer one holds was cut short by whoever wrote the sentence.
  if (fact === "values" && against.every(({ value }) => isWithin(value, first.best.value)))
    return settled({ ...first.best, confidence: first.score });
  const gap = first.score - second.score;
  const confidence =
    against.length === 0 || gap > trust.clearLead
      ? first.score
      : Math.min(first.score, trust.narrowLead + gap);
  return settled({ ...first.best, confidence }, against);
}

function isWithin(some: string, all: string): boolean {
  const known = new Set(valuesOf(all));
  return valuesOf(some).every((value) => known.has(value));
}

function isYesNo(values: readonly string[]): boolean {
  if (values.length !== 2) return false;
  const read = values.map((value) => (/^[\p{L}01]+$/u.test(value) ? readYesNo(value) : undefined));
  return read.includes(true) && read.includes(false);
}

/** The kind that all evidence together speaks for: a number with a unit is a measure, one under "Price" is money. */
function settleKind(claims: readonly Claim[], others: ReadonlyMap<Fact, Settled>): Settled | undefined {
  const kinds = claims.filter(({ fact }) => fact === "kind");
  const list = others.get("values");
  const values = valuesOf(list?.value ?? "");
  if (list !== undefined && values.length > 1)
    return settled({
      ...list,
      fact: "kind",
      value: isYesNo(values) ? "yes-no" : "choice",
      confidence: Math.min(trust.listedChoice, list.confidence),
    });
  const first = kinds.reduce<Claim | undefined>(
    (a, b) => (a === undefined || b.confidence > a.confidence ? b : a),
    undefined,
  );
  if (first === undefined || !isKind(first.value)) return undefined;
  const unit = others.get("unit");
  const verdict = learnedKinds[first.value].weigh?.(first, {
    kinds,
    hasUnit: unit !== undefined && unit.confidence >= OPEN && unitOf(unit.value) !== undefined,
    hasValues: list !== undefined,
  });
  if (verdict === undefined) return settled(first);
  return settled({ ...verdict.claim, value: verdict.kind, confidence: verdict.confidence });
}

/** Weighs all claims of a field against each other. */
export function settleFacts(claims: readonly Claim[]): Map<Fact, Settled> {
  const found = new Map<Fact, Settled>();
  for (const fact of facts) {
    if (fact === "kind") continue;
    const own = settleFact(
      fact,
      claims.filter((claim) => claim.fact === fact),
    );
    if (own !== undefined) found.set(fact, own);
  }
  const kind = settleKind(claims, found);
  if (kind !== undefined) found.set("kind", kind);
  // A whole number of a unit has no decimals.
  const counted = claims.some(
    ({ fact, value, confidence }) => fact === "kind" && value === "integer" && confidence >= OPEN,
  );
  if (kind?.value === "measure" && counted && !found.has("decimals"))
    found.set("decimals", { ...kind, fact: "decimals", value: "0", because: "a whole number" });
  // "max 80" under a text's heading counts its characters.
  const most = found.get("max");
  const held = kind !== undefined && isKind(kind.value) ? learnedKinds[kind.value] : undefined;
  if (held?.countsLetters && most !== undefined && !found.has("max_length") && /^\d{2,5}$/.test(most.value))
    found.set("max_length", {
      ...most,
      fact: "max_length",
      confidence: Math.min(most.confidence, trust.doubtfulLength),
    });
  for (const fact of factsOfKinds) if (held?.facts.includes(fact) !== true) found.delete(fact);
  const [low, high] = [decimal(found.get("min")?.value ?? ""), decimal(found.get("max")?.value ?? "")];
  if (low !== undefined && high !== undefined && low.gt(high))
    for (const fact of ["min", "max"] as const) found.delete(fact);
  return found;
}
