/** The tests of one plan, made once: what has nothing to ask of its fields is not among them. */
import type { ChannelSetup } from "../channel-setup.js";
import type { Filled } from "../fill/filled.js";
import type { PlannedCategory } from "../plan.js";
import type { FieldTest, ListingTest } from "./check-kind.js";
import { fieldChecks, listingChecks } from "./checks/checks.js";

/** A test with the name of its check. */
export interface NamedTest<T> {
  /** The check that it is of. */
  readonly name: string;
  readonly test: T;
}

/** The tests of the values of one field. */
export interface FieldTests {
  readonly slot: number;
  readonly tests: readonly NamedTest<FieldTest>[];
  /** What the tests had nothing to say of: a fill that repeats gives the very same, which need not be looked at again. */
  readonly sound: WeakSet<Filled>;
}

/** All that the listings of one plan are tested by: checks that have nothing to ask of them are not there. */
export interface PlanTests {
  readonly listing: readonly NamedTest<ListingTest>[];
  readonly fields: readonly FieldTests[];
}

/** The test that a check makes; one that crashes while it makes it crashes on each listing, where that is told. */
function madeBy<T extends FieldTest | ListingTest, Of>(
  check: { for(of: Of, setup: ChannelSetup): T | undefined },
  of: Of,
  setup: ChannelSetup,
): T | (() => never) | undefined {
  try {
    return check.for(of, setup);
  } catch (crash) {
    return () => {
      throw crash;
    };
  }
}

const applying = <T extends FieldTest | ListingTest, Of>(
  checks: readonly { readonly name: string; for(of: Of, setup: ChannelSetup): T | undefined }[],
  of: Of,
  setup: ChannelSetup,
): readonly NamedTest<T | (() => never)>[] =>
  checks.flatMap((check) => {
    const test = madeBy(check, of, setup);
    return test === undefined ? [] : [{ name: check.name, test }];
  });

const testsFor = (plan: PlannedCategory, setup: ChannelSetup): PlanTests => ({
  listing: applying(listingChecks, plan, setup),
  fields: plan.fields
    .map(({ rule }) => ({
      slot: rule.field.slot,
      tests: applying(fieldChecks, rule, setup),
      sound: new WeakSet<Filled>(),
    }))
    .filter(({ tests }) => tests.length > 0),
});

/** The tests of each plan, made when its first listing comes. */
export function planTests(setup: ChannelSetup): (plan: PlannedCategory) => PlanTests {
  const known = new Map<PlannedCategory, PlanTests>();
  return (plan) => {
    const tests = known.get(plan);
    if (tests !== undefined) return tests;
    const made = testsFor(plan, setup);
    known.set(plan, made);
    return made;
  };
}
