import type { PurposeName } from "../channel/purpose-names.js";
import { amend } from "./amend.js";
import { full } from "./full.js";
import { offer } from "./offer.js";
import type { ApplyPurpose } from "./purpose.js";
import { stock } from "./stock.js";

/** What each purpose makes of a family's rows; what is withdrawn comes from the ledger, not from the catalogue. */
export const purposes: Readonly<Record<Exclude<PurposeName, "withdraw">, ApplyPurpose>> = {
  full,
  amend,
  offer,
  stock,
};
