import { fieldSet, showing, withRows, type ApplyPurpose } from "./purpose.js";

/** Price, stock and state against an entry that the channel has: the fields that the definition names, for each thing that is sold. */
export const offer: ApplyPurpose = ({ members }, facts) => {
  const must = fieldSet(facts.rule.must, facts);
  const may = new Set([...must, ...fieldSet(facts.rule.may, facts)]);
  const rows = members.filter((row) => [...must].every((field) => row.value(field) !== undefined));
  return withRows(
    undefined,
    rows.map((row) => showing(row, (field) => may.has(field))),
  );
};
