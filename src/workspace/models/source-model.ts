/** `sources/NAME.yaml`, as class-validator checks it. */
import { Transform, Type } from "class-transformer";
import {
  Allow,
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsIn,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  Min,
  ValidateNested,
} from "class-validator";
import { attributeName as attribute } from "../../core/catalogue/vocabulary.js";
import { formats, type Format } from "../../formats/table-stream.js";
import { encodings, type Encoding } from "../../formats/text-stream.js";
import {
  AreAttributes,
  AreChannelColumns,
  AreFurtherRows,
  IsKeyWriting,
  FreeNames,
  AreCurrencies,
  AreUnits,
  IsSheet,
  YesOrNo,
} from "./rules.js";

const asList = ({ value }: { value: unknown }): unknown => (typeof value === "string" ? [value] : value);

const layouts = ["rows", "first-row", "own-row"] as const;

/** How groups appear in a file. */
export class GroupsModel {
  @IsIn(layouts, { message: `is one of ${layouts.join(", ")}` })
  layout!: (typeof layouts)[number];

  /** Attributes that a group's first row carries for all its members. */
  @IsOptional()
  @IsArray({ message: "is a list of attributes" })
  @Matches(attribute, { each: true, message: "is a list of attributes" })
  shared?: string[];

  // An expression: read from the file as written, and checked as such.
  @Allow()
  when?: unknown;
}

/** Two columns of which one names an attribute and the other holds its value. */
export class PairModel {
  @IsString({ message: "is the column with the attribute's name" })
  @Length(1, 500, { message: "is the column with the attribute's name" })
  name!: string;

  @IsString({ message: "is the column with the value" })
  @Length(1, 500, { message: "is the column with the value" })
  value!: string;

  /** Attributes for names that stand in the cells: `Length: length`. */
  @IsOptional()
  @IsObject({ message: "gives names that stand in the column the attributes that they mean" })
  @AreAttributes()
  @FreeNames()
  names?: Record<string, string>;
}

/** Rows of one product that may stand anywhere, with what they add to, and by what they are ordered. */
export interface GatheredRows {
  readonly add: string[];
  // An expression: read from the file as written, and checked as such.
  readonly order_by?: unknown;
}

/** `sources/NAME.yaml`: how one kind of incoming file is read. */
export class SourceModel {
  @Matches(/^[a-z0-9][a-z0-9-]*$/, { message: "names a layer of lexicant.yaml" })
  layer!: string;

  /** Files that this source reads, by their names. */
  @IsOptional()
  @Transform(asList)
  @IsArray({ message: 'is a file name, such as "stock*.csv", or a list of them' })
  @IsString({ each: true, message: 'is a file name, such as "stock*.csv", or a list of them' })
  files?: string[];

  @IsOptional()
  @IsIn(formats, { message: `is one of ${formats.join(", ")}` })
  format?: Format;

  /** A workbook's sheet: its name, or its number from 1. */
  @IsOptional()
  @IsSheet()
  sheet?: string | number;

  @IsOptional()
  @IsInt({ message: "is the number of the row with the columns' names" })
  @Min(1, { message: "counts from 1" })
  @Max(10_000, { message: "is at most 10,000" })
  header_row?: number;

  /** Where the records of XML and JSON are: an element, or the key of a list. */
  @IsOptional()
  @IsString({ message: "is the element of one record, or the key of their list" })
  records?: string;

  /** Attributes by which a product is found, tried in order. */
  @IsOptional()
  @Transform(asList)
  @IsArray({ message: "is an attribute, or a list of attributes tried in order" })
  @ArrayMinSize(1, { message: "names at least one attribute" })
  @ArrayMaxSize(5, { message: "names at most five attributes" })
  @Matches(attribute, { each: true, message: "is an attribute, or a list of attributes tried in order" })
  key?: string[];

  @IsOptional()
  @IsIn(["add", "update", "both"], { message: "is one of add, update, both" })
  mode?: "add" | "update" | "both";

  /** Whether keys are also written to the products that were found by them: always, or where they have none. */
  @IsOptional()
  @IsKeyWriting()
  write_keys?: boolean | "where-blank";

  /** Whether each delivery replaces all that the layer says. */
  @IsOptional()
  @YesOrNo()
  replaces?: boolean;

  // An expression over columns: rows for which it does not hold are passed over.
  @Allow()
  take?: unknown;

  @IsOptional()
  @IsIn(encodings, { message: `is one of ${encodings.join(", ")}` })
  encoding?: Encoding;

  @IsOptional()
  @IsString({ message: "is one character in quotes" })
  @Length(1, 1, { message: "is one character in quotes" })
  delimiter?: string;

  @IsOptional()
  @IsIn([".", ","], { message: 'is "." or ","' })
  decimal_mark?: "." | ",";

  /** Which number of 03/04/2026 is the day. */
  @IsOptional()
  @IsIn(["dmy", "mdy"], { message: "is dmy (day first) or mdy (month first)" })
  date_order?: "dmy" | "mdy";

  /** The currency of bare numbers, and further ones that the file has. */
  @IsOptional()
  @AreCurrencies()
  currency?: string[];

  @IsOptional()
  @AreUnits()
  @FreeNames()
  units?: Record<string, string>;

  /** Where a cell holds several values, what stands between them. */
  @IsOptional()
  @IsString({ message: "is a text in quotes" })
  @Length(1, 5, { message: "has 1 to 5 characters" })
  list_separator?: string;

  /** A cell with this word says "none" on purpose. */
  @IsOptional()
  @IsString({ message: "is a word in quotes" })
  clear_word?: string;

  @IsOptional()
  @IsObject({ message: "says how groups appear: layout, and shared or when" })
  @ValidateNested()
  @Type(() => GroupsModel)
  groups?: GroupsModel;

  /** Attributes to which further rows of the same product add: rows beside each other, or gathered from anywhere and ordered. */
  @IsOptional()
  @AreFurtherRows()
  further_rows?: string[] | GatheredRows;

  /** The column that says the language of a row's texts. */
  @IsOptional()
  @IsString({ message: "is the column that says the language of a row's texts" })
  language_from?: string;

  /** The column that says the currency of a row's amounts. */
  @IsOptional()
  @IsString({ message: "is the column that says the currency of a row's amounts" })
  currency_from?: string;

  /** Pairs of columns: what members of a group differ in, and its value. */
  @IsOptional()
  @IsArray({ message: "is a list of name and value columns" })
  @ValidateNested({ each: true })
  @Type(() => PairModel)
  options?: PairModel[];

  /** Pairs of columns: an attribute's name and its value. */
  @IsOptional()
  @IsArray({ message: "is a list of name and value columns" })
  @ValidateNested({ each: true })
  @Type(() => PairModel)
  pairs?: PairModel[];

  @IsObject({
    message: "gives each attribute the column, or the expression over columns, that it is read from",
  })
  @FreeNames()
  columns!: Record<string, unknown>;

  /** The same by channel, for what that channel alone is to see. */
  @IsOptional()
  @AreChannelColumns()
  @FreeNames()
  channels?: Record<string, Record<string, unknown>>;
}
