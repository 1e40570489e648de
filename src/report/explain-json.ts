/** How a listing came about, for programs. */
import { isError } from "../core/diagnostics/diagnostic.js";
import { sentence } from "../workspace/wording.js";
import { sharesOf } from "../core/listing/readiness/readiness.js";
import { stateWords } from "../core/listing/state-words.js";
import { shownText } from "../core/values/show.js";
import { isList, type MaybeBlank } from "../core/values/value.js";
import { jsonLine } from "./json.js";
import type { ExplainedField, ExplainedListing } from "../flow/explain/explain-listing.js";
import { valueText } from "./explain-report.js";
import { whatToDo } from "../flow/explain/what-to-do.js";

const valueJson = (value: MaybeBlank): unknown =>
  value === undefined ? null : isList(value) ? value.map(shownText) : shownText(value);

const giverJson = ({ giver }: ExplainedField): unknown =>
  giver.by === "fill"
    ? {
        by: "fill",
        fill: giver.fill.program.source.text,
        place: giver.fill.program.source.place,
        standsFor: giver.fill.usual?.program.source.place,
      }
    : giver;

const fieldPart = (field: ExplainedField): Readonly<Record<string, unknown>> => ({
  field: field.rule.field.code,
  label: field.rule.field.label,
  need: field.need.need,
  rule: field.need.place,
  value: valueJson(field.value),
  from: giverJson(field),
  attributes: field.attributes.map(({ name, value, from, isMade }) => ({
    name,
    value: valueJson(value),
    from,
    isMade,
  })),
});

const actsJson = ({ outcome, product }: ExplainedListing): unknown =>
  outcome.findings.filter(isError).map((finding) => ({
    code: finding.code,
    message: sentence(finding),
    act: whatToDo(finding, product.sku),
  }));

/** A listing with its fields. */
export function listingJson(explained: ExplainedListing, fields: readonly ExplainedField[]): string {
  const { product, setup, outcome, listing, placed } = explained;
  return jsonLine({
    type: "explained-listing",
    sku: product.sku,
    channel: setup.channel,
    state: stateWords[outcome.kind],
    category: listing?.plan.rules.category.code ?? null,
    placement: placed ?? null,
    ...(listing === undefined ? {} : { shares: sharesOf(listing, setup.definition, outcome.findings) }),
    findings: outcome.findings.map((finding) => ({
      severity: finding.severity,
      code: finding.code,
      message: sentence(finding),
    })),
    acts: actsJson(explained),
    fields: fields.map(fieldPart),
  });
}

/** One field by itself. */
export function fieldJson(
  { product, setup, outcome }: ExplainedListing,
  field: ExplainedField,
  sources: ReadonlyMap<string, readonly string[]>,
): string {
  return jsonLine({
    type: "explained-field",
    sku: product.sku,
    channel: setup.channel,
    state: stateWords[outcome.kind],
    ...fieldPart(field),
    steps: field.steps.map(({ text, value }) => ({ part: text, value: valueText(value) })),
    sources: Object.fromEntries(sources),
    findings: field.findings.map((finding) => ({
      code: finding.code,
      message: sentence(finding),
      act: whatToDo(finding, product.sku),
    })),
  });
}
