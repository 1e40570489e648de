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
  /** What kind an attribute of the shop's own is, where its values show that it is no text. */
  readonly ownKind?: OwnKind;
}

/** Kinds of attributes of a shop's own that values show. */
export type OwnKind = "money" | "number" | "date" | "yes-no";

/** A column that names attributes, and the one with their values. */
export interface ProposedPair {
  readonly name: string;
  readonly value: string;
}

/** How groups stand in the file. */
export type ProposedGroups =
  | { readonly layout: "rows" }
  | { readonly layout: "first-row"; readonly shared: readonly string[] }
  | { readonly layout: "own-row"; readonly when: string };

/** How rows of one product that stand anywhere in a file belong together. */
export interface RowStructure {
  readonly languageFrom: string | undefined;
  readonly currencyFrom: string | undefined;
  /** The attributes that further rows add to; none where each product has one row. */
  readonly gathered: readonly string[];
  readonly orderBy: string | undefined;
  /** Columns in which rows of one product differ, though a product has one value of the kind. */
  readonly apart: readonly string[];
}

/** A whole source file as it would be written for a file that nobody has described yet. */
export interface SourceProposal {
  readonly attributes: readonly ProposedAttribute[];
  readonly units: Readonly<Record<string, string>>;
  readonly currency: string | undefined;
  readonly listSeparator: string | undefined;
  /** Columns that only help people to read the list. */
  readonly leftOut: readonly string[];
  /** The path of one record, in formats without rows. */
  readonly records?: string | undefined;
  /** The workbook's sheet, where it has several. */
  readonly sheet?: string | undefined;
  /** Currencies beside the first, where a column of the file has several. */
  readonly currencies: readonly string[];
  /** Empty where no column can be the key. */
  readonly keys: readonly string[];
  /** Where there is no key: the columns that come nearest. */
  readonly nearKeys: readonly NearKey[];
  readonly mode: "update" | "both";
  /** The share of rows whose key the catalogue knows; undefined where it has no products yet. */
  readonly matched: number | undefined;
  readonly groups: ProposedGroups;
  readonly furtherRows: readonly string[];
  /** Rows of one product that stand anywhere, and what tells them apart. */
  readonly rows: RowStructure;
  /** Pairs of columns with the name and the value of what members differ in. */
  readonly options: readonly ProposedPair[];
  /** Pairs of columns with the name and the value of any attribute. */
  readonly pairs: readonly ProposedPair[];
  /** What it says to single channels, where columns name one. */
  readonly channels?: readonly {
    readonly channel: string;
    readonly attributes: readonly ProposedAttribute[];
  }[];
}

/** What the first rows of a file show. */
export interface FileSample {
  readonly header: readonly string[];
  readonly rows: readonly (readonly string[])[];
  /** What each column's name says, where the header has paths. */
  readonly labels?: readonly string[];
  /** Pairs of names and values that the structure itself shows. */
  readonly pairs?: readonly ProposedPair[];
  /** The currency that the file states for all its amounts. */
  readonly currency?: string | undefined;
  /** What of each column's values the catalogue knows; undefined where it has no products yet. */
  readonly known?: readonly KnownShares[];
  /** What the words of each column tell, where that was asked. */
  readonly told?: readonly ToldShares[];
}

/** Shares of a column's different values, from 0 to 1, that are words for a colour or a material. */
export interface ToldShares {
  readonly color: number;
  readonly material: number;
}

/** Shares of a column's different values, from 0 to 1, that products of the catalogue have under an attribute. */
export type KnownShares = Readonly<Partial<Record<KnownAttribute, number>>>;

/** Attributes by whose values a file is known to be of goods that the catalogue has. */
export const knownAttributes = ["sku", "gtin", "mpn", "brand", "manufacturer", "category"] as const;

export type KnownAttribute = (typeof knownAttributes)[number];

/** A column that comes near to being a key, and why it is none. */
export interface NearKey {
  readonly column: string;
  readonly because: "repeats" | "blanks" | "long";
}
