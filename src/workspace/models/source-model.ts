import { IsIn, IsObject, IsOptional, IsString, Length, Matches } from "class-validator";
import { encodings, type Encoding } from "../../formats/text-stream.js";
import { AreUnits, IsCurrencyCode } from "./rules.js";

/** `sources/NAME.yaml`: how one kind of incoming file is read. */
export class SourceModel {
  @Matches(/^[a-z0-9][a-z0-9-]*$/, { message: "names a layer of lexicant.yaml" })
  layer!: string;

  @IsOptional()
  @IsIn(["sku"], { message: "products are matched by sku" })
  key?: "sku";

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

  @IsOptional()
  @IsCurrencyCode()
  currency?: string;

  @IsOptional()
  @AreUnits()
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

  @IsObject({
    message: "gives each attribute the column, or the expression over columns, that it is read from",
  })
  columns!: Record<string, unknown>;
}
