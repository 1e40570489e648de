/**
 * The layouts as data: what a file of each format shows, and how. One type a format; what a format does with it stands
 * in `layout-formats/`.
 */
import type { PurposeName } from "./purpose-names.js";
import type { Field } from "./field.js";

/** A piece of a value: the number or the currency of a price, the number or the unit of a measure. */
export type ValuePart = "whole" | "amount" | "currency" | "unit";

/** One column or element of a file. */
export interface LayoutColumn {
  readonly name: string;
  readonly field: Field;
  readonly part: ValuePart;
  /** How a list's values stand in one cell; undefined: the layout repeats the element, or joins with its own mark. */
  readonly joinedBy: string | undefined;
  /** The one value of a list that it shows, from 0, where the list stands in columns side by side. */
  readonly item?: number;
  /** The letter of its column in a workbook of the channel's own, where its name alone does not tell. */
  readonly at?: string;
}

/** A column that says something of the row itself: what is to happen to it, or what kind of row it is. */
export interface MarkColumn {
  readonly name: string;
  /** `nothing`: a column of the channel's that stays blank. */
  readonly says: "action" | "row-kind" | "nothing";
  readonly at?: string;
}

/** How values stand in the files of a layout. */
export interface ValueStyle {
  readonly decimalMark: "." | ",";
  readonly yes: string;
  readonly no: string;
  /** `YYYY`, `MM` and `DD` in the channel's order, such as `DD/MM/YYYY`. */
  readonly date: string;
}

/** What a row shows above the rows of listings. */
export type HeadRow = "codes" | "labels" | readonly string[];

/** Bounds of one file. */
export interface LayoutLimits {
  readonly rows?: number;
  /** 10^6 bytes. */
  readonly megabytes?: number;
}

interface LayoutOf<Format extends string> {
  readonly format: Format;
  readonly name: string;
  readonly file: string;
  readonly columns: readonly LayoutColumn[];
  readonly style: ValueStyle;
  /** How text becomes bytes; workbooks know their own. */
  readonly encoding: "utf-8" | "utf-16le" | "windows-1252" | "iso-8859-1" | "iso-8859-15";
  readonly packing: "none" | "gzip" | "zip";
  /** What its files are for; undefined: for every purpose of the channel. */
  readonly purposes: readonly PurposeName[] | undefined;
  /** Bounds of its files where they are others than the channel's. */
  readonly fileLimits: LayoutLimits | undefined;
}

/** What layouts of rows have in common. */
export interface TableSettings {
  readonly cells: readonly (LayoutColumn | MarkColumn)[];
  readonly head: readonly HeadRow[];
  readonly joinedBy: string;
  /** What stands before a mark within a value; "": such values are refused. */
  readonly escape: string;
  /** What the column for the kind of a row says. */
  readonly kinds: { readonly single: string; readonly group: string; readonly member: string };
}

/** Comma-separated values. */
export interface CsvLayout extends LayoutOf<"csv">, TableSettings {
  readonly separator: string;
  readonly quote: "needed" | "always";
  readonly lineEnd: "\n" | "\r\n";
  readonly startsWithMark: boolean;
  /** What becomes of a cell that a spreadsheet would take for a formula. */
  readonly formulas: "keep" | "apostrophe" | "space";
}

/** Tab-separated values. */
export interface TsvLayout extends LayoutOf<"tsv">, TableSettings {}

/** A workbook of the channel's own that is filled in place. */
export interface ChannelBook {
  /** Its file, in the definition's folder. */
  readonly file: string;
  readonly sheet: string;
  /** The row with its columns' names, and the first one for listings; from 1. */
  readonly headerRow: number;
  readonly firstRow: number;
  /** Rows from there on that hold the channel's examples, which no listing is. */
  readonly examples: number;
}

/** A workbook of its own for each branch of the channel's tree, or one for all. */
export interface XlsxLayout extends LayoutOf<"xlsx">, TableSettings {
  readonly sheet: string;
  /** The folder with the channel's own workbooks, one a branch, that are filled in place; "": they are written new. */
  readonly templates: string;
  /** The row of a template with its columns' names, from 1. */
  readonly headerRow: number;
  /** Workbooks by the code of the branch that each is for; `*` for all. They win over `templates`. */
  readonly books: Readonly<Record<string, ChannelBook>>;
  readonly byBranch: boolean;
  readonly rulesAsNotes: boolean;
  readonly dropDowns: boolean;
}

/** XML of the channel's own. */
export interface XmlLayout extends LayoutOf<"xml"> {
  readonly namespace: string;
  readonly root: string;
  readonly group: string;
  readonly member: string;
  /** The element of one value in a list, by the list's column. */
  readonly lists: Readonly<Record<string, string>>;
  /** Where a column stands in its row's element, where not under its own name: `parcel/weight`, `price/@currency`. */
  readonly paths: Readonly<Record<string, string>>;
  /** The attribute of a row's element that says what is to happen to it; "": none. */
  readonly actionAttribute: string;
}

/** A feed: RSS 2.0 or Atom. */
export interface FeedLayout extends LayoutOf<"rss" | "atom"> {
  readonly prefix: string;
  readonly namespace: string;
  /** Fields shown in the standard elements of an item or entry. */
  readonly item: {
    readonly title: Field;
    readonly link: Field;
    readonly description: Field;
    readonly guid: Field;
  };
}

/** JSON or JSON Lines. */
export interface JsonLayout extends LayoutOf<"json" | "jsonl"> {
  /** The member of the outermost object that holds the listings; "": they are a list by themselves. */
  readonly root: string;
  /** Whether amounts are JSON's numbers; texts keep the zeros at their ends. */
  readonly hasNumbers: boolean;
}

/** schema.org as JSON-LD: groups hold their members, prices stand in an offer. */
export interface JsonLdLayout extends LayoutOf<"jsonld"> {
  readonly context: string;
  readonly groupType: string;
  readonly memberType: string;
  readonly members: string;
  readonly groupName: Field | undefined;
  /** Fields that belong to the offer. */
  readonly offer: readonly Field[];
  /** The list price: a price specification of its own within the offer. */
  readonly listPrice: Field | undefined;
  /** What the offer's price is for, such as 340 g: shown with the price in a specification of its own. */
  readonly priceFor: Field | undefined;
  /** The group of people that a thing is for: fields of its audience. */
  readonly audience: readonly Field[];
  /** Fields of a further type that a product is where it has them: a book's author. */
  readonly also: Readonly<Record<string, readonly Field[]>>;
}

/** What a file of the channel shows, and how: one of these by its format. */
export type LayoutDefinition =
  CsvLayout | TsvLayout | XlsxLayout | XmlLayout | FeedLayout | JsonLayout | JsonLdLayout;
