import type { Value } from "../../values/value.js";
import { diagnostic, isError, type Diagnostic, type Note } from "../../diagnostics/diagnostic.js";
import type { Code, FactsByCode } from "../../diagnostics/findings/findings.js";
import type { Place } from "../../diagnostics/place.js";
import type { ProductView } from "../../catalogue/product.js";
import type { FamilyCheck, Report } from "./check-kind.js";
import { familyChecks } from "./checks/checks.js";
import { planTests, type FieldTests, type PlanTests } from "./plan-tests.js";
import type { ChannelSetup } from "../channel-setup.js";
import type { Listing, Outcome } from "../listing.js";
import { percentOf, sharesOf } from "../readiness/readiness.js";
import type { VariedFamily } from "../vary.js";

/** Tells the file, row and column that an attribute's value came from. */
export type Provenance = (product: ProductView, slot: number) => Place | undefined;

/** Checks the listings of one family after the other by every rule, and by checks that remember what came before; says which are ready. */
export const checker = (
  setup: ChannelSetup,
  provenance: Provenance,
  further: readonly FamilyCheck[] = [],
): ((family: VariedFamily) => readonly Outcome[]) => {
  const testsOf = planTests(setup);
  const forFamilies = [...familyChecks, ...further];
  return (family) => {
    const { listings } = family;
    const findings: (Diagnostic[] | undefined)[] = [];
    const reportFor = (index: number): Report => {
      const listing = listings[index];
      return (code, facts, about = {}) => {
        if (listing !== undefined)
          (findings[index] ??= [...listing.notes]).push(
            finding(listing, setup, provenance, code, facts, about),
          );
      };
    };
    for (const [index, listing] of listings.entries())
      checkListing(listing, testsOf(listing.plan), reportFor(index));
    for (const check of forFamilies)
      try {
        check.check(family, reportFor);
      } catch (crash) {
        crashed(check.name, crash, reportFor(0));
      }
    return listings.map((listing, index) => outcome(listing, findings[index] ?? listing.notes, setup));
  };
};

const outcome = (listing: Listing, findings: readonly Diagnostic[], setup: ChannelSetup): Outcome => {
  const { product } = listing;
  if (findings.some(isError)) return { kind: "held", listing, findings };
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

const checkListing = (listing: Listing, tests: PlanTests, report: Report): void => {
  for (const { name, test } of tests.listing)
    try {
      test(listing, report);
    } catch (crash) {
      crashed(name, crash, report);
    }
  for (const { slot, tests: ofField } of tests.fields) {
    const filled = listing.filled(slot);
    if (filled?.value === undefined || filled.isSound === true) continue;
    if (isSound(filled.value, ofField, report)) filled.isSound = true;
  }
};

/** Whether a field's tests have nothing to say of a value. */
const isSound = (value: Value, tests: FieldTests["tests"], report: Report): boolean => {
  let told = false;
  const telling: Report = (code, facts, about) => {
    told = true;
    report(code, facts, about);
  };
  for (const { name, test } of tests)
    try {
      test(value, telling);
    } catch (crash) {
      crashed(name, crash, telling);
    }
  return !told;
};

/** A crash inside one check is a finding on that product; the others go on. */
const crashed = (check: string, crash: unknown, report: Report): void => {
  report("check-crashed", { check, reason: crash instanceof Error ? crash.message : String(crash) });
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
      fill?.program.reads.find((slot) => product.unread(slot) !== undefined));
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
