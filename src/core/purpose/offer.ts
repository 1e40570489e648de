import type { FileRow } from "../listing/shape/file-family.js";
import { showing, withRows, type ApplyPurpose, type PurposeFacts } from "./purpose.js";

/** Whether a row goes into a file against what the channel has already; what does not is told. */
function isFor(row: FileRow, { fields, live, purpose, rule, omit }: PurposeFacts): boolean {
  if (!rule.opens && live(row.sku) === undefined) {
    omit?.(row, { code: "never-sent", facts: { purpose } });
    return false;
  }
  const lacked = [...fields.must].filter((field) => row.value(field) === undefined);
  if (lacked.length > 0)
    omit?.(row, { code: "lacks-for-purpose", facts: { purpose, labels: lacked.map(({ label }) => label) } });
  return lacked.length === 0;
}

/** Price, stock and state against an entry that the channel has: the fields that the definition names, for each thing that is sold. */
export const offer: ApplyPurpose = ({ members }, facts) => {
  const { may } = facts.fields;
  const rows = members.filter((row) => isFor(row, facts));
  return withRows(
    undefined,
    rows.map((row) => showing(row, (field) => may.has(field))),
  );
};
