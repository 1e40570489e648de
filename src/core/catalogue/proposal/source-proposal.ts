/** How one attribute would be read, with what speaks for it. */
export interface ProposedAttribute {
  readonly attribute: string;
  /** The expression over columns, as the source file would have it. */
  readonly expression: string;
  readonly columns: readonly string[];
  /** 0 to 1: how sure it is that this attribute is meant. */
  readonly confidence: number;
  readonly samples: readonly string[];
  /** Whether the attribute is one of the vocabulary's, or made from the column's own name. */
  readonly known: boolean;
}

export interface ProposedPair {
  readonly name: string;
  readonly value: string;
}

export type ProposedGroups =
  | { readonly layout: "rows" }
  | { readonly layout: "first-row"; readonly shared: readonly string[] }
  | { readonly layout: "own-row"; readonly when: string };

/** A whole source file as it would be written for a file that nobody has described yet. */
export interface SourceProposal {
  readonly attributes: readonly ProposedAttribute[];
  readonly units: Readonly<Record<string, string>>;
  readonly currency: string | undefined;
  readonly listSeparator: string | undefined;
  readonly keys: readonly string[];
  readonly mode: "update" | "both";
  readonly groups: ProposedGroups;
  readonly furtherRows: readonly string[];
  /** Pairs of columns with the name and the value of what members differ in. */
  readonly options: readonly ProposedPair[];
  /** Pairs of columns with the name and the value of any attribute. */
  readonly pairs: readonly ProposedPair[];
}

/** What the first rows of a file show. */
export interface FileSample {
  readonly header: readonly string[];
  readonly rows: readonly (readonly string[])[];
}
