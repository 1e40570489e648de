import type { FileRow } from "../listing/file-family.js";
import { changedFields, fieldSet, keyFields, showing, withRows, type ApplyPurpose } from "./purpose.js";

/** Only what differs from what the channel has, or the fields asked for, beside those that tell which listing it is. */
export const amend: ApplyPurpose = ({ group, members }, facts) => {
  const { only, rule, live } = facts;
  const keys = new Set([...keyFields(facts), ...fieldSet(rule.must, facts)]);
  const amended = (row: FileRow): readonly FileRow[] => {
    // What the channel does not have yet cannot be amended: it goes with a full file.
    if (live(row.sku) === undefined) return [];
    const fields = only ?? changedFields(row, facts);
    const says = [...fields].some((field) => !keys.has(field) && row.value(field) !== undefined);
    return says ? [showing(row, (field) => keys.has(field) || fields.has(field))] : [];
  };
  return withRows(group === undefined ? undefined : amended(group)[0], members.flatMap(amended));
};
