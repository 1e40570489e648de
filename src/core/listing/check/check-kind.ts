import type { CategoryField } from "../../channel/category-rules.js";
import type { Severity } from "../../diagnostics/diagnostic.js";
import type { Code, FactsByCode } from "../../diagnostics/findings/findings.js";
import type { Place } from "../../diagnostics/place.js";
import type { Value } from "../../values/value.js";
import type { ChannelSetup } from "../channel-setup.js";
import type { Listing } from "../listing.js";
import type { PlannedCategory } from "../plan.js";
import type { VariedFamily } from "../vary.js";

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
  for(rule: CategoryField, setup: ChannelSetup): FieldTest | undefined;
}

/** What a listing must keep to as a whole. */
export interface ListingCheck {
  readonly name: string;
  /** Is asked once for the listings of a plan. */
  for(plan: PlannedCategory, setup: ChannelSetup): ListingTest | undefined;
}

/** What the listings of one family must keep to among each other. */
export interface FamilyCheck {
  readonly name: string;
  check(family: VariedFamily, reportFor: (index: number) => Report): void;
}
