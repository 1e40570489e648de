/**
 * Runs the checks over a family's listings, and turns what they report into findings with place and provenance. A crash
 * in a check is a finding on that product.
 */
import { diagnostic, isError, type Diagnostic, type Note } from "../../diagnostics/diagnostic.js";
import type { Code, FactsByCode } from "../../diagnostics/findings/findings.js";
import type { Place } from "../../diagnostics/place.js";
import type { ProductView } from "../../catalogue/product.js";
import type { FamilyCheck, Report } from "./check-kind.js";
import { familyChecks } from "./checks/checks.js";
import { planTests, type NamedTest, type PlanTests } from "./plan-tests.js";
import type { ChannelSetup } from "../channel-setup.js";
import type { Listing, Outcome } from "../listing.js";
import { percentOf, sharesOf } from "../readiness/readiness.js";
import type { VariedFamily } from "../vary.js";

/** Tells the file, row and column that an attribute's value came from. */
export type Provenance = (product: ProductView, slot: number) => Place | undefined;

/** Checks the listings of one family after the other by every rule, and by checks that remember what came before; says which are ready. */
export function checker(
  setup: ChannelSetup,
  provenance: Provenance,
  further: readonly FamilyCheck[] = [],
): (family: VariedFamily) => readonly Outcome[] {
  const testsOf = planTests(setup);
  const forFamilies = [...familyChecks, ...further];
  return (family) => {
    const { listings } = family;
    const told = new Told(listings, setup, provenance);
    for (const [index, listing] of listings.entries()) {
      told.turnTo(index);
      checkListing(listing, testsOf(listing.plan), told);
    }
    const reportFor = (index: number): Report => told.reportFor(index);
    for (const check of forFamilies)
      try {
        check.check(family, reportFor);
      } catch (crash) {
        crashed(check.name, crash, reportFor(0));
      }
    return listings.map((listing, index) => outcome(listing, told.of(index), setup));
  };
}

/** What is told of one family's listings; until something is, there is nothing to keep. */
class Told {
  /** Findings so far, of all listings. */
  count = 0;
  private findings: (Diagnostic[] | undefined)[] | undefined;
  private at = 0;

  constructor(
    private readonly listings: readonly Listing[],
    private readonly setup: ChannelSetup,
    private readonly provenance: Provenance,
  ) {}

  /** The listing that {@link report} speaks of from now on. */
  turnTo(index: number): void {
    this.at = index;
  }

  readonly report: Report = (code, facts, about = {}) => this.add(this.at, code, facts, about);

  reportFor(index: number): Report {
    return (code, facts, about = {}) => this.add(index, code, facts, about);
  }

  of(index: number): readonly Diagnostic[] {
    return this.findings?.[index] ?? this.listings[index]?.notes ?? [];
  }

  private add<C extends Code>(
    index: number,
    code: C,
    facts: FactsByCode[C],
    about: Parameters<Report>[2] & object,
  ): void {
    const listing = this.listings[index];
    if (listing === undefined) return;
    this.count++;
    const all = (this.findings ??= []);
    (all[index] ??= [...listing.notes]).push(
      finding(listing, this.setup, this.provenance, code, facts, about),
    );
  }
}

function outcome(listing: Listing, findings: readonly Diagnostic[], setup: ChannelSetup): Outcome {
  const { product } = listing;
  if (findings.some(isError)) return { kind: "held", listing, findings };
  const least = setup.selection.leastReadiness;
  const percent = least === undefined ? 100 : percentOf(sharesOf(listing, setup.definition));
  if (least === undefined || percent >= least) return { kind: "ready", listing, findings };
  const where = { product: product.sku, channel: setup.channel };
  return {
    kind: "left-out",
    product,
    listing,
    findings: [diagnostic("below-least-readiness", { percent, least }, where, "advice")],
  };
}

function checkListing(listing: Listing, tests: PlanTests, told: Told): void {
  runAll(tests.listing, listing, told.report);
  for (const { slot, tests: ofField, sound } of tests.fields) {
    const filled = listing.filled(slot);
    if (filled?.value === undefined || sound.has(filled)) continue;
    const before = told.count;
    runAll(ofField, filled.value, told.report);
    if (told.count === before) sound.add(filled);
  }
}

function runAll<T>(
  tests: readonly NamedTest<(of: T, report: Report) => void>[],
  of: T,
  report: Report,
): void {
  for (const { name, test } of tests)
    try {
      test(of, report);
    } catch (crash) {
      crashed(name, crash, report);
    }
}

/** A crash inside one check is a finding on that product; the others go on. */
function crashed(check: string, crash: unknown, report: Report): void {
  report("check-crashed", { check, reason: crash instanceof Error ? crash.message : String(crash) });
}

function finding<C extends Code>(
  { product, plan }: Listing,
  { channel }: ChannelSetup,
  provenance: Provenance,
  code: C,
  facts: FactsByCode[C],
  { field: rule, severity = "error", place }: Parameters<Report>[2] & object,
): Diagnostic {
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
}
