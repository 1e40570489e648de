import type { AnyListingCheck, FamilyCheck, FieldCheck } from "../check-kind.js";
import { againstLedger } from "./against-ledger.js";
import { bannedContent } from "./banned-content.js";
import { brandAsTitle } from "./brand-as-title.js";
import { crossRules } from "./cross-rules.js";
import { demandedFields } from "./demanded-fields.js";
import { fillProblems } from "./fill-problems.js";
import { itemCount } from "./item-count.js";
import { knownRefusals } from "./known-refusals.js";
import { listedValue } from "./listed-value.js";
import { memberAxes } from "./member-axes.js";
import { membersApart } from "./members-apart.js";
import { numberRange } from "./number-range.js";
import { permittedAxes } from "./permitted-axes.js";
import { permittedCurrency } from "./permitted-currency.js";
import { priceApart } from "./price-apart.js";
import { priceJumps } from "./price-jumps.js";
import { repeatedSearchWords } from "./repeated-search-words.js";
import { sameDescription } from "./same-description.js";
import { sharedBarcode } from "./shared-barcode.js";
import { textLength } from "./text-length.js";
import { textPattern } from "./text-pattern.js";
import { titlesAlike } from "./titles-alike.js";
import { tornLists } from "./torn-lists.js";
import { tornGroup } from "./torn-group.js";

/** What every value of a field must keep to. */
export const fieldChecks: readonly FieldCheck[] = [
  textLength,
  numberRange,
  itemCount,
  permittedCurrency,
  textPattern,
  listedValue,
  bannedContent,
];

/** What a listing must keep to as a whole. */
export const listingChecks: readonly AnyListingCheck[] = [
  fillProblems,
  demandedFields,
  crossRules,
  brandAsTitle,
  sharedBarcode,
  repeatedSearchWords,
  againstLedger,
  knownRefusals,
  priceJumps,
  tornLists,
];

/** What the listings of one family must keep to among each other. */
export const familyChecks: readonly FamilyCheck[] = [
  titlesAlike,
  permittedAxes,
  memberAxes,
  membersApart,
  tornGroup,
  priceApart,
  sameDescription,
];
