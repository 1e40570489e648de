/**
 * From findings to questions: what a listing needs a person's answer for, and what no answer in a sheet would settle.
 */
import { addAll } from "../many.js";
import { assertNever } from "../assert-never.js";
import type { Family } from "../catalogue/family.js";
import { textOf } from "../catalogue/product.js";
import type { CategoryField } from "../channel/category-rules.js";
import { isError, type Diagnostic } from "../diagnostics/diagnostic.js";
import { askedFor } from "../diagnostics/entry.js";
import type { ChannelSetup } from "../listing/channel-setup.js";
import type { Listing } from "../listing/listing.js";
import { canonicalText, shownText } from "../values/show.js";
import { fromName, fromSiblings, fromTerm, shortened } from "./propose-answer.js";
import type { AnswerProposal, Target } from "./question.js";

/** One thing that a listing needs a person's answer for. */
export interface Ask {
  readonly target: Target;
  readonly channel: string;
  readonly rule: CategoryField;
  /** The attributes that would do as well, the one asked for first; only where an attribute is asked for. */
  readonly choices: readonly string[];
  /** What stands there now and is wrong, or the term that has no value. */
  readonly now: string | undefined;
  readonly proposal: AnswerProposal | undefined;
}

/** What is to be asked of a listing, and what no answer in a sheet would settle. */
export interface Asks {
  readonly asks: readonly Ask[];
  readonly others: readonly Diagnostic[];
}

interface Asking {
  readonly listing: Listing;
  readonly family: Family;
  readonly setup: ChannelSetup;
}

/** What a listing's findings come to as questions; `withAdvice` asks for what is only recommended, too. */
export function asksOf(
  listing: Listing,
  findings: readonly Diagnostic[],
  family: Family,
  setup: ChannelSetup,
  withAdvice = false,
): Asks {
  const asks: Ask[] = [];
  const others: Diagnostic[] = [];
  for (const finding of findings) {
    if (!isError(finding) && !(withAdvice && finding.code === "missing-recommended")) continue;
    const found = asksFor(finding, { listing, family, setup });
    if (found.length === 0) others.push(finding);
    addAll(asks, found);
  }
  return { asks, others };
}

function asksFor(finding: Diagnostic, asking: Asking): readonly Ask[] {
  const asked = askedFor(finding);
  if (asked.asks === "nothing") return [];
  if (asked.asks === "rule") return brokenRule(asked.rule, asking);
  const rule = ruleOf(finding.field, asking);
  if (rule === undefined) return [];
  switch (asked.asks) {
    case "missing":
      return [missing(rule, asking)];
    case "term":
      return rule.limits.values === undefined ? [] : [term(rule, asked.value, asking)];
    case "source":
      return [wrong(rule, asked.value, asking)];
    case "field":
      return [ofField(rule, asked.value, undefined, asking)];
    case "shorter":
      return [ofField(rule, asked.value, shortened(asked.value, rule), asking)];
    case "standing":
      return [ofField(rule, valueText(rule, asking), undefined, asking)];
    default:
      return assertNever(asked);
  }
}

const ruleOf = (code: string | undefined, { listing }: Asking): CategoryField | undefined =>
  code === undefined ? undefined : listing.plan.fields.find(({ rule }) => rule.field.code === code)?.rule;

const valueText = ({ field }: CategoryField, { listing }: Asking): string =>
  canonicalText(listing.value(field.slot), " | ");

const ofField = (
  rule: CategoryField,
  now: string | undefined,
  proposal: AnswerProposal | undefined,
  { setup }: Asking,
): Ask => ({
  target: { kind: "field", channel: setup.channel, field: rule.field.code },
  channel: setup.channel,
  choices: [],
  rule,
  now,
  proposal,
});

const ofAttribute = (
  rule: CategoryField,
  choices: readonly [string, ...string[]],
  now: string | undefined,
  { setup, listing, family }: Asking,
): Ask => ({
  target: { kind: "attribute", attribute: choices[0] },
  channel: setup.channel,
  rule,
  choices,
  now,
  proposal: fromSiblings(choices[0], listing.product, family) ?? fromName(rule, listing.product),
});

function missing(rule: CategoryField, asking: Asking): Ask {
  const { product, plan } = asking.listing;
  const reads = plan.bySlot[rule.field.slot]?.fill?.program.reads ?? [];
  const [first, ...others] = reads
    .filter((slot) => product.text(slot) === undefined)
    .map((slot) => product.attributes.names[slot] ?? "");
  return first === undefined
    ? ofField(rule, undefined, fromName(rule, product), asking)
    : ofAttribute(rule, [first, ...others], undefined, asking);
}

/** A wrong value is asked for where it stands: in the attribute that gives it as it is, or else in the field. */
function wrong(rule: CategoryField, written: string, asking: Asking): Ask {
  const { product, plan } = asking.listing;
  const reads = plan.bySlot[rule.field.slot]?.fill?.program.reads ?? [];
  const source = reads.find((slot) => {
    const value = product.value(slot);
    return value !== undefined && (product.text(slot) === written || shownText(value) === written);
  });
  const name = source === undefined ? undefined : product.attributes.names[source];
  return name === undefined
    ? ofField(rule, written, undefined, asking)
    : { ...ofAttribute(rule, [name], written, asking), proposal: undefined };
}

const term = (rule: CategoryField, written: string, { setup }: Asking): Ask => ({
  target: { kind: "term", channel: setup.channel, field: rule.field.code },
  channel: setup.channel,
  choices: [],
  now: written,
  rule,
  proposal: fromTerm(written, rule),
});

/** A rule between fields asks for those that are blank; where none is, for the first that it looks at. */
function brokenRule(code: string, asking: Asking): readonly Ask[] {
  const { listing } = asking;
  const rule = listing.plan.rules.crossRules.find((one) => one.code === code);
  const looked = (rule?.holds.reads ?? []).flatMap((slot) => listing.plan.bySlot[slot]?.rule ?? []);
  const blank = looked.filter(({ field }) => listing.value(field.slot) === undefined);
  const [first] = looked;
  if (blank.length > 0)
    return blank.filter(({ field }) => field.kind !== "yes-no").map((one) => missing(one, asking));
  return first === undefined ? [] : [ofField(first, valueText(first, asking), undefined, asking)];
}

/** What of a product helps a person to answer. */
export function helpOf({ product }: Pick<Listing, "product">): string {
  return ["brand", "color", "size", "material", "mpn"]
    .flatMap((attribute) => textOf(product, attribute) ?? [])
    .join(", ");
}
