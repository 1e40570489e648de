import type { ReadingProblem } from "../../values/read.js";
import { addTerm, correct, correctIt, fillIt, giveColumn } from "../act.js";
import { asOne, byField, nothing, type FieldFact, listingFinding } from "../finding.js";
import type { FileNames } from "../file-names.js";
import { listed, orNearest, problems, quote } from "../phrases.js";

/** An attribute whose cell could not be read. */
export interface UnreadSource {
  readonly attribute: string;
  readonly written: string;
}

/** A field that is blank, with what it would be filled from. */
export interface MissingField extends FieldFact {
  readonly example: string;
  readonly fills: string;
  /** The attributes that its fill reads and that the product does not have. */
  readonly reads: readonly string[];
  readonly hasFill: boolean;
  /** Those of them whose cell could not be read, with what stands there. */
  readonly unread?: readonly UnreadSource[];
}

function missing(
  { label, example, fills, reads, hasFill, unread = [] }: MissingField,
  shown: (cell: UnreadSource) => string,
): string {
  const [first] = unread;
  if (first !== undefined)
    return `${label} is missing and required: ${shown(first)} could not be read; correct it where it comes from (lexicant show tells the cell)`;
  const like = example === "" ? "" : ` (such as ${quote(example)})`;
  const remedy =
    reads.length > 0
      ? `give the product its ${reads.join(" or ")}, or change the fill in ${fills}`
      : hasFill
        ? `its fill in ${fills} gives nothing here: change it, or answer in a gap sheet`
        : `add a fill for it to ${fills}, or answer in a gap sheet`;
  return `${label}${like} is missing and required; ${remedy}`;
}

/** What stands in a listing's fields. */
export const fields = {
  "missing-required": listingFinding<MissingField>({
    says: (facts) => missing(facts, ({ attribute, written }) => `${attribute} ${quote(written)}`),
    ofMany: (facts) => missing(facts, ({ attribute }) => attribute),
    apart: ({ reads, unread = [] }) => `${reads.join(" ")}${unread.length > 0 ? " unread" : ""}`,
    act: ({ reads, hasFill }, where) => (reads.length > 0 ? giveColumn(reads) : fillIt(where, !hasFill)),
    asks: () => ({ asks: "missing" }),
  }),
  /** A field that need not be there, and would be were its cell readable. */
  "unread-source": listingFinding<FieldFact & UnreadSource>({
    says: ({ label, attribute, written }) =>
      `${label} is blank, since ${attribute} ${quote(written)} could not be read; correct it where it comes from`,
    ofMany: ({ label, attribute }) =>
      `${label} is blank, since ${attribute} could not be read; correct it where it comes from`,
    apart: ({ attribute }) => attribute,
    act: correctIt,
    asks: () => ({ asks: "missing" }),
  }),
  "missing-recommended": listingFinding<FieldFact & { readonly example: string }>({
    says: ({ label, example }) =>
      `${label}${example === "" ? "" : ` (such as ${quote(example)})`} is missing; the channel recommends it`,
    ofMany: asOne,
    apart: byField,
    act: correctIt,
    asks: () => ({ asks: "missing" }),
  }),
  "not-allowed": listingFinding<FieldFact & { readonly value: string }>({
    says: ({ label, value }) =>
      `${label} is not allowed here and holds ${quote(value)}; leave its fill blank for this category`,
    ofMany: ({ label }) => `${label} is not allowed here; leave its fill blank for these categories`,
    apart: byField,
    act: (_, where) => fillIt(where),
    asks: nothing,
  }),
  "too-long": listingFinding<
    FieldFact & {
      readonly value: string;
      readonly limit: number;
      readonly actual: number;
      readonly unit: string;
    }
  >({
    says: ({ label, value, limit, actual, unit }) =>
      `${label} has ${actual} ${unit}, at most ${limit} are allowed: ${quote(value)}; shorten it, or use fit(…, ${limit}) in its fill`,
    ofMany: ({ label, limit, unit }) =>
      `${label} has more than ${limit} ${unit}; shorten it, or use fit(…, ${limit}) in its fill`,
    apart: byField,
    act: correct("shorten it, or use fit() in its fill in {fills}"),
    asks: ({ value }) => ({ asks: "shorter", value }),
  }),
  "too-short": listingFinding<
    FieldFact & {
      readonly value: string;
      readonly limit: number;
      readonly actual: number;
      readonly unit: string;
    }
  >({
    says: ({ label, value, limit, actual, unit }) =>
      `${label} has ${actual} ${unit}, at least ${limit} are wanted: ${quote(value)}`,
    ofMany: ({ label, limit, unit }) => `${label} has fewer than ${limit} ${unit}`,
    apart: byField,
    act: correct("write more, in a file or a gap sheet"),
    asks: ({ value }) => ({ asks: "source", value }),
  }),
  "too-many-values": listingFinding<FieldFact & { readonly limit: number; readonly actual: number }>({
    says: ({ label, limit, actual }) =>
      `${label} has ${actual} values, at most ${limit} are allowed; use take(…, ${limit}) in its fill`,
    ofMany: ({ label, limit }) => `${label} has more than ${limit} values; use take(…, ${limit}) in its fill`,
    apart: byField,
    act: (_, where) => fillIt(where),
    asks: nothing,
  }),
  "out-of-range": listingFinding<
    FieldFact & { readonly value: string; readonly min: string; readonly max: string }
  >({
    says: ({ label, value, min, max }) => {
      const bounds = min === "" ? `at most ${max}` : max === "" ? `at least ${min}` : `from ${min} to ${max}`;
      return `${label} is ${value}, it must be ${bounds}`;
    },
    ofMany: ({ label, min, max }) =>
      `${label} is outside what is allowed: ${max === "" ? `at least ${min}` : min === "" ? `at most ${max}` : `from ${min} to ${max}`}`,
    apart: byField,
    act: correctIt,
    asks: ({ value }) => ({ asks: "field", value }),
  }),
  "unknown-value": listingFinding<
    FieldFact & {
      readonly value: string;
      readonly nearest: readonly string[];
      readonly lexicon: string;
    }
  >({
    says: ({ label, value, nearest, lexicon }) =>
      `${quote(value)} is not a value of ${label}${orNearest(nearest)} (add a row for it to ${lexicon})`,
    ofMany: asOne,
    apart: ({ value }) => value,
    act: ({ value }, where) => addTerm(where, value),
    asks: ({ value }) => ({ asks: "term", value }),
  }),
  "unlisted-value": listingFinding<
    FieldFact & { readonly value: string; readonly nearest: readonly string[] }
  >({
    says: ({ label, value, nearest }) =>
      `${quote(value)} is not among the usual values of ${label}${orNearest(nearest)}; the channel takes it, shoppers find listed ones more easily`,
    ofMany: asOne,
    apart: ({ value }) => value,
    act: correctIt,
    asks: nothing,
  }),
  "wrong-pattern": listingFinding<FieldFact & { readonly value: string; readonly example: string }>({
    says: ({ label, value, example }) =>
      `${label} is ${quote(value)}, which is not of the form the channel wants${example === "" ? "" : `, such as ${quote(example)}`}`,
    ofMany: ({ label, example }) =>
      `${label} is not of the form the channel wants${example === "" ? "" : `, such as ${quote(example)}`}`,
    apart: byField,
    act: correctIt,
    asks: ({ value }) => ({ asks: "field", value }),
  }),
  "wrong-kind": listingFinding<FieldFact & { readonly value: string; readonly problem: ReadingProblem }>({
    says: ({ label, value, problem }) => `${label} cannot be ${quote(value)}: ${problems[problem]}`,
    ofMany: ({ label, problem }) => `${label} cannot be taken: ${problems[problem]}`,
    apart: ({ problem }) => problem,
    act: correctIt,
    asks: ({ value, problem }) =>
      // A weight where a volume is wanted is right in itself: other channels may want the weight.
      problem === "other-dimension" ? { asks: "field", value } : { asks: "source", value },
  }),
  "wrong-currency": listingFinding<
    FieldFact & { readonly value: string; readonly currency: string; readonly permitted: readonly string[] }
  >({
    says: ({ label, value, permitted }, files) =>
      `${label} is ${value}; the channel takes ${permitted.join(", ")}: ${exchangeIt(permitted, files)}`,
    ofMany: ({ label, permitted }, files) =>
      `${label} is in another currency than ${permitted.join(", ")}: ${exchangeIt(permitted, files)}`,
    apart: ({ currency }) => currency,
    act: (_, where) => fillIt(where),
    asks: nothing,
  }),
  "torn-list": listingFinding<FieldFact & { readonly value: string; readonly mark: string }>({
    says: ({ label, value, mark }) =>
      `${label} has the value ${quote(value)}, which holds ${quote(mark)}, the mark between values in the channel's file; write it without, or take it out in the fill`,
    ofMany: ({ label, mark }) =>
      `${label} has a value with ${quote(mark)}, the mark between values in the channel's file; write it without, or take it out in the fill`,
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
  "banned-content": listingFinding<FieldFact & { readonly found: string; readonly says: string }>({
    says: ({ label, found, says }) => `${label} contains ${quote(found)}: ${says}`,
    ofMany: ({ label, says }) => `${label}: ${says}`,
    apart: ({ says }) => says,
    act: correct("take out what is banned, or clean it in its fill in {fills}"),
    asks: () => ({ asks: "standing" }),
  }),
  /** A title that says the brand and nothing of the product. */
  "brand-as-title": listingFinding<FieldFact & { readonly value: string; readonly fills: string }>({
    says: ({ label, value, fills }) =>
      `${label} is ${quote(value)}, the brand alone; give the product its name, or change the fill in ${fills}`,
    ofMany: ({ label, fills }) =>
      `${label} is the brand alone; give the products their names, or change the fill in ${fills}`,
    apart: byField,
    act: (_, where) => fillIt(where),
    asks: nothing,
  }),
  "repeated-search-words": listingFinding<FieldFact & { readonly words: readonly string[] }>({
    says: ({ label, words }) =>
      `${label} repeats what the title says already: ${listed(words)}; use the room for other words`,
    ofMany: ({ label }) => `${label} repeats what the title says already; use the room for other words`,
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
  "shared-barcode": listingFinding<
    FieldFact & { readonly value: string; readonly others: readonly string[] }
  >({
    says: ({ label, value, others }) =>
      `${label} ${value} is also that of ${listed(others)}, which goes to this channel as well; one of them is wrong: compare both with the packaging`,
    ofMany: ({ label }) =>
      `${label} is also that of another product that goes to this channel; compare both with the packaging`,
    apart: byField,
    act: correct("compare the barcodes with the packaging"),
    asks: ({ value }) => ({ asks: "source", value }),
  }),
  "repeated-id": listingFinding<FieldFact & { readonly value: string; readonly other: string }>({
    says: ({ label, value, other }) =>
      `${label} ${quote(value)} is also that of ${quote(other)}; the channel would take both for one: change the fill, or one of the SKUs`,
    ofMany: ({ label }) =>
      `${label} is also that of another product; the channel would take both for one: change the fill, or one of the SKUs`,
    apart: byField,
    act: correctIt,
    asks: nothing,
  }),
  "rule-broken": listingFinding<{ readonly rule: string; readonly says: string }>({
    says: ({ says }) => says,
    ofMany: asOne,
    apart: ({ rule }) => rule,
    act: correct("see the rule, and give what it asks for"),
    asks: ({ rule }) => ({ asks: "rule", rule }),
  }),
  "check-crashed": listingFinding<{ readonly check: string; readonly reason: string }>({
    says: ({ check, reason }) => `the check ${check} failed on this product: ${reason}`,
    ofMany: asOne,
    apart: ({ check }) => check,
    act: correctIt,
    asks: nothing,
  }),
} as const;

/** What makes a price one of the channel's. */
const exchangeIt = ([first = ""]: readonly string[], { rates }: FileNames): string =>
  `give it in one of them, or exchange it in the fill, exchange(price, "${first}"), by a rate in ${rates}`;
