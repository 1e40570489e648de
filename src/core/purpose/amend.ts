import type { FileRow } from "../listing/file-family.js";
import { changedFields, showing, withRows, type ApplyPurpose } from "./purpose.js";

/** Only what differs from what the channel has, or the fields asked for, beside those that tell which listing it is. */
export const amend: ApplyPurpose = ({ group, members }, { only, fields, live, definition }) => {
  const { keys, must } = fields;
  const amended = (row: FileRow): readonly FileRow[] => {
    const before = live(row.sku);
    // What the channel does not have yet cannot be amended: it goes with a full file.
    if (before === undefined) return [];
    const told = only ?? new Set(changedFields(row, before, definition));
    const says = [...told].some(
      (field) => !keys.has(field) && !must.has(field) && row.value(field) !== undefined,
    );
    return says ? [showing(row, (field) => keys.has(field) || must.has(field) || told.has(field))] : [];
  };
  return withRows(group === undefined ? undefined : amended(group)[0], members.flatMap(amended));
};
