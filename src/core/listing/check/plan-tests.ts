import type { ChannelSetup } from "../channel-setup.js";
import type { PlannedCategory } from "../plan.js";
import type { FieldTest, ListingTest } from "./check-kind.js";
import { fieldChecks, listingChecks } from "./checks/checks.js";

export interface NamedTest<T> {
  /** The check that it is of. */
  readonly name: string;
  readonly test: T;
}

/** The tests of the values of one field. */
export interface FieldTests {
  readonly slot: number;
  readonly tests: readonly NamedTest<FieldTest>[];
}

/** All that the listings of one plan are tested by: checks that have nothing to ask of them are not there. */
export interface PlanTests {
  readonly listing: readonly NamedTest<ListingTest>[];
  readonly fields: readonly FieldTests[];
}

const applying = <T>(
  checks: readonly { readonly name: string; readonly test: T | undefined }[],
): readonly NamedTest<T>[] =>
  checks.flatMap(({ name, test }) => (test === undefined ? [] : [{ name, test }]));

const testsFor = (plan: PlannedCategory, setup: ChannelSetup): PlanTests => ({
  listing: applying(listingChecks.map((check) => ({ name: check.name, test: check.for(plan, setup) }))),
  fields: plan.fields
    .map(({ rule }) => ({
      slot: rule.field.slot,
      tests: applying(fieldChecks.map((check) => ({ name: check.name, test: check.for(rule, setup) }))),
    }))
    .filter(({ tests }) => tests.length > 0),
});

/** The tests of each plan, made when its first listing comes. */
export const planTests = (setup: ChannelSetup): ((plan: PlannedCategory) => PlanTests) => {
  const known = new Map<PlannedCategory, PlanTests>();
  return (plan) => {
    const tests = known.get(plan);
    if (tests !== undefined) return tests;
    const made = testsFor(plan, setup);
    known.set(plan, made);
    return made;
  };
};
