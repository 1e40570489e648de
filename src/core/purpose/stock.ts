import { offer } from "./offer.js";
import { changedFields, withRows, type ApplyPurpose } from "./purpose.js";

/** How much is there, and what the definition lets stand beside it; with `--changed` only where that differs. */
export const stock: ApplyPurpose = (family, facts) => {
  const offered = offer(family, facts);
  if (offered === undefined || !facts.changedOnly) return offered;
  const isNews = (row: (typeof offered.members)[number]): boolean =>
    changedFields(row, facts.live(row.sku), facts.definition).some((field) => row.value(field) !== undefined);
  return withRows(undefined, offered.members.filter(isNews));
};
