/** Rows of decisions follow what they name to another version. */
import type { Renamings } from "./compare-definitions.js";

/** What becomes of one row of a decision table when its channel is re-issued. */
export type CarriedRow =
  | { readonly row: "same" }
  | { readonly row: "changed"; readonly cells: Readonly<Record<string, string>> }
  /** It stays as a comment, with why; a person decides. */
  | { readonly row: "open"; readonly reason: string };

type CellOfColumn = (column: string) => string;

const same: CarriedRow = { row: "same" };

/** A placement follows its category. */
export function carriedPlacement(
  cell: CellOfColumn,
  { categories }: Renamings,
  codeOf: (codeOrPath: string) => string,
): CarriedRow {
  const wanted = cell("channel_category");
  if (wanted === "") return same;
  const code = codeOf(wanted);
  if (!categories.has(code))
    return code === wanted ? same : { row: "changed", cells: { channel_category: code } };
  const to = categories.get(code);
  return to === undefined
    ? { row: "open", reason: `the channel has no category ${wanted} any more` }
    : { row: "changed", cells: { channel_category: to } };
}

/** A row of the lexicon follows its field and its value. */
export function carriedTerm(cell: CellOfColumn, { fields, values }: Renamings): CarriedRow {
  const [field, value] = [cell("field"), cell("channel_value")];
  const isGone = fields.has(field) && fields.get(field) === undefined;
  if (isGone) return { row: "open", reason: `the channel has no field ${field} any more` };
  const own = values.get(field);
  if (own?.has(value) === true && own.get(value) === undefined)
    return { row: "open", reason: `${field} takes no "${value}" any more` };
  const [toField, toValue] = [fields.get(field) ?? field, own?.get(value) ?? value];
  return toField === field && toValue === value
    ? same
    : { row: "changed", cells: { field: toField, channel_value: toValue } };
}

/** A known refusal follows its field. */
export function carriedRefusal(cell: CellOfColumn, { fields }: Renamings): CarriedRow {
  const field = cell("field");
  if (field === "" || !fields.has(field)) return same;
  const to = fields.get(field);
  return to === undefined
    ? { row: "open", reason: `the channel has no field ${field} any more` }
    : { row: "changed", cells: { field: to } };
}

/**
 * A fill with fields and values by their new names. Names within quoted texts that are no templates stay; a value of the
 * field's own list is one where the whole quoted text is it.
 */
export function carriedFill(
  fill: string,
  field: string,
  { fields, values }: Renamings,
  attributes: ReadonlySet<string>,
): string {
  const own = values.get(field);
  const renamedValue = (text: string): string => {
    const to = own?.get(text.slice(1, -1));
    return to === undefined ? text : `"${to}"`;
  };
  // A name that the catalogue has, too, is the catalogue's.
  const renamedName = (name: string): string => (attributes.has(name) ? name : (fields.get(name) ?? name));
  return fill.replace(/"(?:[^"\\]|\\.)*"|[a-z][a-z0-9_]*/g, (piece) => {
    if (!piece.startsWith('"')) return renamedName(piece);
    if (!piece.includes("{")) return renamedValue(piece);
    return piece.replace(/\{[^}]*\}/g, (part) => part.replace(/[a-z][a-z0-9_]*/g, renamedName));
  });
}
