import type { FamilyCheck, FieldCheck, ListingCheck } from "./check-kind.js";
import { againstLedger } from "./checks/against-ledger.js";
import { bannedContent } from "./checks/banned-content.js";
import { brandAsTitle } from "./checks/brand-as-title.js";
import { crossRules } from "./checks/cross-rules.js";
import { demandedFields } from "./checks/demanded-fields.js";
import { fillProblems } from "./checks/fill-problems.js";
import { itemCount } from "./checks/item-count.js";
import { listedValue } from "./checks/listed-value.js";
import { memberAxes } from "./checks/member-axes.js";
import { membersApart } from "./checks/members-apart.js";
import { numberRange } from "./checks/number-range.js";
import { permittedAxes } from "./checks/permitted-axes.js";
import { permittedCurrency } from "./checks/permitted-currency.js";
import { priceApart } from "./checks/price-apart.js";
import { repeatedSearchWords } from "./checks/repeated-search-words.js";
import { sameDescription } from "./checks/same-description.js";
import { sharedBarcode } from "./checks/shared-barcode.js";
import { textLength } from "./checks/text-length.js";
import { textPattern } from "./checks/text-pattern.js";
import { titlesAlike } from "./checks/titles-alike.js";
import { tornLists } from "./checks/torn-lists.js";
import { tornGroup } from "./checks/torn-group.js";

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
export const listingChecks: readonly ListingCheck[] = [
  fillProblems,
  demandedFields,
  crossRules,
  brandAsTitle,
  sharedBarcode,
  repeatedSearchWords,
  againstLedger,
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
