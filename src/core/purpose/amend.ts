import type { FileRow } from "../listing/shape/file-family.js";
import { changedFields, showing, withRows, type ApplyPurpose } from "./purpose.js";

/** Only what differs from what the channel has, or the fields asked for, beside those that tell which listing it is. */
export const amend: ApplyPurpose = ({ group, members }, facts) => {
  const { only, fields, live, definition, rule, omit } = facts;
  const { keys, must } = fields;
  const amended = (row: FileRow): readonly FileRow[] => {
    const before = live(row.sku);
    // What the channel does not have yet cannot be amended: it goes with a full file.
    if (before === undefined) {
      if (row.kind !== "group") omit?.(row, { code: "never-sent", facts: { purpose: "amend" } });
      return [];
    }
    const told = only ?? new Set(changedFields(row, before, definition));
    // Where a blank erases, nothing may be left out of a row, and a blank says something, too.
    const erases = rule.blank === "erase";
    const says = [...told].some(
      (field) => !keys.has(field) && !must.has(field) && (erases || row.value(field) !== undefined),
    );
    if (says && erases) return [row];
    return says ? [showing(row, (field) => keys.has(field) || must.has(field) || told.has(field))] : [];
  };
  return withRows(group === undefined ? undefined : amended(group)[0], members.flatMap(amended));
};
