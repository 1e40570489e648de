import { changedFields, withRows, type ApplyPurpose, type PurposeFacts } from "./purpose.js";
import { liveValue } from "../listing/live-listing.js";
import type { FileRow } from "../listing/shape/file-family.js";

/** What is blank now and live on the channel stays as it is there, as far as the category still has the field. */
function keeping(row: FileRow, { live }: PurposeFacts): FileRow {
  const before = live(row.sku);
  if (before === undefined) return row;
  const bySlot = row.listing?.plan.bySlot;
  return {
    ...row,
    value: (field) =>
      row.value(field) ?? (bySlot?.[field.slot] === undefined ? undefined : liveValue(before, field)),
  };
}

/** Everything that a listing has. */
export const full: ApplyPurpose = ({ group, members }, facts) => {
  const kept = (row: FileRow): FileRow => (facts.keepLive ? keeping(row, facts) : row);
  const isChanged = (row: FileRow): boolean =>
    !facts.changedOnly || changedFields(row, facts.live(row.sku), facts.definition).length > 0;
  const own = group === undefined ? undefined : kept(group);
  const rows = members.map(kept).filter(isChanged);
  // A group's row stands above its members: without it they would hang in the air.
  if (own !== undefined && (rows.length > 0 || isChanged(own))) return { group: own, members: rows };
  return withRows(undefined, rows);
};
