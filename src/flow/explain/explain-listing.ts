/** How one listing came about, field by field: fill, values read, rule, findings. The same programs as a build. */
import type { Family } from "../../core/catalogue/family.js";
import { textOf, type Product } from "../../core/catalogue/product.js";
import type { CategoryField } from "../../core/channel/category-rules.js";
import { categoryFieldOf, fieldNamed } from "../../core/channel/definition.js";
import { diagnostic, type Diagnostic } from "../../core/diagnostics/diagnostic.js";
import { nearest } from "../../core/values/nearest.js";
import type { Place } from "../../core/diagnostics/place.js";
import { Refusal } from "../../core/diagnostics/refusal.js";
import type { Surroundings } from "../../core/language/function.js";
import { program } from "../../core/language/program.js";
import { channelTerms } from "../../core/listing/fill/channel-terms.js";
import type { ChannelSetup } from "../../core/listing/channel-setup.js";
import { needFor } from "../../core/listing/demand.js";
import { fillNames } from "../../core/listing/fill/fill-names.js";
import type { Fill } from "../../core/listing/fill/fill-set.js";
import { productOf, type Listing, type Outcome } from "../../core/listing/listing.js";
import { pipelineFor } from "../../core/listing/pipeline.js";
import type { PlannedField } from "../../core/listing/plan.js";
import { plansOf } from "../../core/listing/plans.js";
import { fillTrial } from "../../core/listing/trial.js";
import { canonicalText } from "../../core/values/show.js";
import { type MaybeBlank } from "../../core/values/value.js";
import type { Store } from "../../store/store.js";
import type { WorkspaceChannel } from "../../workspace/channel-files.js";
import { provenanceIn } from "../run-channels.js";
import { stepWatch, type TriedStep } from "../try/steps.js";

/** Where one product stands on one channel, with all that led there. */
export interface ExplainedListing {
  readonly product: Product;
  readonly family: Family;
  readonly setup: ChannelSetup;
  readonly outcome: Outcome;
  /** Undefined where the product was left out or has no category. */
  readonly listing: Listing | undefined;
  readonly placed: Place | undefined;
}

/** What gave a field its value. */
export type Giver =
  | { readonly by: "placement"; readonly place: Place | undefined }
  | { readonly by: "answer"; readonly attribute: string; readonly place: Place | undefined }
  | { readonly by: "fill"; readonly fill: Fill }
  | { readonly by: "channel"; readonly value: string }
  | { readonly by: "nothing" };

/** An attribute that a fill reads, with where its value stands. */
export interface ReadAttribute {
  readonly name: string;
  readonly value: MaybeBlank;
  readonly from: (Place & { readonly layer: string }) | undefined;
  /** Whether the channel's own rules for prices and stock made it. */
  readonly isMade: boolean;
}

/** How one field came about. */
export interface ExplainedField {
  readonly rule: CategoryField;
  readonly need: ReturnType<typeof needFor>;
  readonly value: MaybeBlank;
  readonly giver: Giver;
  readonly attributes: readonly ReadAttribute[];
  readonly steps: readonly TriedStep[];
  /** What the fill gave, before it became the channel's value; blank where nothing was changed. */
  readonly given: MaybeBlank;
  readonly findings: readonly Diagnostic[];
}

/** Undefined where no product has the SKU. */
export async function explainListing(
  sku: string,
  { setup, recall }: WorkspaceChannel,
  store: Store,
): Promise<ExplainedListing | undefined> {
  const family = await store.familyOf(sku);
  if (family === undefined) return undefined;
  await recall([family]);
  const listings: Listing[] = [];
  const pipeline = pipelineFor(setup, await provenanceIn(store), (listing) => listings.push(listing));
  const outcome = pipeline(family).find((one) => productOf(one).sku === sku);
  if (outcome === undefined) return undefined;
  const product = productOf(outcome);
  return {
    product,
    family,
    setup,
    outcome,
    listing: listings.find((listing) => listing.product.sku === sku),
    placed: setup.placements.find(sku, textOf(product, "category"))?.place,
  };
}

function giverOf(
  { product, setup, placed }: ExplainedListing,
  { rule, fill, answer }: PlannedField,
  store: Store,
): Giver {
  if (rule.field === categoryFieldOf(setup.definition)) return { by: "placement", place: placed };
  if (answer !== undefined && product.text(answer) !== undefined) {
    const attribute = product.attributes.names[answer] ?? "";
    const origin = product.origin(answer);
    return { by: "answer", attribute, place: origin && store.placeOf(origin, attribute) };
  }
  if (fill !== undefined) return { by: "fill", fill };
  return rule.field.defaultValue === ""
    ? { by: "nothing" }
    : { by: "channel", value: rule.field.defaultValue };
}

function attributesOf(
  { product: member, family, setup }: ExplainedListing,
  planned: PlannedField,
  fill: Fill,
  store: Store,
): readonly ReadAttribute[] {
  const product = fillTrial(member.sku, family, setup, plansOf(setup))?.productOf(planned) ?? member;
  const base = family.members.find(({ sku }) => sku === member.sku);
  const slots = [...fill.program.reads, ...(fill.usual?.program.reads ?? [])];
  return [...new Set(slots)].map((slot) => {
    const name = product.attributes.names[slot] ?? "";
    const origin = product.origin(slot);
    const value = product.value(slot);
    const isMade =
      value !== undefined &&
      product.sku === member.sku &&
      product.text(slot) !== base?.text(slot) &&
      (origin === undefined || origin === base?.origin(slot));
    return { name, value, isMade, from: origin === undefined ? undefined : store.placeOf(origin, name) };
  });
}

/** Works one fill out again, watching its parts. */
function watched(
  { product, family, setup }: ExplainedListing,
  planned: PlannedField,
  surroundings: Surroundings,
): { readonly steps: readonly TriedStep[]; readonly given: MaybeBlank } {
  const { fill } = planned;
  const scope = fillTrial(product.sku, family, setup, plansOf(setup));
  if (fill === undefined || scope === undefined) return { steps: [], given: undefined };
  const { definition, attributes, lexicon } = setup;
  const watch = stepWatch();
  const compiled = program(
    fill.program.source,
    fillNames(attributes, definition),
    { ...surroundings, channelTerm: channelTerms(definition, lexicon) },
    "any",
    watch.observe,
  );
  if (compiled.kind === "faulty") throw new Refusal(compiled.findings);
  watch.begin();
  let given: MaybeBlank;
  const run: typeof compiled.run = (scope, troubles) => (given = compiled.run(scope, troubles));
  // Nothing is taken from memory, or read past the program, that is to be watched.
  const watchedFill = { ...fill, program: { ...compiled, isJust: undefined, run } };
  scope.field({ ...planned, answer: undefined, memo: undefined, fill: watchedFill });
  return { steps: watch.steps(fill.program.source.text), given };
}

/** How one field of the listing came about. */
export function explainField(
  explained: ExplainedListing,
  listing: Listing,
  planned: PlannedField,
  surroundings: Surroundings,
  store: Store,
): ExplainedField {
  const { rule } = planned;
  const giver = giverOf(explained, planned, store);
  const { steps, given } =
    giver.by === "fill" ? watched(explained, planned, surroundings) : { steps: [], given: undefined };
  const value = listing.value(rule.field.slot);
  return {
    rule,
    giver,
    value,
    steps,
    given: same(given, value) ? undefined : given,
    need: needFor(rule, listing),
    attributes: giver.by === "fill" ? attributesOf(explained, planned, giver.fill, store) : [],
    findings: explained.outcome.findings.filter(({ field }) => field === rule.field.code),
  };
}

const same = (a: MaybeBlank, b: MaybeBlank): boolean => canonicalText(a) === canonicalText(b);

/** The planned field that a person named; refuses one that the category does not have. */
export function plannedField(listing: Listing, code: string, { definition }: ChannelSetup): PlannedField {
  const field = fieldNamed(definition, code);
  const planned = field === undefined ? undefined : listing.plan.bySlot[field.slot];
  if (planned !== undefined) return planned;
  const codes = listing.plan.fields.map(({ rule }) => rule.field.code);
  throw new Refusal([diagnostic("unknown-field", { field: code, nearest: nearest(code, codes) })]);
}
