import { diagnostic, type Diagnostic, type Note } from "../../diagnostics/diagnostic.js";
import type { Code, FactsByCode } from "../../diagnostics/findings/findings.js";
import type { Place } from "../../diagnostics/place.js";
import type { ProductView } from "../../catalogue/product.js";
import type { FamilyCheck, Report } from "./check-kind.js";
import { familyChecks, fieldChecks, listingChecks } from "./checks/checks.js";
import type { ChannelSetup } from "../channel-setup.js";
import type { Listing, Outcome } from "../listing.js";
import { percentOf, sharesOf } from "../readiness/readiness.js";
import type { VariedFamily } from "../vary.js";

/** Tells the file, row and column that an attribute's value came from. */
export type Provenance = (product: ProductView, slot: number) => Place | undefined;

/** Checks one family's listings by every rule, and by checks that remember what came before; says which are ready. */
export const check = (
  family: VariedFamily,
  setup: ChannelSetup,
  provenance: Provenance,
  further: readonly FamilyCheck[] = [],
): readonly Outcome[] => {
  const findings = family.listings.map(({ notes }): Diagnostic[] => [...notes]);
  const reportFor = (index: number): Report => {
    const listing = family.listings[index];
    return (code, facts, about = {}) => {
      if (listing !== undefined)
        findings[index]?.push(finding(listing, setup, provenance, code, facts, about));
    };
  };
  family.listings.forEach((listing, index) => checkListing(listing, setup, reportFor(index)));
  for (const { name, check: run } of [...familyChecks, ...further])
    guarded(name, reportFor(0), () => run(family, (index) => reportFor(index)));
  return family.listings.map((listing, index) => outcome(listing, findings[index] ?? [], setup));
};

const outcome = (listing: Listing, findings: readonly Diagnostic[], setup: ChannelSetup): Outcome => {
  const { product } = listing;
  if (findings.some(({ severity }) => severity === "error")) return { kind: "held", listing, findings };
  const least = setup.selection.leastReadiness;
  const percent = least === undefined ? 100 : percentOf(sharesOf(listing, setup.definition));
  if (least === undefined || percent >= least) return { kind: "ready", listing, findings };
  const where = { product: product.sku, channel: setup.channel };
  return {
    kind: "left-out",
    ...{ product, listing },
    findings: [diagnostic("below-least-readiness", { percent, least }, where, "advice")],
  };
};

const checkListing = (listing: Listing, setup: ChannelSetup, report: Report): void => {
  for (const { name, check: run } of listingChecks) guarded(name, report, () => run(listing, setup, report));
  for (const { rule } of listing.plan.fields) {
    const value = listing.value(rule.field.slot);
    if (value === undefined) continue;
    for (const { name, check: run } of fieldChecks)
      guarded(name, report, () => run({ rule, value, setup, report }));
  }
};

/** A crash inside one check is a finding on that product; the others go on. */
const guarded = (check: string, report: Report, run: () => void): void => {
  try {
    run();
  } catch (crash) {
    report("check-crashed", { check, reason: crash instanceof Error ? crash.message : String(crash) });
  }
};

const finding = <C extends Code>(
  { product, plan }: Listing,
  { channel }: ChannelSetup,
  provenance: Provenance,
  code: C,
  facts: FactsByCode[C],
  { field: rule, severity = "error", place }: Parameters<Report>[2] & object,
): Diagnostic => {
  const notes: Note[] = [];
  if (place !== undefined) notes.push({ note: "rule", place });
  else if (rule !== undefined) notes.push({ note: "rule", place: rule.place });
  const planned = rule === undefined ? undefined : plan.bySlot[rule.field.slot];
  const isAnswered = planned?.answer !== undefined && product.text(planned.answer) !== undefined;
  const fill = isAnswered ? undefined : planned?.fill;
  if (fill !== undefined) notes.push({ note: "fill", place: fill.program.source.place });
  const origin = isAnswered
    ? planned.answer
    : (fill?.program.reads.find((slot) => product.text(slot) !== undefined) ??
      fill?.program.reads.find((slot) => product.unread?.(slot) !== undefined));
  const from = origin === undefined ? undefined : provenance(product, origin);
  return diagnostic(
    code,
    facts,
    {
      product: product.sku,
      channel,
      category: plan.rules.category.code,
      ...(rule === undefined ? {} : { field: rule.field.code }),
      ...(from === undefined ? {} : { place: from }),
      notes,
    },
    severity,
  );
};
