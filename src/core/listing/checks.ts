import type { CategoryField } from "../channel/category-rules.js";
import type { Value } from "../values/value.js";
import type { ChannelSetup } from "./channel-setup.js";
import type { Report } from "./check.js";
import { crossRules } from "./checks/cross-rules.js";
import { demandedFields } from "./checks/demanded-fields.js";
import { fillProblems } from "./checks/fill-problems.js";
import { itemCount } from "./checks/item-count.js";
import { numberRange } from "./checks/number-range.js";
import { permittedCurrency } from "./checks/permitted-currency.js";
import { textLength } from "./checks/text-length.js";
import { textPattern } from "./checks/text-pattern.js";
import { titlesAlike } from "./checks/titles-alike.js";
import type { Listing } from "./listing.js";
import type { VariedFamily } from "./vary.js";

export interface FieldCheck {
  readonly name: string;
  check(checked: {
    readonly rule: CategoryField;
    readonly value: Value;
    readonly setup: ChannelSetup;
    readonly report: Report;
  }): void;
}

export interface ListingCheck {
  readonly name: string;
  check(listing: Listing, setup: ChannelSetup, report: Report): void;
}

export interface FamilyCheck {
  readonly name: string;
  check(family: VariedFamily, reportFor: (index: number) => Report): void;
}

/** What every value of a field must keep to. */
export const fieldChecks: readonly FieldCheck[] = [
  textLength,
  numberRange,
  itemCount,
  permittedCurrency,
  textPattern,
];

/** What a listing must keep to as a whole. */
export const listingChecks: readonly ListingCheck[] = [fillProblems, demandedFields, crossRules];

/** What the listings of one family must keep to among each other. */
export const familyChecks: readonly FamilyCheck[] = [titlesAlike];
