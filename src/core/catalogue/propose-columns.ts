import { fold } from "../values/text.js";
import { attributeForColumn, attributeKind, isAttributeName } from "./vocabulary.js";

/** Which columns a source would read an attribute from; several where the attribute is a list. */
export interface ColumnProposal {
  readonly attribute: string;
  readonly columns: readonly string[];
  /** Whether the attribute is one of the vocabulary's, or the column's own name. */
  readonly known: boolean;
}

/** A user's own attribute for a column that means none of ours: `Art. colour-no` becomes `art_colour_no`. */
const ownAttribute = (column: string): string => {
  const name = fold(column)
    .normalize("NFKD")
    .replace(/[^a-z0-9]+/g, "_")
    .replace(/^_+|_+$/g, "");
  return /^[a-z]/.test(name) ? name : `column_${name}`;
};

const meaning = (column: string): { readonly attribute: string; readonly known: boolean } => {
  const folded = fold(column);
  const exact = attributeForColumn(folded);
  if (exact !== undefined) return { attribute: exact, known: true };
  const unnumbered = attributeForColumn(folded.replace(/ ?\d{1,2}$/, ""));
  if (unnumbered !== undefined && attributeKind(unnumbered).list)
    return { attribute: unnumbered, known: true };
  return isAttributeName(column)
    ? { attribute: column, known: false }
    : { attribute: ownAttribute(column), known: false };
};

/** Proposes attributes for a header by the names of its columns; every named column is kept. */
export const proposeColumns = (header: readonly string[]): readonly ColumnProposal[] => {
  const found = new Map<string, { columns: string[]; known: boolean }>();
  for (const column of header) {
    if (column === "") continue;
    const { attribute, known } = meaning(column);
    const taken = found.get(attribute);
    if (taken === undefined) found.set(attribute, { columns: [column], known });
    else if (attributeKind(attribute).list) taken.columns.push(column);
    else {
      // A second column of the same meaning is kept under its own name, for the person to decide.
      let own = ownAttribute(column);
      while (found.has(own) || own === attribute) own = `${own}_2`;
      found.set(own, { columns: [column], known: false });
    }
  }
  return [...found].map(([attribute, { columns, known }]) => ({ attribute, columns, known }));
};
