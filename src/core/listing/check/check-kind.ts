/**
 * The shapes of checks: of a value, of a listing, of a family. A check is asked once for its rule or plan and gives a
 * test, or nothing where it has nothing to ask.
 */
import type { CategoryField } from "../../channel/category-rules.js";
import type { Severity } from "../../diagnostics/diagnostic.js";
import type { Code, FactsByCode } from "../../diagnostics/findings/findings.js";
import type { Place } from "../../diagnostics/place.js";
import type { Value } from "../../values/value.js";
import type { ChannelSetup } from "../channel-setup.js";
import type { Listing } from "../listing.js";
import type { PlannedCategory } from "../plan.js";
import type { VariedFamily } from "../vary.js";

/**
 * What a check or a stage may look at beyond the product's own family and the channel's decisions: parts of the setup that
 * change while neither does. What was found of a family holds only as long as none of these changed for it, so each is
 * followed in `flow/kept/changed-families.ts`, and a check sees those alone that it declares.
 */
export type Beyond = "barcodeTwins" | "live" | "lastRefusal" | "lastPrices" | "ids";

/** The setup without anything that lies beyond. */
export type OwnSetup = Omit<ChannelSetup, Beyond>;

/** How a check says what it found; where it is gets added by the one who runs it, so that no check repeats it. */
export type Report = <C extends Code>(
  code: C,
  facts: FactsByCode[C],
  about?: { readonly field?: CategoryField; readonly severity?: Severity; readonly place?: Place },
) => void;

/** Looks at one value of the field that it was made for. */
export type FieldTest = (value: Value, report: Report) => void;

/** Looks at one listing of the plan that it was made for. */
export type ListingTest = (listing: Listing, report: Report) => void;

/** What every value of a field must keep to. */
export interface FieldCheck {
  readonly name: string;
  /** Is asked once for a field's rule; where the rule asks nothing of the kind there is no test. */
  for(rule: CategoryField, setup: OwnSetup): FieldTest | undefined;
}

/** What a listing must keep to as a whole. */
export interface ListingCheck<Seen extends Beyond = never> {
  readonly name: string;
  /** What it looks at beyond the family: it is given no more than that. */
  readonly beyond: readonly Seen[];
  /** Is asked once for the listings of a plan. */
  for(plan: PlannedCategory, setup: OwnSetup & Pick<ChannelSetup, Seen>): ListingTest | undefined;
}

/** A listing check, whatever it looks at. */
export type AnyListingCheck = ListingCheck<Beyond>;

/** What the listings of one family must keep to among each other. */
export interface FamilyCheck {
  readonly name: string;
  check(family: VariedFamily, reportFor: (index: number) => Report): void;
}
