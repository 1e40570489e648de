import { Transform } from "class-transformer";
import { IsIn, IsInt, IsOptional, IsString, Length, Matches, Min } from "class-validator";
import { formats, type Format } from "../../formats/table-stream.js";
import { encodings, type Encoding } from "../../formats/text-stream.js";

const wholeNumber = ({ value }: { value: unknown }): unknown =>
  typeof value === "string" && /^\d{1,9}$/.test(value) ? Number(value) : value;

/** Options of `lexicant import`. */
export class ImportOptions {
  @IsOptional()
  @Matches(/^[a-z0-9][a-z0-9-]*$/, { message: "is a source's name: small letters, digits and dashes" })
  source?: string;

  @IsOptional()
  @IsString({ message: "is a column's name" })
  @Length(1, 200, { message: "is a column's name" })
  sku?: string;

  @IsOptional()
  @IsIn(formats, { message: `is one of ${formats.join(", ")}` })
  format?: Format;

  @IsOptional()
  @IsIn(encodings, { message: `is one of ${encodings.join(", ")}` })
  encoding?: Encoding;

  @IsOptional()
  @Transform(wholeNumber)
  sheet?: string | number;

  @IsOptional()
  @Transform(wholeNumber)
  @IsInt({ message: "is the number of the row with the columns' names" })
  @Min(1, { message: "counts from 1" })
  headerRow?: number;
}
