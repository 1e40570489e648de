import { showing, withRows, type ApplyPurpose } from "./purpose.js";

/** Price, stock and state against an entry that the channel has: the fields that the definition names, for each thing that is sold. */
export const offer: ApplyPurpose = ({ members }, { fields: { must, may } }) => {
  const rows = members.filter((row) => [...must].every((field) => row.value(field) !== undefined));
  return withRows(
    undefined,
    rows.map((row) => showing(row, (field) => may.has(field))),
  );
};
