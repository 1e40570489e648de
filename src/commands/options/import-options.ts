import { IsIn, IsOptional, IsString, Length, Matches } from "class-validator";
import { encodings, type Encoding } from "../../formats/text-stream.js";

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
  @IsIn(encodings, { message: `is one of ${encodings.join(", ")}` })
  encoding?: Encoding;
}
